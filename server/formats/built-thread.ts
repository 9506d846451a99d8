import { existsSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';

/** A built thread: beside the built server, or where a build leaves it. */
export function builtThread(name: string): string {
  const beside = join(dirname(process.argv[1] ?? ''), name);
  return existsSync(beside) ? beside : resolve('dist', 'server', name);
}
