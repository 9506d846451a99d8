import { parseArgs } from 'node:util';
import { benchGoing } from './going';
import { benchImport } from './import';
import { benchLists } from './lists';
import { printed, type Figure } from './measure';
import { benchLoad } from './load';
import { benchMemory } from './memory';
import { benchNumbers } from './numbers';
import { benchPost } from './post';
import { benchAtp, benchCtp, benchRepromise } from './promise';
import { benchRelease } from './release';
import { benchSale } from './sale';
import { benchSheet } from './sheet';
import { benchChange } from './change';
import { benchAssembleAndShip, benchFinish } from './finish';
import { benchKeys } from './keys';
import { benchShell } from './shell';
import { Stage } from './stage';
import { benchStanding } from './standing';
import { benchStart } from './start';
import { benchTakeOffer } from './take-offer';
import { benchTillKeys } from './till-keys';

interface Tools {
  startPrivateDatabase(folder: string, options: object): Promise<{ url: string; release(): Promise<void> }>;
}

/** `npm run bench [-- --scale full] [-- --only post,finish,assembleAndShip,change,takeOffer,sale,standing,import,tillKeys,keys,release,sheet,load,lists,numbers,going,atp,ctp,repromise,memory,shell,start]`: each against its floor, in turn. */
async function main(): Promise<void> {
  const { values } = parseArgs({ options: { scale: { type: 'string', default: 'small' }, only: { type: 'string' } } });
  const full = values.scale === 'full';
  const wanted = (name: string) => !values.only || values.only.split(',').includes(name);
  const { ensureBuilt } = (await import('../tools/lib/build.mjs' as string)) as { ensureBuilt(): Promise<void> };
  await ensureBuilt();
  console.log(`${'bench'.padEnd(36)} ${'ours'.padStart(14)} ${'theirs'.padStart(14)} ${'ratio'.padStart(7)}`);
  const print = (figures: Figure[]) => figures.forEach((figure) => console.log(printed(figure)));
  const staged =
    wanted('post') ||
    wanted('finish') ||
    wanted('assembleAndShip') ||
    wanted('change') ||
    wanted('takeOffer') ||
    wanted('sale') ||
    wanted('standing') ||
    wanted('import') ||
    wanted('tillKeys') ||
    wanted('keys') ||
    wanted('release') ||
    wanted('sheet') ||
    wanted('load');
  if (staged || wanted('lists') || wanted('numbers') || wanted('going') || wanted('atp') || wanted('memory')) {
    const { startPrivateDatabase } = (await import('../tools/lib/private-database.mjs' as string)) as Tools;
    const folder = `${process.env['TMPDIR'] ?? '/tmp'}/kampong-bench-${process.pid}`;
    // As safe as in use: every commit is flushed.
    const database = await startPrivateDatabase(folder, { throwAway: true });
    try {
      if (staged) {
        const stage = await Stage.make(database.url);
        try {
          if (wanted('post')) print(await benchPost(stage, full));
          if (wanted('finish')) print(await benchFinish(stage, full));
          if (wanted('assembleAndShip')) print(await benchAssembleAndShip(stage, full));
          if (wanted('change')) print(await benchChange(stage, full));
          if (wanted('takeOffer')) print(await benchTakeOffer(stage, full));
          if (wanted('import')) print(await benchImport(stage, full));
          if (wanted('standing')) print(await benchStanding(stage, full));
          if (wanted('sale')) print(await benchSale(stage, full));
          if (wanted('tillKeys')) print(await benchTillKeys(stage));
          if (wanted('keys')) print(await benchKeys(stage));
          if (wanted('release')) print(await benchRelease(stage, full));
          if (wanted('sheet')) print(await benchSheet(stage, full));
          if (wanted('load')) print(await benchLoad(stage, full));
        } finally {
          await stage.end();
        }
      }
      if (wanted('atp')) print(await benchAtp(database.url, full));
      if (wanted('memory')) print(await benchMemory(database.url, full));
      if (wanted('numbers')) await benchNumbers(database.url, full, print);
      if (wanted('going')) await benchGoing(database.url, full, print);
      if (wanted('lists')) await benchLists(database.url, full, print);
    } finally {
      await database.release();
    }
  }
  if (wanted('ctp')) print(benchCtp(full));
  if (wanted('repromise')) print(benchRepromise(full));
  if (wanted('shell')) print(await benchShell());
  if (wanted('start')) print(await benchStart());
}

main().then(
  () => process.exit(0),
  (error: Error) => {
    console.error(error.message);
    process.exit(1);
  },
);
