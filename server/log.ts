import { pino, type Logger } from 'pino';
import type { Config } from './config';

interface Thrown {
  name?: string;
  message?: string;
  stack?: string;
  code?: string;
  errno?: number;
  sqlState?: string;
}

/**
 * An error as the log keeps it. What the database says of one of its own holds the query with its values, and the
 * values again in its sentence: of those it keeps the code and the key's name, and where it happened.
 */
export function errorOut(error: unknown): object {
  const { name, message = '', stack = '', code, errno, sqlState } = (error ?? {}) as Thrown;
  const where = stack.slice(stack.indexOf('\n    at '));
  if (sqlState === undefined && errno === undefined) return { type: name, message, stack: where, code };
  const key = /for key '([\w.]+)'/.exec(message)?.[1];
  return { type: name, code, errno, sqlState, ...(key ? { key } : {}), stack: where };
}

export function logOf({ LOG_LEVEL }: Pick<Config, 'LOG_LEVEL'>): Logger {
  return pino({ level: LOG_LEVEL, serializers: { err: errorOut } });
}
