import { connect } from '../server/db';
import { verifyAndTell } from '../server/verify';

/** Recomputes everything from the documents and says what differs. // G5 */
async function main(): Promise<void> {
  const url = process.env['DATABASE_URL'];
  if (!url) throw new Error('Set DATABASE_URL, or run it as npm run verify.');
  const database = connect(url, 4);
  try {
    const differences = await verifyAndTell(database);
    for (const difference of differences) console.log(difference);
    console.log(`${differences.length} differences`);
    process.exitCode = differences.length === 0 ? 0 : 1;
  } finally {
    await database.close();
  }
}

main().catch((error: Error) => {
  console.error(error.message);
  process.exitCode = 2;
});
