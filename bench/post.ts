import { floorPool, inTurn, rowsOf, writeFloor } from './floor';
import { rateOf, type Figure } from './measure';
import type { Stage } from './stage';

interface Placed {
  purchaseId: number;
  purchaseLineId: number;
}

/** Confirmed drop shipments of one line, placed and ready to be received. */
async function ready(stage: Stage, count: number): Promise<Placed[]> {
  const { actor, database } = stage;
  const placed: Placed[] = [];
  const vendorId = await database.rows<{ vendorId: number }>('SELECT vendor_id FROM item_vendor WHERE item_id = ?', [
    stage.masters.items.get('RO-4040')!.id,
  ]);
  // A handful of agreements, so that not every receipt waits for the same counter.
  const agreements = [];
  for (let index = 0; index < 32; index += 1) agreements.push(await stage.agreement(['RO-4040'], '1000000'));
  for (let index = 0; index < count; index += 1) {
    const [orderId] = await actor.does('releaseAgreement', stage.releaseOf(agreements[index % 32]!, '3'), '2027-03-01');
    await actor.does('confirmOrder', { id: orderId, version: 1 }, '2027-03-01');
    const [line] = await database.rows<{ id: number }>('SELECT id FROM sales_order_line WHERE order_id = ?', [
      orderId!,
    ]);
    const [purchaseId] = await actor.does(
      'placePurchases',
      { lines: [{ orderLineId: line!.id, vendorId: vendorId[0]!.vendorId }] },
      '2027-03-01',
    );
    const [purchaseLine] = await database.rows<{ id: number }>(
      'SELECT id FROM purchase_order_line WHERE purchase_order_id = ?',
      [purchaseId!],
    );
    placed.push({ purchaseId: purchaseId!, purchaseLineId: purchaseLine!.id });
  }
  return placed;
}

const TABLES = [
  'receipt',
  'receipt_line',
  'shipment',
  'shipment_line',
  'stock_entry',
  'journal',
  'journal_entry',
  'audit',
];

/** The counters of a receipt, which go up and down again. */
const TIES = `UPDATE tie t JOIN purchase_order_line pl ON pl.company_id = t.company_id AND pl.id = t.purchase_line_id
    JOIN sales_order_line sl ON sl.company_id = t.company_id AND sl.id = t.order_line_id
     SET t.received = 1 - t.received, pl.received = 1 - pl.received, sl.shipped = 1 - sl.shipped
   WHERE t.company_id = ? AND t.id = ?`;
const AGREED = `UPDATE agreement_line l JOIN agreement a ON a.company_id = l.company_id AND a.id = l.agreement_id
     SET l.shipped_value = l.shipped_value + 1, a.shipped_value = a.shipped_value + 1 WHERE l.company_id = ? AND l.id = ?`;

interface FloorTie {
  id: number;
  agreementLineId: number;
}

/** Ties kept for the floor alone: they are not received in truth, its counters go up and down again. */
function floorTies(stage: Stage, placed: readonly Placed[]): Promise<FloorTie[]> {
  return stage.database.rows<FloorTie>(
    `SELECT t.id, l.agreement_line_id FROM tie t JOIN sales_order_line l ON l.company_id = t.company_id AND l.id = t.order_line_id
      WHERE t.company_id = ? AND t.purchase_line_id IN (?) ORDER BY t.id`,
    [stage.masters.companyId, placed.map((each) => each.purchaseLineId)],
  );
}

/** A drop-ship receipt through HTTP against the same rows by bare mysql2, in turn. */
export async function benchPost(stage: Stage, full: boolean): Promise<Figure[]> {
  // Short turns, so that a machine that slows down slows both.
  const runs = 10;
  const each = full ? 200 : 60;
  const jobs = await ready(stage, each * runs * 2 + 21 + each);
  const spares = await floorTies(stage, jobs.splice(-each));
  const receive = async ({ purchaseId, purchaseLineId }: Placed) => {
    await stage.post('/api/acts/receiveGoods', { purchaseId, lines: [{ lineId: purchaseLineId, quantity: '3' }] });
  };
  await rateOf(jobs.splice(0, 20), 4, receive);
  const rows = await rowsOf(stage, TABLES, () => receive(jobs.shift()!));
  const company = stage.masters.companyId;
  const pool = floorPool(stage);
  let turn = 0;
  const figures = await inTurn('post', { jobs, each, runs }, receive, async () => {
    const spare = spares[(turn += 1) % spares.length]!;
    const connection = await pool.getConnection();
    try {
      await writeFloor(connection, rows, [
        { sql: TIES, values: [company, spare.id] },
        { sql: AGREED, values: [company, spare.agreementLineId] },
        {
          sql: "UPDATE number_series SET next_serial = next_serial + 1 WHERE company_id = ? AND kind IN ('JR', 'RC', 'SH')",
          values: [company],
        },
      ]);
    } finally {
      connection.release();
    }
  });
  await pool.end();
  return figures.map((figure) => ({ ...figure, aim: 'at least 0.6' }));
}
