import { floorPool, inTurn, rowsOf, writeFloor } from './floor';
import type { Figure } from './measure';
import { WORK_DATE, type Stage } from './stage';

/** One line of a confirmed order is changed, through HTTP, against the same rows by bare mysql2. // S8 */
export async function benchChange(stage: Stage, full: boolean): Promise<Figure[]> {
  const { database, masters, actor } = stage;
  const { companyId } = masters;
  const each = full ? 100 : 30;
  const runs = 6;
  const { id: customerId, shipTos } = masters.customers.get('Kasturi Bottling')!;
  await database.run('UPDATE customer SET credit_limit = NULL WHERE company_id = ? AND id = ?', [
    companyId,
    customerId,
  ]);
  const itemId = masters.items.get('SALT-25')!.id;
  const jobs: { id: number; lineId: number }[] = [];
  for (let at = 0; at < each * runs * 2 + 27; at += 1) {
    const line = { id: null, itemId, quantity: '5', shipDate: '2027-03-12', route: 'stock' };
    const [id] = await actor.does(
      'saveOrder',
      { id: null, version: null, customerId, shipToId: shipTos[0], customerReference: '', lines: [line] },
      WORK_DATE,
    );
    await actor.does('confirmOrder', { id, version: 1 }, WORK_DATE);
    const [row] = await database.rows<{ id: number }>(
      'SELECT id FROM sales_order_line WHERE company_id = ? AND order_id = ?',
      [companyId, id!],
    );
    jobs.push({ id: id!, lineId: row!.id });
  }
  const change = async ({ id, lineId }: { id: number; lineId: number }) => {
    await stage.post('/api/acts/changeOrder', {
      id,
      version: 2,
      shipToId: shipTos[0],
      customerReference: '',
      reason: 'they called',
      lines: [{ id: lineId, itemId, quantity: '6', shipDate: '2027-03-15', route: 'stock' }],
    });
  };
  for (const job of jobs.splice(0, 10)) await change(job);
  const rows = await rowsOf(stage, ['audit'], () => change(jobs.shift()!));
  // As many as there are clients, so that the floor waits for no row of its own.
  const spares = jobs.splice(-16);
  let turn = 0;
  const pool = floorPool(stage);
  const figures = await inTurn('change', { jobs, each, runs }, change, async () => {
    const spare = spares[(turn += 1) % spares.length]!;
    const connection = await pool.getConnection();
    try {
      await writeFloor(connection, rows, [
        {
          sql: 'UPDATE sales_order_line SET quantity = quantity + 1, amount = amount + 1 WHERE company_id = ? AND id = ?',
          values: [companyId, spare.lineId],
        },
        {
          sql: 'UPDATE sales_order SET version = version + 1, revision = revision + 1, net = net + 1 WHERE company_id = ? AND id = ?',
          values: [companyId, spare.id],
        },
      ]);
    } finally {
      connection.release();
    }
  });
  await pool.end();
  return figures.map((figure) => (figure.aim.startsWith('at least') ? { ...figure, aim: 'at least 0.5' } : figure));
}
