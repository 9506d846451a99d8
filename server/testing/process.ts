import { fork, type ChildProcess } from 'node:child_process';

/** The database by the user who serves, as `npm start` has it. */
export const servingUrl = (url: string) => url.replace('//kampong:', '//kampong_serving:');

/** The built server as a process of its own, so that it can be killed. */
export function startServer(
  url: string,
  settings: Record<string, string> = {},
): Promise<{ child: ChildProcess; address: string }> {
  return new Promise((resolve, reject) => {
    const child = fork('dist/server/main.js', [], {
      env: {
        ...process.env,
        DATABASE_URL: servingUrl(url),
        PORT: '0',
        LOG_LEVEL: 'error',
        JOBS: 'no',
        AT_ONCE_EACH: '1000',
        ...settings,
      },
      stdio: 'inherit',
    });
    child.once('message', (message) => resolve({ child, ...(message as { address: string }) }));
    child.once('exit', (code) => reject(new Error(`the server ended with ${code}`)));
  });
}

/** Kills it as a power cut would; done once it is gone. */
export function kill(child: ChildProcess): Promise<void> {
  const gone = new Promise<void>((resolve) => child.once('exit', () => resolve()));
  child.kill('SIGKILL');
  return gone;
}

/** Waits until something is so, looking again as soon as it was looked at; fails with what was waited for. */
export async function until(what: string, isSo: () => Promise<boolean> | boolean, seconds = 30): Promise<void> {
  const last = performance.now() + seconds * 1000;
  while (!(await isSo())) {
    if (performance.now() > last) throw new Error(`${what}: not within ${seconds} s`);
    await new Promise((resolve) => setTimeout(resolve, 1));
  }
}
