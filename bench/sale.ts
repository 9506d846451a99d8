import { layCounter } from '../server/sample/counter';
import { layDesk } from '../server/sample/desk';
import { floorPool, inTurn, rowsOf, writeFloor } from './floor';
import type { Figure } from './measure';
import { WORK_DATE, type Stage } from './stage';

const ITEMS = ['FC-10', 'FC-20', 'SALT-25'] as const;
const TILLS = 16;

interface Kept {
  tillId: number;
  orderId: number;
  lines: { id: number; quantity: string }[];
}

const TABLES = [
  'shipment',
  'shipment_line',
  'stock_entry',
  'customer_invoice',
  'customer_invoice_line',
  'open_item',
  'slip',
  'payment',
  'journal',
  'journal_entry',
  'audit',
];

/** The counter of a stage, laid once. */
export async function counterOf({ database, masters }: Stage): Promise<void> {
  const [till] = await database.rows('SELECT id FROM till WHERE company_id = ? LIMIT 1', [masters.companyId]);
  if (till) return;
  await layDesk(database, masters, WORK_DATE, 7);
  await layCounter(database, masters, WORK_DATE);
}

/** Three lines sold for cash at one of sixteen tills, through HTTP, against the rows that leaves by bare mysql2. */
export async function benchSale(stage: Stage, full: boolean): Promise<Figure[]> {
  const { database, masters, actor } = stage;
  const { companyId } = masters;
  await counterOf(stage);
  for (let at = 1; at <= TILLS; at += 1) {
    await database.run(
      'INSERT INTO till (company_id, name, location_id) SELECT company_id, ?, location_id FROM till WHERE company_id = ? LIMIT 1',
      [`Bench ${at}`, companyId],
    );
  }
  const tills = await database.rows<{ id: number }>(
    "SELECT id FROM till WHERE company_id = ? AND name LIKE 'Bench %'",
    [companyId],
  );
  for (const { id } of tills) {
    await actor.does('openDrawer', { tillId: id, counts: [{ piece: '50', count: '9000' }] }, WORK_DATE);
  }
  const itemIds = ITEMS.map((number) => masters.items.get(number)!.id);
  for (const itemId of itemIds) {
    const stock = await database.rows<{ onHand: string }>(
      'SELECT on_hand FROM stock WHERE company_id = ? AND item_id = ? AND location_id = 0',
      [companyId, itemId],
    );
    const opened = {
      itemId,
      locationId: 0,
      was: stock[0]?.onHand ?? '0',
      now: '1000000',
      unitCost: '3',
      reason: 'opened',
    };
    await actor.does('adjustStock', opened, WORK_DATE);
  }
  const each = full ? 100 : 30;
  const runs = 6;
  const jobs: Kept[] = [];
  for (let at = 0; at < each * runs * 2 + 12; at += 1) {
    const tillId = tills[at % TILLS]!.id;
    const lines = itemIds.map((itemId) => ({ id: null, itemId, quantity: '2', shipDate: WORK_DATE }));
    const typed = { id: null, version: null, tillId, customerId: null, contactId: null, lines };
    const [orderId] = await actor.does('keepAtCounter', typed, WORK_DATE);
    const kept = await database.rows<{ id: number; quantity: string }>(
      'SELECT id, quantity FROM sales_order_line WHERE company_id = ? AND order_id = ? ORDER BY line_no',
      [companyId, orderId!],
    );
    jobs.push({ tillId, orderId: orderId!, lines: kept });
  }
  const sell = async ({ tillId, orderId, lines }: Kept) => {
    await stage.post('/api/acts/sellAtTill', {
      tillId,
      orders: [{ id: orderId, version: 1 }],
      take: lines.map(({ id, quantity }) => ({ lineId: id, quantity })),
      later: false,
      cash: '500',
      cardIds: [],
      vouchers: [],
      onAccount: false,
    });
  };
  for (const job of jobs.splice(0, 10)) await sell(job);
  const rows = await rowsOf(stage, TABLES, () => sell(jobs.shift()!));
  const pool = floorPool(stage);
  const spare = jobs.splice(-1)[0]!;
  let turn = 0;
  const figures = await inTurn('sale', { jobs, each, runs }, sell, async () => {
    const till = tills[(turn += 1) % TILLS]!.id;
    const connection = await pool.getConnection();
    try {
      await writeFloor(connection, rows, [
        // What goes up and down again, row by row as a sale locks them.
        {
          sql: 'UPDATE sales_order_line SET shipped = 1 - shipped, invoiced = 1 - invoiced WHERE company_id = ? AND order_id = ?',
          values: [companyId, spare.orderId],
        },
        {
          sql: 'UPDATE sales_order SET version = version + 1 WHERE company_id = ? AND id = ?',
          values: [companyId, spare.orderId],
        },
        {
          sql: 'UPDATE stock SET on_hand = on_hand - 1, value = value - 3 WHERE company_id = ? AND location_id = 0 AND item_id IN (?)',
          values: [companyId, itemIds],
        },
        {
          sql: 'UPDATE drawer SET cash = cash + 1, version = version + 1 WHERE company_id = ? AND till_id = ? AND closed_on IS NULL',
          values: [companyId, till],
        },
        {
          sql: "UPDATE number_series SET next_serial = next_serial + 1 WHERE company_id = ? AND kind IN ('SH', 'CI', 'PY', 'SL', 'JR')",
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
