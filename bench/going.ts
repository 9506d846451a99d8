import { systemClock } from '../server/clock';
import { lookForShort } from '../server/going-out';
import { against, type View } from './lists';
import { median, type Figure } from './measure';
import { layOpenLines } from './open-lines';
import { Stage, WORK_DATE } from './stage';

const SMALL = 10_000;
/** Open lines of each item. */
const OF_ITEM = 10;

const VIEWS: readonly View[] = [
  { name: 'to go out, first page', path: '/api/going-out?until=2099-12-31' },
  {
    name: 'to go out, deep page',
    path: '/api/going-out?until=2099-12-31',
    deep: { of: 'sales_order_line', share: 0.5 },
  },
  { name: 'to go out, today', path: `/api/going-out?until=${WORK_DATE}` },
];

/** The sheet of what goes out with a million open lines against the same with `SMALL`; then what is short, after one act. */
export async function benchGoing(root: string, full: boolean, print: (figures: Figure[]) => void): Promise<void> {
  const stageOf = (lines: number) =>
    Stage.make(root, (url, companyId) =>
      layOpenLines(url, companyId, { items: lines / OF_ITEM, lines, purchases: lines / 20 }),
    );
  const small = await stageOf(SMALL);
  const large = await stageOf(full ? 1_000_000 : 100_000);
  try {
    for (const view of VIEWS) print([await against(view, small, large, full ? 100 : 30)]);
    print([await benchShort(small, large)]);
  } finally {
    await small.end();
    await large.end();
  }
}

/** What is short looked for again after an order of one line was touched: of its item alone, however many there are. */
async function benchShort(small: Stage, large: Stage): Promise<Figure> {
  const look = async ({ database, masters }: Stage): Promise<number> => {
    const [{ id }] = (await database.rows<{ id: number }>('SELECT MAX(id) AS id FROM audit', [])) as [{ id: number }];
    await database.run('UPDATE short_look SET audit_id = ?', [id - 1]);
    const begun = performance.now();
    await lookForShort(database, systemClock, masters.companyId, WORK_DATE);
    return performance.now() - begun;
  };
  for (const stage of [small, large]) {
    // The first look of a day looks at all; then an act touches one order.
    const begun = performance.now();
    await lookForShort(stage.database, systemClock, stage.masters.companyId, WORK_DATE);
    console.log(`  all of it: ${((performance.now() - begun) / 1000).toFixed(1)} s`);
    await stage.database.run(
      `INSERT INTO audit (company_id, person_id, act, origin, input, documents) VALUES (?, 1, 'saveOrder', 'bench', '{}', '[]')`,
      [stage.masters.companyId],
    );
    await stage.database.run(
      `INSERT INTO audit_document (company_id, audit_id, kind, document_id)
       SELECT ?, (SELECT MAX(id) FROM audit), 'SO', MIN(order_id) FROM sales_order_line WHERE company_id = ? AND owed = TRUE`,
      [stage.masters.companyId, stage.masters.companyId],
    );
  }
  const ours: number[] = [];
  const theirs: number[] = [];
  for (let run = 0; run < 25; run += 1) {
    theirs.push(await look(small));
    ours.push(await look(large));
  }
  return {
    name: 'what is short, after an act',
    ours: `${median(ours).toFixed(2)} ms`,
    theirs: `${median(theirs).toFixed(2)} ms`,
    ratios: ours.slice(5).map((each, at) => each / theirs.slice(5)[at]!),
    aim: 'at most 1.5',
  };
}
