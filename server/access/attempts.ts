import { RateLimiterMySQL, RateLimiterRes } from 'rate-limiter-flexible';
import type { Database } from '../db';
import type { Attempts } from '../room';

/** Tries in a minute of one name from one address, or from one known device, before each further minute of them waits. */
const TRIES = 5;
const TRIES_SECONDS = 60;
/** The waits after that, in minutes: each time longer, the last one from then on; forgotten after a day. */
const WAITS = [1, 2, 4, 8, 15] as const;
const WAITS_SECONDS = 86_400;
/** Tries in a minute from one address whatever the name, and of one name whatever the address; known devices apart. */
const ADDRESS_TRIES = 60;
const NAME_TRIES = 30;

/**
 * Limits sign-ins, kept in the database, so that every server process counts alike. Every try is counted before its
 * password is looked at, so that any number of them at once are no more than were allowed; what fits is given back.
 * A name is nowhere locked: from another address, and from a device its person signed in from before, it can be tried.
 */
export function attemptsOn(database: Database): Attempts {
  const limiter = (keyPrefix: string, points: number, duration: number) =>
    new RateLimiterMySQL({
      storeClient: database,
      storeType: 'pool',
      dbName: database.name,
      tableName: 'sign_in_attempt',
      tableCreated: true,
      keyPrefix,
      points,
      duration,
    });
  const tries = limiter('try', TRIES, TRIES_SECONDS);
  const waits = limiter('wait', WAITS.length, WAITS_SECONDS);
  const ofAddress = limiter('address', ADDRESS_TRIES, TRIES_SECONDS);
  const ofName = limiter('name', NAME_TRIES, TRIES_SECONDS);

  /** Counts one more; what the limiter answered, refused or not. */
  const consume = (limit: RateLimiterMySQL, key: string) =>
    limit.consume(key).catch((refused: unknown) => {
      if (refused instanceof RateLimiterRes) return refused;
      throw refused;
    });
  const minutesOf = (state: RateLimiterRes, most: number) =>
    state.consumedPoints > most ? Math.ceil(state.msBeforeNext / 60_000) : 0;

  /** Minutes to wait by what is tried most narrowly; the first one too many lengthens the wait. */
  async function ownWait(key: string): Promise<{ minutes: number; begins: boolean }> {
    const state = await consume(tries, key);
    if (state.consumedPoints !== TRIES + 1) return { minutes: minutesOf(state, TRIES), begins: false };
    const { consumedPoints } = await consume(waits, key);
    const minutes = WAITS[Math.min(consumedPoints, WAITS.length) - 1]!;
    await tries.block(key, minutes * 60);
    return { minutes, begins: true };
  }

  const narrow = (name: string, address: string, device: string | null) =>
    device === null ? `${address} ${name}` : `device ${device}`;

  return {
    async waitFor(name, address, device) {
      const own = await ownWait(narrow(name, address, device));
      if (own.minutes > 0 || device !== null) return own;
      const [wide, named] = await Promise.all([consume(ofAddress, address), consume(ofName, name)]);
      return {
        minutes: Math.max(minutesOf(wide, ADDRESS_TRIES), minutesOf(named, NAME_TRIES)),
        begins: wide.consumedPoints === ADDRESS_TRIES + 1 || named.consumedPoints === NAME_TRIES + 1,
      };
    },
    async succeeded(name, address, device) {
      const own = narrow(name, address, device);
      await Promise.all([tries.delete(own), waits.delete(own)]);
      if (device === null) await Promise.all([ofAddress.reward(address), ofName.reward(name)]);
    },
  };
}
