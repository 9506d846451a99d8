import { spawn } from 'node:child_process';

/** Runs a program with its output shown; rejects in one sentence where it fails. */
export function run(program, args, options = {}) {
  return new Promise((resolve, reject) => {
    const child = spawn(program, args, { stdio: 'inherit', ...options });
    child.once('error', (error) => reject(new Error(`${program} could not be started: ${error.message}`)));
    child.once('exit', (code, signal) =>
      code === 0 ? resolve() : reject(new Error(`${[program, ...args].join(' ')} ended with ${signal ?? code}.`)),
    );
  });
}

/** True where the program can be found. */
export async function isInstalled(program) {
  const { access, constants } = await import('node:fs/promises');
  for (const folder of [...(process.env.PATH ?? '').split(':'), '/usr/sbin', '/usr/bin']) {
    const found = await access(`${folder}/${program}`, constants.X_OK).then(
      () => true,
      () => false,
    );
    if (found) return true;
  }
  return false;
}
