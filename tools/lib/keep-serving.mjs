import { fork } from 'node:child_process';

const FIRST_PAUSE_MS = 500;
const LONGEST_PAUSE_MS = 30_000;
/** One that lived this long begins with short pauses again. */
const LIVED_MS = 60_000;

/**
 * The server in a process of its own, and another one whenever it ends without being told to; rejects where the first
 * does not even begin. It gets ready while its database is, and begins once `prepared` is done. Its address, and `stop`,
 * which lets what runs finish.
 */
export async function keepServing(env, prepared = Promise.resolve()) {
  let child;
  let stopping = false;
  let pause = FIRST_PAUSE_MS;

  const begin = () =>
    new Promise((resolve, reject) => {
      const begun = performance.now();
      const own = fork('dist/server/main.js', [], {
        env: { ...env, BEGIN_WHEN_TOLD: 'yes' },
        execArgv: [],
        stdio: 'inherit',
      });
      child = own;
      prepared.then(
        () => own.connected && own.send('begin'),
        (error) => {
          own.kill();
          reject(error);
        },
      );
      child.once('message', ({ address }) => resolve(address));
      child.once('exit', (code, signal) => {
        reject(new Error('Kampong could not be started.'));
        if (performance.now() - begun > LIVED_MS) pause = FIRST_PAUSE_MS;
        again(code ?? signal);
      });
    });

  let address;
  const again = (ended) => {
    if (stopping || !address) return;
    console.error(`Kampong ended by itself (${ended}); it is started again.`);
    setTimeout(() => stopping || begin().catch(() => undefined), pause);
    pause = Math.min(pause * 2, LONGEST_PAUSE_MS);
  };

  address = await begin();
  return {
    address,
    stop: () =>
      new Promise((resolve) => {
        stopping = true;
        if (child.exitCode !== null || child.signalCode !== null) return resolve();
        child.once('exit', () => resolve());
        child.kill('SIGTERM');
      }),
  };
}
