import { createConnection } from 'mysql2/promise';

const agreementWith = (party: string) => ({
  place: 'agreements',
  sql: `SELECT a.id FROM agreement a LEFT JOIN customer c ON c.id = a.customer_id LEFT JOIN vendor v ON v.id = a.vendor_id
         WHERE COALESCE(c.name, v.name) = '${party}' ORDER BY a.id LIMIT 1`,
});

const PLACES = {
  ahead: agreementWith('Teratai Bay Resort'),
  draft: agreementWith('Sinar Laut Ferries'),
  byValue: agreementWith('Kolam Ceria Swim Club'),
  buying: agreementWith('Arus Membrane Supply'),
  prepaid: agreementWith('Padi Emas Food Works'),
  behind: agreementWith('Bukit Jati Golf Links'),
  salt: agreementWith('Rumah Hijau Growers'),
  // One that waits at the till.
  waiting: {
    place: 'till',
    sql: 'SELECT id FROM sales_order WHERE counter_day IS NOT NULL ORDER BY id DESC LIMIT 1',
  },
  // One whose goods came in part: its thread parts.
  order: {
    place: 'orders',
    sql: `SELECT o.id FROM sales_order o JOIN sales_order_line l ON l.order_id = o.id
           WHERE l.route = 'drop' AND o.state = 'confirmed' AND l.shipped > 0 AND l.shipped < l.quantity AND l.tied = l.quantity ORDER BY o.id DESC LIMIT 1`,
  },
  purchase: {
    place: 'purchases',
    sql: `SELECT p.id FROM purchase_order p JOIN purchase_order_line l ON l.purchase_order_id = p.id
           WHERE p.ship_to_id IS NOT NULL AND p.state = 'placed' AND l.received > 0 AND l.received < l.quantity AND l.tied > 0 ORDER BY p.id DESC LIMIT 1`,
  },
  loose: {
    place: 'purchases',
    sql: `SELECT p.id FROM purchase_order p JOIN purchase_order_line l ON l.purchase_order_id = p.id
           WHERE p.state = 'placed' AND p.ship_to_id IS NOT NULL AND l.tied = 0 ORDER BY p.id LIMIT 1`,
  },
  special: {
    place: 'orders',
    sql: `SELECT o.id FROM sales_order o JOIN sales_order_line l ON l.order_id = o.id
           WHERE l.route = 'special' AND l.reserved > 0 ORDER BY o.id DESC LIMIT 1`,
  },
  priced: {
    place: 'orders',
    sql: "SELECT o.id FROM sales_order o WHERE o.customer_reference = 'RHG-118' AND o.state = 'draft' LIMIT 1",
  },
  pumps: {
    place: 'items',
    sql: "SELECT id FROM item WHERE number = 'PM-15' LIMIT 1",
  },
  // One that is made for a customer, begun and not over.
  running: {
    place: 'workshop',
    sql: `SELECT p.id FROM planned_order p JOIN planned_tie t ON t.company_id = p.company_id AND t.planned_order_id = p.id
           WHERE p.state = 'running' AND p.kind = 'make' AND p.finished > 0 ORDER BY p.id LIMIT 1`,
  },
  // A skid that went out with the pumps in it.
  skid: { place: 'serials', sql: 'SELECT product_id AS id FROM serial_part ORDER BY part_id LIMIT 1' },
  count: { place: 'counts', sql: 'SELECT MIN(id) AS id FROM count_sheet' },
  prepayment: { place: 'prepayments', sql: 'SELECT MIN(id) AS id FROM prepayment' },
} as const;

export type Place = keyof typeof PLACES;

/** The path of a document of the small demo, by what it shows: the demo numbers its documents by day. */
export async function placeOf(url: string, what: Place): Promise<string> {
  const { place, sql } = PLACES[what];
  const connection = await createConnection(url);
  const [rows] = await connection.query(sql);
  await connection.end();
  return `/${place}/${(rows as { id: number }[])[0]!.id}`;
}
