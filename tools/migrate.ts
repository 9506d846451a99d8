import { connect, MIGRATIONS } from '../server/db';
import { migrate } from '../server/db/migrate';
import { newFirstWord } from '../server/setup';

/** Brings the database of DATABASE_URL up to this program: by its owner, before the servers of this program are begun. */
async function main(): Promise<void> {
  const url = process.env['DATABASE_URL'];
  if (!url) throw new Error('Set DATABASE_URL to the database, by the user who owns it.');
  const applied = await migrate(url, MIGRATIONS);
  const database = connect(url, 1);
  const firstWord = await newFirstWord(database).finally(() => database.close());
  if (firstWord) console.log(`Nobody has begun here yet; the first visitor is asked for ${firstWord}.`);
  console.log(applied.length > 0 ? `Brought up to ${applied.at(-1)}.` : 'It is as this program needs it.');
}

main().catch((error: Error) => {
  console.error(error.message);
  process.exitCode = 1;
});
