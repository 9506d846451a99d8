import { format } from 'date-fns';
import { CHANDRA, HAFIZ, isEmpty, layDemo, PEOPLE, SELLERS } from '../demo';
import { connect, MIGRATIONS } from '../server/db';
import { migrate } from '../server/db/migrate';
import { newFirstWord } from '../server/setup';

export interface PrepareOptions {
  url: string;
  /** Fixed work date, or null for around today. */
  workDate: string | null;
  seed: number;
  moreOrders: number;
  demo: boolean;
  say(line: string): void;
}

/** Who can sign in to the demo. */
interface SignIn {
  signIn: string;
  password: string;
  role: string;
}

/**
 * Migrates, and lays the demo where the database is empty and a demo is wanted; where it stays empty, with a word for
 * its first visitor. // U1
 */
export async function prepare(
  options: PrepareOptions,
): Promise<{ signIns: readonly SignIn[] | null; firstWord: string | null }> {
  const applied = await migrate(options.url, MIGRATIONS);
  if (applied.length > 0) options.say(`Database brought up to ${applied.at(-1)}.`);
  const database = connect(options.url, 4);
  try {
    if (options.demo && (await isEmpty(database))) {
      options.say('Laying the demo …');
      await layDemo(database, {
        seed: options.seed,
        moreOrders: options.moreOrders,
        workDate: options.workDate ?? format(new Date(), 'yyyy-MM-dd'),
        fixed: options.workDate !== null,
      });
    }
    const [demo] = await database.rows('SELECT id FROM company WHERE demo = TRUE LIMIT 1');
    return {
      signIns: demo ? [...PEOPLE, HAFIZ, ...SELLERS, CHANDRA] : null,
      firstWord: await newFirstWord(database),
    };
  } finally {
    await database.close();
  }
}
