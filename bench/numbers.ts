import { connect, type Sql } from '../server/db';
import { openSerial } from '../server/serial/reads';
import { against, type View } from './lists';
import { median, type Figure } from './measure';
import { Stage, WORK_DATE } from './stage';

const SMALL = 10_000;
/** What is in a product: so many pieces in each, so many levels down. */
const EACH = 4;
const LEVELS = 5;

const VIEWS: readonly View[] = [
  { name: 'stock, first page', path: '/api/stock?' },
  { name: 'stock, deep page', path: '/api/stock?', deep: { of: 'stock', share: 0.5 } },
  { name: 'numbers, first page', path: '/api/serials?' },
  { name: 'numbers, deep page', path: '/api/serials?', deep: { of: 'serial', share: 0.5 } },
  { name: 'numbers, at our places', path: '/api/serials?place=ours' },
];

/** As many items at our place as there are pieces with numbers of one of them; the first of them within each other. */
async function lay(url: string, companyId: number, count: number): Promise<void> {
  const database = connect(url, 2);
  await database.run(
    `INSERT INTO item (company_id, number, name, unit, list_price, tax_code_id, route, stocked)
     SELECT i.company_id, CONCAT('B', LPAD(n.seq, 7, '0')), CONCAT('Item ', n.seq), i.unit, 1, i.tax_code_id, 'stock', TRUE
       FROM item i JOIN seq_1_to_${count} n WHERE i.company_id = ? AND i.number = ?`,
    [companyId, 'PM-15'],
  );
  await database.run(
    `INSERT INTO stock (company_id, item_id, location_id, on_hand, value)
     SELECT company_id, id, 0, 5, 5 FROM item WHERE company_id = ? AND number LIKE 'B%'`,
    [companyId],
  );
  // The first of the tree is the product: each has the next so many within it, down to the last level.
  const tree = (EACH ** (LEVELS + 1) - 1) / (EACH - 1);
  await database.run(
    `INSERT INTO serial (company_id, item_id, number, place, location_id, born_kind, born_id, born_on)
     SELECT i.company_id, i.id, CONCAT('N', LPAD(n.seq, 8, '0')), IF(n.seq BETWEEN 2 AND ${tree}, 'used', 'ours'), 0, 'JR', 1, ?
       FROM item i JOIN seq_1_to_${count} n WHERE i.company_id = ? AND i.number = ?`,
    [WORK_DATE, companyId, 'PM-15'],
  );
  await database.run(
    `INSERT INTO serial_entry (company_id, serial_id, document_kind, document_id, quantity, posted_on)
     SELECT s.company_id, s.id, 'JR', 1, 1, ? FROM serial s WHERE s.company_id = ?`,
    [WORK_DATE, companyId],
  );
  await database.run(
    // They were numbered in turn.
    `INSERT INTO serial_part (company_id, part_id, product_id)
     SELECT f.company_id, f.id + n.seq - 1, f.id + (n.seq - 2) DIV ${EACH}
       FROM serial f JOIN seq_2_to_${tree} n WHERE f.company_id = ? AND f.number = 'N00000001'`,
    [companyId],
  );
  await database.run('ANALYZE TABLE item, stock, serial, serial_entry, serial_part', []);
  await database.close();
}

/** `/stock` and the list of numbers over a million rows against the same over `SMALL`; then what a product is made of, level by level. */
export async function benchNumbers(root: string, full: boolean, print: (figures: Figure[]) => void): Promise<void> {
  const stageOf = (count: number) => Stage.make(root, (url, companyId) => lay(url, companyId, count));
  const small = await stageOf(SMALL);
  const large = await stageOf(full ? 1_000_000 : 100_000);
  try {
    for (const view of VIEWS) print([await against(view, small, large, full ? 100 : 30)]);
    print([await benchWhereFrom(large)]);
  } finally {
    await small.end();
    await large.end();
  }
}

/** All that is within a product, five levels down, against the largest query that is asked for it. */
async function benchWhereFrom({ database, masters }: Stage): Promise<Figure> {
  const [{ id }] = (await database.rows<{ id: number }>("SELECT id FROM serial WHERE number = 'N00000001'", [])) as [
    { id: number },
  ];
  const ours: number[] = [];
  const largest: number[] = [];
  for (let run = 0; run < 12; run += 1) {
    let most = 0;
    const watched: Sql = {
      ...database,
      rows: async <Row>(sql: string, values?: Parameters<Sql['rows']>[1]) => {
        const begun = performance.now();
        const rows = await database.rows<Row>(sql, values);
        most = Math.max(most, performance.now() - begun);
        return rows;
      },
    };
    const begun = performance.now();
    const { parts } = await openSerial(watched, masters.companyId, id);
    const taken = performance.now() - begun;
    if (parts.length < EACH ** LEVELS) throw new Error(`only ${parts.length} parts were found`);
    if (run < 2) continue;
    ours.push(taken);
    largest.push(most);
  }
  return {
    name: `where from, ${LEVELS} levels`,
    ours: `${median(ours).toFixed(2)} ms`,
    theirs: `${median(largest).toFixed(2)} ms`,
    ratios: ours.map((each, at) => each / largest[at]!),
    aim: 'at most 3',
  };
}
