import { floorPool, inTurn, rowsOf, writeFloor } from './floor';
import type { Figure } from './measure';
import { WORK_DATE, type Stage } from './stage';

const COMPONENTS = 20;

/** An item made or assembled of so many others, of which there is enough for all turns; its id and theirs. */
async function madeOf(stage: Stage, number: string, obtained: 'make' | 'assemble', count: number) {
  const { database, masters, actor } = stage;
  const { companyId } = masters;
  const like = masters.items.get('PM-15')!.id;
  const copied = async (name: string, how: string) => {
    await database.run(
      `INSERT INTO item (company_id, number, name, unit, list_price, tax_code_id, route, stocked, obtained, promise_method, make_days)
       SELECT company_id, ?, ?, unit, 100, tax_code_id, ?, TRUE, ?, 'ctp', 0 FROM item WHERE company_id = ? AND id = ?`,
      [name, name, how === 'buy' ? 'stock' : how, how, companyId, like],
    );
    const [row] = await database.rows<{ id: number }>('SELECT id FROM item WHERE company_id = ? AND number = ?', [
      companyId,
      name,
    ]);
    return row!.id;
  };
  const itemId = await copied(number, obtained);
  const parts: number[] = [];
  for (let at = 1; at <= count; at += 1) {
    const part = await copied(`${number}-${at}`, 'buy');
    parts.push(part);
    await database.run(
      'INSERT INTO bom_line (company_id, item_id, line_no, component_id, quantity) VALUES (?, ?, ?, ?, 1)',
      [companyId, itemId, at, part],
    );
    const opened = { itemId: part, locationId: 0, was: '0', now: '1000000', unitCost: '3', reason: 'opened' };
    await actor.does('adjustStock', opened, WORK_DATE);
  }
  return { itemId, parts };
}

const SERIES = "UPDATE number_series SET next_serial = next_serial + 1 WHERE company_id = ? AND kind IN ('WR', 'JR')";

/** One piece of twenty components is reported, through HTTP, against the same rows by bare mysql2. */
export async function benchFinish(stage: Stage, full: boolean): Promise<Figure[]> {
  const { database, masters, actor } = stage;
  const { companyId } = masters;
  const each = full ? 100 : 30;
  const runs = 6;
  const { itemId, parts } = await madeOf(stage, 'BENCH-MADE', 'make', COMPONENTS);
  const jobs: number[] = [];
  for (let at = 0; at < each * runs * 2 + 12; at += 1) {
    const [id] = await actor.does('newWork', { itemId, quantity: '1', due: null }, WORK_DATE);
    jobs.push(id!);
  }
  const report = async (workId: number) => {
    const typed = { operationId: null, good: '1', scrapped: '', used: [], worked: [], finish: false };
    await stage.post('/api/acts/reportWork', { workId, ...typed });
  };
  for (const id of jobs.splice(0, 10)) await report(id);
  const rows = await rowsOf(
    stage,
    ['work_report', 'work_report_component', 'stock_entry', 'journal', 'journal_entry', 'audit'],
    () => report(jobs.shift()!),
  );
  const [spare] = await database.rows<{ id: number }>('SELECT id FROM planned_order WHERE company_id = ? AND id = ?', [
    companyId,
    jobs.pop()!,
  ]);
  const pool = floorPool(stage);
  const figures = await inTurn('finish', { jobs, each, runs }, report, async () => {
    const connection = await pool.getConnection();
    try {
      await writeFloor(connection, rows, [
        // Its counters go up and down again; those of the stock stay right.
        {
          sql: 'UPDATE planned_order SET version = version + 1 WHERE company_id = ? AND id = ?',
          values: [companyId, spare!.id],
        },
        {
          sql: 'UPDATE planned_component SET planned_cost = planned_cost + 1 WHERE company_id = ? AND planned_order_id = ?',
          values: [companyId, spare!.id],
        },
        ...parts.map((part) => ({
          sql: 'UPDATE stock SET on_hand = on_hand - 1, value = value - 3 WHERE company_id = ? AND item_id = ? AND location_id = 0',
          values: [companyId, part],
        })),
        {
          sql: 'UPDATE stock SET on_hand = on_hand + 1, value = value + 60 WHERE company_id = ? AND item_id = ? AND location_id = 0',
          values: [companyId, itemId],
        },
        { sql: SERIES, values: [companyId] },
      ]);
    } finally {
      connection.release();
    }
  });
  await pool.end();
  return figures;
}

/** A line that is assembled to order goes out, assembled in the same act, against the same rows by bare mysql2. */
export async function benchAssembleAndShip(stage: Stage, full: boolean): Promise<Figure[]> {
  const { database, masters, actor } = stage;
  const { companyId } = masters;
  const each = full ? 100 : 30;
  const runs = 6;
  const { itemId, parts } = await madeOf(stage, 'BENCH-KIT', 'assemble', 4);
  const { id: customerId, shipTos } = masters.customers.get('Kasturi Bottling')!;
  await database.run('UPDATE customer SET credit_limit = NULL WHERE company_id = ? AND id = ?', [
    companyId,
    customerId,
  ]);
  interface Job {
    orderId: number;
    lineId: number;
  }
  const jobs: Job[] = [];
  for (let at = 0; at < each * runs * 2 + 12; at += 1) {
    const line = { id: null, itemId, quantity: '1', shipDate: '2027-03-30', route: 'assemble' };
    const head = { id: null, version: null, customerId, shipToId: shipTos[0], customerReference: `B-${at}` };
    const [orderId] = await actor.does('saveOrder', { ...head, lines: [line] }, WORK_DATE);
    await actor.does('confirmOrder', { id: orderId, version: 1 }, WORK_DATE);
    const [row] = await database.rows<{ id: number }>('SELECT id FROM sales_order_line WHERE order_id = ?', [orderId!]);
    jobs.push({ orderId: orderId!, lineId: row!.id });
  }
  const ship = async ({ orderId, lineId }: Job) => {
    await stage.post('/api/acts/shipLines', { orderId, lines: [{ lineId, quantity: '1' }] });
  };
  for (const job of jobs.splice(0, 10)) await ship(job);
  const rows = await rowsOf(
    stage,
    [
      'shipment',
      'work_report',
      'work_report_component',
      'work_report_tie',
      'shipment_line',
      'stock_entry',
      'journal',
      'journal_entry',
      'audit',
    ],
    () => ship(jobs.shift()!),
  );
  const spare = jobs.pop()!;
  const [tie] = await database.rows<{ plannedOrderId: number }>(
    'SELECT planned_order_id FROM planned_tie WHERE company_id = ? AND order_line_id = ?',
    [companyId, spare.lineId],
  );
  const planned = [companyId, tie!.plannedOrderId];
  const pool = floorPool(stage);
  const figures = await inTurn('assembleAndShip', { jobs, each, runs }, ship, async () => {
    const connection = await pool.getConnection();
    try {
      await writeFloor(connection, rows, [
        { sql: 'UPDATE planned_order SET version = version + 1 WHERE company_id = ? AND id = ?', values: planned },
        {
          sql: 'UPDATE planned_component SET planned_cost = planned_cost + 1 WHERE company_id = ? AND planned_order_id = ?',
          values: planned,
        },
        {
          sql: 'UPDATE planned_tie SET made = 1 - made WHERE company_id = ? AND planned_order_id = ?',
          values: planned,
        },
        {
          sql: 'UPDATE sales_order_line SET shipped = 1 - shipped WHERE company_id = ? AND id = ?',
          values: [companyId, spare.lineId],
        },
        ...parts.map((part) => ({
          sql: 'UPDATE stock SET on_hand = on_hand - 1, value = value - 3 WHERE company_id = ? AND item_id = ? AND location_id = 0',
          values: [companyId, part],
        })),
        {
          sql: 'UPDATE stock SET on_hand = on_hand + 1 - 1, value = value + 12 - 12 WHERE company_id = ? AND item_id = ? AND location_id = 0',
          values: [companyId, itemId],
        },
        {
          sql: "UPDATE number_series SET next_serial = next_serial + 1 WHERE company_id = ? AND kind IN ('WR', 'JR', 'SH')",
          values: [companyId],
        },
      ]);
    } finally {
      connection.release();
    }
  });
  await pool.end();
  return figures;
}
