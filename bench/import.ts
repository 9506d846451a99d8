import { bringInQueue } from '../server/lists';
import { keepFile } from '../server/lists/bring-in/store';
import { readForList } from '../server/lists/bring-in/read';
import { takeBroughtIn } from '../server/lists/bring-in/acts';
import { runAct } from '../server/acts';
import { itemTable } from '../server/catalogue/tables';
import type { Database } from '../server/db';
import { RIGHTS } from '@api/access';
import { pino } from 'pino';
import { randomUUID } from 'node:crypto';
import type { Figure } from './measure';
import { WORK_DATE, type Stage } from './stage';

const LOG = pino({ level: 'silent' });
/** Rows of one bare statement. */
const BARE = 500;

/** Items from a CSV, read, looked at and taken as people do, against bare inserts of the same rows, many at once. */
export async function benchImport(stage: Stage, full: boolean): Promise<Figure[]> {
  const { database, masters } = stage;
  const many = full ? 100_000 : 10_000;
  const doer = {
    companyId: masters.companyId,
    personId: masters.people.get('salmah')!,
    rights: RIGHTS,
    workDate: WORK_DATE,
    origin: 'bench',
  };
  const [tax] = await database.rows<{ id: number }>('SELECT id FROM tax_code WHERE company_id = ? LIMIT 1', [
    doer.companyId,
  ]);
  const ours: number[] = [];
  const theirs: number[] = [];
  for (let run = 0; run < 3; run += 1) {
    const rows = Array.from({ length: many }, (_, at) => ({
      number: `I${run}-${at}`,
      name: `Part ${at}`,
      price: `${at % 900}.5`,
    }));
    const csv = [
      'Number,Name,Unit,List price',
      ...rows.map((row) => `${row.number},${row.name},piece,${row.price}`),
    ].join('\n');
    let from = performance.now();
    const read = await readForList('items.csv', Buffer.from(csv), 'items');
    if (Array.isArray(read)) throw new Error(JSON.stringify(read));
    const id = await keepFile(database, doer, 'items.csv', read);
    await settled(database, id);
    const taken = await runAct(database, takeBroughtIn.asked({ id, goodOnly: false }), doer, randomUUID());
    if (!taken.ok) throw new Error(JSON.stringify(taken.refusals));
    await settled(database, id);
    ours.push((many / (performance.now() - from)) * 1000);
    from = performance.now();
    for (let at = 0; at < many; at += BARE) {
      await database.transaction((tx) =>
        tx.insertPlain(
          itemTable,
          rows.slice(at, at + BARE).map((row) => ({
            companyId: doer.companyId,
            number: `B${row.number}`,
            name: row.name,
            unit: 'piece',
            listPrice: row.price,
            taxCodeId: tax!.id,
            route: 'stock' as const,
            stocked: true,
          })),
        ),
      );
    }
    theirs.push((many / (performance.now() - from)) * 1000);
  }
  const [there] = await database.rows<{ n: number }>("SELECT COUNT(*) AS n FROM item WHERE number LIKE 'I_-%'");
  if (there!.n !== 3 * many) throw new Error(`${there!.n} of ${3 * many} items are there`);
  const mean = (values: number[]) => (values.reduce((sum, value) => sum + value, 0) / values.length).toFixed(0);
  return [
    {
      name: `import, ${many} items from CSV`,
      ours: `${mean(ours)}/s`,
      theirs: `${mean(theirs)}/s`,
      ratios: ours.map((rate, index) => rate / theirs[index]!),
      aim: 'at least 0.33',
    },
  ];
}

/** Works at a file until nothing is left of it. */
async function settled(database: Database, id: number): Promise<void> {
  bringInQueue(database, LOG).poke();
  for (;;) {
    const [file] = await database.rows<{ state: string }>('SELECT state FROM bring_in WHERE id = ?', [id]);
    if (file!.state === 'ready' || file!.state === 'taken') return;
    if (file!.state === 'stopped') throw new Error('the file was stopped');
    await new Promise((resolve) => setTimeout(resolve, 20));
  }
}
