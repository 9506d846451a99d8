import { RateLimiterMySQL, RateLimiterRes } from 'rate-limiter-flexible';
import type { Database } from '../db';
import type { Attempts } from '../room';

/** Limits failed sign-ins by name and by address; kept in the database, so every server process counts alike. */
const WINDOW_SECONDS = 900;

export function attemptsOn(database: Database): Attempts {
  const limiter = (points: number, keyPrefix: string) =>
    new RateLimiterMySQL({
      storeClient: database.pool,
      storeType: 'mysql2',
      dbName: (database.pool as unknown as { config: { connectionConfig: { database: string } } }).config
        .connectionConfig.database,
      tableName: 'sign_in_attempt',
      tableCreated: true,
      keyPrefix,
      points,
      duration: WINDOW_SECONDS,
    });
  const byName = limiter(8, 'name');
  const byAddress = limiter(60, 'address');
  const waitOf = (state: RateLimiterRes | null, points: number) =>
    state && state.consumedPoints >= points ? Math.ceil(state.msBeforeNext / 60_000) : 0;
  const consume = (limit: RateLimiterMySQL, key: string) =>
    limit.consume(key).then(
      () => undefined,
      (refused: unknown) => {
        if (!(refused instanceof RateLimiterRes)) throw refused;
      },
    );
  return {
    async minutesToWait(name, address) {
      const [ofName, ofAddress] = await Promise.all([byName.get(name), byAddress.get(address)]);
      return Math.max(waitOf(ofName, 8), waitOf(ofAddress, 60));
    },
    async failed(name, address) {
      await Promise.all([consume(byName, name), consume(byAddress, address)]);
    },
    async succeeded(name) {
      await byName.delete(name);
    },
  };
}
