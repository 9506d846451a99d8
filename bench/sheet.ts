import { connect, type Sql } from '../server/db';
import { openOrder } from '../server/orders';
import { threadsOfOrder } from '../server/supply';
import { type Figure, median } from './measure';
import type { Stage } from './stage';

/**
 * An order of many lines opened through HTTP with the threads of all its lines, against the largest single query in it,
 * sent by itself, and against all its queries one after the other. Half of its lines are shipped and invoiced, each with
 * its purchase.
 */
export async function benchSheet(stage: Stage, full: boolean): Promise<Figure[]> {
  const runs = full ? 40 : 15;
  const figures: Figure[] = [];
  for (const lines of [20, 200]) {
    const orderId = await orderOf(stage, lines);
    const { largest, all } = await queriesOf(stage, orderId);
    const open = async () => {
      await Promise.all([stage.get(`/api/orders/${orderId}`), stage.get(`/api/orders/${orderId}/threads`)]);
    };
    const send = ({ sql, values }: Query) => stage.database.rows(sql, values);
    const floor = () => send(largest);
    const sent = async () => {
      for (const query of all) await send(query);
    };
    for (let warm = 0; warm < 8; warm += 1) await Promise.all([open(), floor()]);
    const times = { ours: [] as number[], largest: [] as number[], all: [] as number[] };
    for (let run = 0; run < runs; run += 1) {
      times.largest.push(await timed(floor));
      times.ours.push(await timed(open));
      times.all.push(await timed(sent));
    }
    figures.push(
      figureOf(`sheet, ${lines} lines, largest query`, times.ours, times.largest, 'at most 2'),
      figureOf(`sheet, ${lines} lines, all its queries`, times.ours, times.all, 'at most 1.5'),
    );
  }
  return figures;
}

function figureOf(name: string, ours: readonly number[], theirs: readonly number[], aim: string): Figure {
  const said = (time: number) => `${time.toFixed(1)} ms`;
  const ratios = ours.map((time, run) => time / theirs[run]!);
  return { name, ours: said(median(ours)), theirs: said(median(theirs)), ratios, aim };
}

async function timed(work: () => Promise<unknown>): Promise<number> {
  const begun = performance.now();
  await work();
  return performance.now() - begun;
}

interface Query {
  sql: string;
  values: NonNullable<Parameters<Sql['rows']>[1]>;
}

/** The queries that opening the order sends, and the one of them that takes longest by itself. */
async function queriesOf(stage: Stage, orderId: number): Promise<{ largest: Query; all: Query[] }> {
  const alone = connect(stage.url, 1);
  const sent: Query[] = [];
  const told: Sql = {
    forUpdate: '',
    rows: (sql, values = []) => {
      sent.push({ sql, values });
      return alone.rows(sql, values);
    },
    run: () => Promise.reject(new Error('a read writes nothing')),
    batch: () => Promise.reject(new Error('a query by itself is what is timed')),
  };
  try {
    await openOrder(told, stage.masters.companyId, orderId);
    await threadsOfOrder(told, stage.masters.companyId, orderId);
    let largest: { query: Query; time: number } | null = null;
    for (const query of sent) {
      const times = [];
      for (let run = 0; run < 9; run += 1) times.push(await timed(() => alone.rows(query.sql, query.values)));
      const time = median(times);
      if (!largest || time > largest.time) largest = { query, time };
    }
    return { largest: largest!.query, all: sent };
  } finally {
    await alone.close();
  }
}

/** A confirmed order of drop shipments, all placed, every other line received and invoiced on both sides. */
async function orderOf(stage: Stage, count: number): Promise<number> {
  const { actor, masters, database } = stage;
  const { id: customerId, shipTos } = masters.customers.get('Kasturi Bottling')!;
  const day = '2027-03-01';
  const [orderId] = await actor.does(
    'saveOrder',
    {
      id: null,
      version: null,
      customerId,
      shipToId: shipTos[0],
      customerReference: '',
      lines: Array.from({ length: count }, (_, index) => ({
        id: null,
        itemId: masters.items.get(index % 2 ? 'RO-4040' : 'RO-2540')!.id,
        quantity: '5',
        route: 'drop',
        shipDate: '2027-03-20',
      })),
    },
    day,
  );
  await actor.does('confirmOrder', { id: orderId, version: 1 }, day);
  const lines = await database.rows<{ id: number; vendorId: number }>(
    `SELECT l.id, MIN(v.vendor_id) AS vendor_id FROM sales_order_line l
       JOIN item_vendor v ON v.company_id = l.company_id AND v.item_id = l.item_id WHERE l.order_id = ? GROUP BY l.id`,
    [orderId!],
  );
  const purchases = await actor.does(
    'placePurchases',
    { lines: lines.map((line) => ({ orderLineId: line.id, vendorId: line.vendorId })) },
    day,
  );
  for (const purchaseId of purchases) {
    const bought = await database.rows<{ id: number; unitPrice: string }>(
      'SELECT id, unit_price FROM purchase_order_line WHERE purchase_order_id = ? ORDER BY id',
      [purchaseId],
    );
    const came = bought.filter((_, index) => index % 2 === 0);
    await actor.does('receiveGoods', { purchaseId, lines: came.map(({ id }) => ({ lineId: id, quantity: '5' })) }, day);
  }
  await actor.does('invoiceCustomer', { orderId }, day);
  for (const purchaseId of purchases) {
    const came = await database.rows<{ id: number; unitPrice: string }>(
      'SELECT id, unit_price FROM purchase_order_line WHERE purchase_order_id = ? AND received > 0 ORDER BY id',
      [purchaseId],
    );
    await actor.does(
      'enterVendorInvoice',
      {
        purchaseId,
        vendorNumber: `B-${purchaseId}`,
        invoiceDate: day,
        lines: came.map((line) => ({ purchaseLineId: line.id, quantity: '5', unitPrice: line.unitPrice })),
      },
      day,
    );
  }
  return orderId!;
}
