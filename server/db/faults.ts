/** What a database error means for the one who meets it. */
export type DatabaseFault =
  /** Somebody else was faster: the same work may succeed when begun again. */
  | 'again'
  /** A lock was waited for in vain. */
  | 'wait'
  /** A key that is there already: where a twin was written meanwhile, loading again sees it. */
  | 'twin'
  /** A budget is used up meanwhile: begun again, the work sees what is left of it. */
  | 'spent'
  /** The database has no room to write; nothing was changed, and it goes on when there is some again. */
  | 'full'
  /** The database is not there, or went away. */
  | 'away'
  /** Not a database error, or one that is our own mistake. */
  | 'none';

const AGAIN = new Set([
  1213, // deadlock; also a commit refused by another node of a cluster
  1020, // record changed since last read
  1242, // the mark of a transaction is gone: a node undid it behind our back
]);

/** No space left: said by the database's own code, by the file's, or as a table that cannot grow. */
const FULL = new Set([3, 28, 1021, 1026, 1114]);

const LOCK_WAIT = 1205;
const DUPLICATE_KEY = 1062;
/** A rule of a table (`CHECK`) that a row would break. */
const CHECK_FAILED = 4025;

const AWAY_NUMBERS = new Set([1040, 1047, 1053, 1077, 1079, 1152, 1158, 1159, 1160, 1161, 1927, 4031]);

const AWAY_CODES = new Set([
  'ECONNREFUSED',
  'ECONNRESET',
  'EPIPE',
  'ETIMEDOUT',
  'ENOENT',
  'PROTOCOL_CONNECTION_LOST',
  'PROTOCOL_SEQUENCE_TIMEOUT',
]);

interface DriverError {
  errno?: number;
  code?: string;
  fatal?: boolean;
  message?: string;
}

export function faultOf(error: unknown): DatabaseFault {
  const { errno, code, fatal, message } = (error ?? {}) as DriverError;
  if (errno === LOCK_WAIT) return 'wait';
  if (errno !== undefined && FULL.has(errno)) return 'full';
  if (errno === DUPLICATE_KEY) return 'twin';
  if (errno === CHECK_FAILED && /promotion_budget/.test(message ?? '')) return 'spent';
  if (errno !== undefined && AGAIN.has(errno)) return 'again';
  if (errno !== undefined && AWAY_NUMBERS.has(errno)) return 'away';
  if (code !== undefined && AWAY_CODES.has(code)) return 'away';
  if (fatal === true) return 'away';
  if (/closed state|Pool is closed|Connection lost/.test(message ?? '')) return 'away';
  return 'none';
}
