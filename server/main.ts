import { pino } from 'pino';
import { readConfig } from './config';
import { serve } from './serve';

/** Configuration, database, application, listening; ends cleanly on SIGTERM and SIGINT. */
async function main(): Promise<void> {
  const config = readConfig(process.env);
  const log = pino({ level: config.LOG_LEVEL });
  const serving = await serve(config, log);
  log.info({ address: serving.address }, 'listening');
  process.send?.({ address: serving.address });
  let stopping = false;
  const stop = () => {
    if (stopping) return;
    stopping = true;
    log.info('finishing what runs');
    serving.stop().then(
      () => process.exit(0),
      (error: unknown) => {
        log.error({ err: error }, 'could not stop cleanly');
        process.exit(1);
      },
    );
  };
  process.on('SIGTERM', stop);
  process.on('SIGINT', stop);
  process.on('disconnect', stop);
}

main().catch((error: Error) => {
  process.stderr.write(`${error.message}\n`);
  process.exit(1);
});
