import { readConfig } from './config';
import { logOf } from './log';
import { serve, type Serving } from './serve';

/** How long after its requests were cut off the process may live, whatever still runs. */
const DEADLINE_MS = 10_000;

/**
 * Configuration, database, application, listening; ends cleanly on SIGTERM and SIGINT, and with 1 where an error came
 * that nobody caught: what it left behind is unknown, so what runs is finished and another process goes on.
 */
async function main(): Promise<void> {
  // Begun beside what prepares its database, it waits to be told.
  if (process.env['BEGIN_WHEN_TOLD'] === 'yes') await new Promise((resolve) => process.once('message', resolve));
  const config = readConfig(process.env);
  const log = logOf(config);
  let serving: Serving | undefined = undefined;
  let ending = false;
  const end = (code: number) => {
    if (ending) return;
    ending = true;
    log.info('finishing what runs');
    setTimeout(() => process.exit(1), config.STOP_SECONDS * 1000 + DEADLINE_MS).unref();
    Promise.resolve(serving?.stop()).then(
      () => process.exit(code),
      (error: unknown) => {
        log.error({ err: error }, 'could not stop cleanly');
        process.exit(1);
      },
    );
  };
  process.on('uncaughtException', (error, origin) => {
    log.fatal({ err: error, origin }, 'nobody caught this; ending');
    end(1);
  });
  serving = await serve(config, log);
  log.info({ address: serving.address }, 'listening');
  process.send?.({ address: serving.address });
  for (const event of ['SIGTERM', 'SIGINT', 'disconnect']) process.on(event, () => end(0));
}

main().catch((error: Error) => {
  process.stderr.write(`${error.message}\n`);
  process.exit(1);
});
