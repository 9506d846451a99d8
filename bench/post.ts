import { createPool, type Pool, type PoolConnection, type RowDataPacket } from 'mysql2/promise';
import { columnOf } from '../server/db';
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
  'audit_document',
  'act_key',
];

type Rows = Record<string, Record<string, unknown>[]>;

/** The rows one receipt wrote, so that the floor can write the same. */
async function rowsOfOneReceipt(stage: Stage): Promise<Rows> {
  const { database } = stage;
  const [receipt] = await database.rows<{ id: number }>('SELECT MAX(id) AS id FROM receipt');
  const [shipment] = await database.rows<{ id: number }>('SELECT MAX(id) AS id FROM shipment');
  const wheres: Record<string, string> = {
    receipt: `id = ${receipt!.id}`,
    receipt_line: `receipt_id = ${receipt!.id}`,
    shipment: `id = ${shipment!.id}`,
    shipment_line: `shipment_id = ${shipment!.id}`,
    stock_entry: `(document_kind = 'RC' AND document_id = ${receipt!.id}) OR (document_kind = 'SH' AND document_id = ${shipment!.id})`,
    journal: `(document_kind = 'RC' AND document_id = ${receipt!.id}) OR (document_kind = 'SH' AND document_id = ${shipment!.id})`,
    audit: 'id = (SELECT MAX(id) FROM audit)',
    audit_document: 'audit_id = (SELECT MAX(id) FROM audit)',
    act_key: 'created_at = (SELECT MAX(created_at) FROM act_key)',
  };
  const rows: Rows = {};
  for (const [table, where] of Object.entries(wheres))
    rows[table] = await database.rows(`SELECT * FROM ${table} WHERE ${where}`);
  rows['journal_entry'] = await database.rows(
    `SELECT * FROM journal_entry WHERE journal_id IN (${rows['journal']!.map((row) => Number(row['id'])).join(',')})`,
  );
  return rows;
}

let floorTurns = 0;

/** The least that could do it: the same rows and counters in one transaction, nothing read or decided. */
async function floorReceipt(connection: PoolConnection, rows: Rows, ids: Record<string, number>): Promise<void> {
  floorTurns += 1;
  const turn = floorTurns;
  await connection.query('START TRANSACTION');
  await connection.query(
    `UPDATE tie t JOIN purchase_order_line pl ON pl.company_id = t.company_id AND pl.id = t.purchase_line_id
       JOIN sales_order_line sl ON sl.company_id = t.company_id AND sl.id = t.order_line_id
        SET t.received = 1 - t.received, pl.received = 1 - pl.received, sl.shipped = 1 - sl.shipped
      WHERE t.company_id = ? AND t.id = ?`,
    [ids['company'], ids['tie']],
  );
  await connection.query(
    `UPDATE agreement_line l JOIN agreement a ON a.company_id = l.company_id AND a.id = l.agreement_id
        SET l.shipped_value = l.shipped_value + 1, a.shipped_value = a.shipped_value + 1 WHERE l.company_id = ? AND l.id = ?`,
    [ids['company'], ids['agreementLine']],
  );
  await connection.query(
    "UPDATE number_series SET next_serial = next_serial + 1 WHERE company_id = ? AND kind IN ('JR', 'RC', 'SH')",
    [ids['company']],
  );
  const made: Record<string, number> = {};
  for (const table of TABLES) {
    const fresh = rows[table]!.map((row, index) => {
      const copy: Record<string, unknown> = { ...row };
      delete copy['id'];
      if ('number' in copy) copy['number'] = `F${turn}-${index}`;
      if ('receiptId' in copy) copy['receiptId'] = made['receipt'];
      if ('shipmentId' in copy) copy['shipmentId'] = made['shipment'];
      if ('receiptLineId' in copy) copy['receiptLineId'] = made['receipt_line'];
      if ('journalId' in copy) copy['journalId'] = made['journal'];
      if ('auditId' in copy) copy['auditId'] = made['audit'];
      if ('idempotencyKey' in copy) copy['idempotencyKey'] = `floor-${turn}`;
      return copy;
    });
    const columns = Object.keys(fresh[0]!);
    const plain = table === 'audit_document' || table === 'act_key';
    const [answer] = await connection.query(
      `INSERT INTO ${table} (${columns.map(columnOf).join(',')}) VALUES ${fresh.map(() => `(${columns.map(() => '?').join(',')})`).join(',')}${plain ? '' : ' RETURNING id'}`,
      fresh.flatMap((row) => columns.map((column) => row[column])),
    );
    if (!plain) made[table] = (answer as RowDataPacket[])[0]!['id'] as number;
  }
  await connection.query('COMMIT');
}

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

async function floorRate(
  pool: Pool,
  stage: Stage,
  rows: Rows,
  jobs: readonly FloorTie[],
  clients: number,
): Promise<number> {
  return rateOf(jobs, clients, async (tie) => {
    const connection = await pool.getConnection();
    try {
      await floorReceipt(connection, rows, {
        company: stage.masters.companyId,
        tie: tie.id,
        agreementLine: tie.agreementLineId,
      });
    } finally {
      connection.release();
    }
  });
}

/** A drop-ship receipt through HTTP against the same rows by bare mysql2, in turn. */
export async function benchPost(stage: Stage, full: boolean): Promise<Figure[]> {
  // Short turns, so that a machine that slows down slows both.
  const runs = 10;
  const each = full ? 200 : 60;
  const jobs = await ready(stage, each * runs * 2 + 20 + each);
  const spare = await floorTies(stage, jobs.splice(-each));
  const receive = async ({ purchaseId, purchaseLineId }: Placed) => {
    await stage.post('/api/acts/receiveGoods', { purchaseId, lines: [{ lineId: purchaseLineId, quantity: '3' }] });
  };
  await rateOf(jobs.splice(0, 20), 4, receive);
  const rows = await rowsOfOneReceipt(stage);
  const pool = createPool({ uri: stage.url, connectionLimit: 16, timezone: 'Z', dateStrings: true, jsonStrings: true });
  pool.pool.on('connection', (connection: { query(sql: string): void }) =>
    connection.query("SET SESSION tx_isolation = 'READ-COMMITTED', time_zone = '+00:00'"),
  );
  const figures: Figure[] = [];
  // Sixteen first: one client finds a server that has posted before, as its floor finds a driver that has.
  for (const clients of [16, 1]) {
    const ours: number[] = [];
    const theirs: number[] = [];
    for (let run = 0; run < runs; run += 1) {
      ours.push(await rateOf(jobs.splice(0, each), clients, receive));
      theirs.push(await floorRate(pool, stage, rows, spare, clients));
    }
    const mean = (values: number[]) => (values.reduce((sum, value) => sum + value, 0) / values.length).toFixed(0);
    figures.push({
      name: `post, ${clients} client${clients > 1 ? 's' : ''}`,
      ours: `${mean(ours)}/s`,
      theirs: `${mean(theirs)}/s`,
      ratios: ours.map((rate, index) => rate / theirs[index]!),
      aim: 'at least 0.6',
    });
  }
  await pool.end();
  return figures;
}
