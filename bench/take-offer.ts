import { laySisters } from '../server/sample/sisters';
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
  return [...taking, await benchTray(stage, sisters, full ? 1_000_000 : 100_000)];
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
  const read = async () => {
    const times: number[] = [];
    for (let at = 0; at < 30; at += 1) {
      const begun = performance.now();
      await stage.get('/api/tray');
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
    name: `tray, ${many.toLocaleString('en')} taken`,
    ours: `${much.toFixed(1)} ms`,
    theirs: `${few.toFixed(1)} ms`,
    ratios: [much / few],
    aim: 'at most 1.5',
  };
}
