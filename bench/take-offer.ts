import { laySisters, type Sisters } from '../server/sample/sisters';
import { floorPool, inTurn, rowsOf, writeFloor } from './floor';
import { median, type Figure } from './measure';
import { WORK_DATE, type Stage } from './stage';

/** Documents that sisters sent before: `SMALL` against many more. */
const SMALL = 10_000;

/**
 * A sister's order of three lines is taken, through HTTP, against the same rows by bare mysql2; then the tray with many
 * offers that were taken against the same with few. // X2
 */
export async function benchTakeOffer(stage: Stage, full: boolean): Promise<Figure[]> {
  const { database, masters, actor } = stage;
  const sisters = await laySisters(database, masters, WORK_DATE);
  await database.run('UPDATE company SET work_date = ?', [WORK_DATE]);
  const each = full ? 100 : 30;
  const runs = 6;
  const itemId = masters.items.get('FV-900')!.id;
  const lines = [20, 22, 24].map((day) => ({ itemId, quantity: '2', dueDate: `2027-03-${day}` }));
  for (let at = 0; at < each * runs * 2 + 27; at += 1) {
    await actor.does('enterPurchase', { vendorId: sisters.vendorId, shipToId: null, lines }, WORK_DATE);
  }
  const jobs = await database.rows<{ id: number; kind: string; revision: number }>(
    "SELECT id, kind, revision FROM offer WHERE company_id = ? AND state = 'open' ORDER BY id",
    [sisters.mbf],
  );
  await stage.post('/api/company', { companyId: sisters.mbf });
  const take = async (offer: (typeof jobs)[number]) => {
    await stage.post('/api/acts/takeOffer', { ...offer, lines: [] });
  };
  for (const job of jobs.splice(0, 10)) await take(job);
  const tables = ['sales_order', 'sales_order_line', 'audit'];
  const rows = await rowsOf(stage, tables, () => take(jobs.shift()!));
  // Of the trails of both companies the floor writes one.
  rows['audit'] = rows['audit']!.slice(-1);
  const spares = jobs.splice(-16);
  let turn = 0;
  const pool = floorPool(stage);
  const figures = await inTurn('takeOffer', { jobs, each, runs }, take, async () => {
    const spare = spares[(turn += 1) % spares.length]!;
    const connection = await pool.getConnection();
    try {
      await writeFloor(connection, rows, [
        { sql: 'UPDATE offer SET reason = ? WHERE id = ?', values: [String(turn), spare.id] },
      ]);
    } finally {
      connection.release();
    }
  });
  await pool.end();
  const taking = figures.map((figure) =>
    figure.aim.startsWith('at least') ? { ...figure, aim: 'at least 0.5' } : figure,
  );
  const many = full ? 1_000_000 : 100_000;
  return [...taking, await benchTray(stage, sisters, many), await benchBooks(stage, sisters, many)];
}

/** What waits is read as fast where much was taken before. */
async function benchTray(stage: Stage, { mbf, hbw }: { mbf: number; hbw: number }, many: number): Promise<Figure> {
  const { database } = stage;
  // Other sources than any that waits: each is one that was taken.
  const lay = (from: number, to: number) =>
    database.run(
      `INSERT INTO offer (company_id, from_id, kind, source_id, number, state)
         SELECT ?, ?, 'receipt', 1000000 + seq, CONCAT('SH-', seq), 'taken' FROM seq_${from}_to_${to}`,
      [mbf, hbw],
    );
  return readTwice(stage, `tray, ${many.toLocaleString('en')} taken`, '/api/tray', lay, many);
}

/** The books of a pair side by side are read as fast where much was paid before. // X5 */
async function benchBooks(stage: Stage, sisters: Sisters, many: number): Promise<Figure> {
  const { database } = stage;
  const { mbf, hbw, vendorId, customerId } = sisters;
  const [purchase] = await database.rows<{ id: number }>(
    'SELECT id FROM purchase_order WHERE company_id = ? AND vendor_id = ? LIMIT 1',
    [hbw, vendorId],
  );
  const [order] = await database.rows<{ id: number }>(
    'SELECT id FROM sales_order WHERE company_id = ? AND customer_id = ? LIMIT 1',
    [mbf, customerId],
  );
  // Invoiced by her in months gone by, entered by us, paid at both.
  const day = `DATE_SUB('${WORK_DATE}', INTERVAL 40 + seq % 700 DAY)`;
  const lay = async (from: number, to: number) => {
    const of = `FROM seq_${from}_to_${to}`;
    await database.run(
      `INSERT INTO customer_invoice (company_id, number, customer_id, order_id, currency, invoice_date, due_date, net, tax, total)
         SELECT ?, CONCAT('B-', seq), ?, ?, 'SGD', ${day}, ${day}, 100, 6, 106 ${of}`,
      [mbf, customerId, order!.id],
    );
    await database.run(
      `INSERT INTO open_item (company_id, customer_id, customer_invoice_id, currency, due_date, amount, settled)
         SELECT i.company_id, i.customer_id, i.id, i.currency, i.due_date, i.total, i.total FROM customer_invoice i
          WHERE i.company_id = ? AND NOT EXISTS (SELECT 1 FROM open_item o WHERE o.company_id = i.company_id AND o.customer_invoice_id = i.id)`,
      [mbf],
    );
    await database.run(
      `INSERT INTO vendor_invoice (company_id, number, vendor_id, purchase_order_id, vendor_number, currency, invoice_date, due_date, net, tax, total)
         SELECT ?, CONCAT('B-', seq), ?, ?, CONCAT('B-', seq), 'SGD', ${day}, ${day}, 100, 6, 106 ${of}`,
      [hbw, vendorId, purchase!.id],
    );
    await database.run(
      `INSERT INTO open_item (company_id, vendor_id, vendor_invoice_id, currency, due_date, amount, settled)
         SELECT i.company_id, i.vendor_id, i.id, i.currency, i.due_date, i.total, i.total FROM vendor_invoice i
          WHERE i.company_id = ? AND NOT EXISTS (SELECT 1 FROM open_item o WHERE o.company_id = i.company_id AND o.vendor_invoice_id = i.id)`,
      [hbw],
    );
  };
  const name = `books, ${many.toLocaleString('en')} paid`;
  return readTwice(stage, name, `/api/sisters/${hbw}/reconciliation`, lay, many);
}

/** How long a read takes with much that is over against little, in milliseconds at the middle of 30. */
async function readTwice(
  stage: Stage,
  name: string,
  path: string,
  lay: (from: number, to: number) => Promise<unknown>,
  many: number,
): Promise<Figure> {
  const read = async () => {
    const times: number[] = [];
    for (let at = 0; at < 30; at += 1) {
      const begun = performance.now();
      await stage.get(path);
      times.push(performance.now() - begun);
    }
    return median(times);
  };
  await lay(1, SMALL);
  await read();
  const few = await read();
  await lay(SMALL + 1, many);
  await read();
  const much = await read();
  return {
    name,
    ours: `${much.toFixed(1)} ms`,
    theirs: `${few.toFixed(1)} ms`,
    ratios: [much / few],
    aim: 'at most 1.5',
  };
}
