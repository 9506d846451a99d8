import type * as z from 'zod';
import { dec, least } from '@core/kernel';
import type * as contract from '@api/stock';
import { orNotFound } from '../acts';
import { ownCurrency } from '../catalogue';
import type { Sql, Columns } from '../db';
import { named, serialsMovedBy } from '../serial';
import type { Receipt, ReceiptLine } from './tables';
import type { SalesOrderLine } from '../orders/tables';

type Sheet = z.infer<typeof contract.MovementSheet>;

type HeadRow = Columns<Receipt, 'id number postedOn cost reason'> & {
  partyId: number;
  partyNumber: string;
  partyName: string;
  currency: string;
  foreignCurrency: string | null;
  rate: string | null;
  reversesId: number | null;
  reverses: string | null;
  reversedById: number | null;
  reversedBy: string | null;
};

type LineRow = Columns<ReceiptLine, 'itemId quantity unitCost cost'> & {
  value: string | null;
  itemNumber: string;
  itemName: string;
  unit: string;
  orderLineId: number | null;
  sourceId: number;
  sourceNumber: string;
  sourceLineNo: number;
  halfId: number | null;
  halfNumber: string | null;
};

export async function openReceipt(sql: Sql, companyId: number, id: number): Promise<Sheet> {
  const [head] = await sql.rows<HeadRow>(
    `SELECT r.id, r.number, r.posted_on, r.cost, v.id AS party_id, v.number AS party_number, v.name AS party_name,
            ${ownCurrency('r.company_id')} AS currency,
            NULLIF(p.currency, ${ownCurrency('r.company_id')}) AS foreign_currency, r.rate, r.reason, x.id AS reverses_id, x.number AS reverses,
            b.id AS reversed_by_id, b.number AS reversed_by
       FROM receipt r
       LEFT JOIN receipt x ON x.company_id = r.company_id AND x.id = r.reverses_id
       LEFT JOIN receipt b ON b.company_id = r.company_id AND b.reverses_id = r.id
       JOIN vendor v ON v.company_id = r.company_id AND v.id = r.vendor_id
       JOIN purchase_order p ON p.company_id = r.company_id AND p.id = r.purchase_order_id
      WHERE r.company_id = ? AND r.id = ?`,
    [companyId, id],
  );
  const found = orNotFound(head, 'This receipt');
  const lines = await sql.rows<LineRow>(
    `SELECT rl.item_id, i.number AS item_number, i.name AS item_name, i.unit, rl.quantity, rl.unit_cost, rl.cost, rl.value,
            sl.order_line_id, p.id AS source_id, p.number AS source_number, pl.line_no AS source_line_no, s.id AS half_id, s.number AS half_number
       FROM receipt_line rl
       JOIN item i ON i.company_id = rl.company_id AND i.id = rl.item_id
       JOIN purchase_order_line pl ON pl.company_id = rl.company_id AND pl.id = rl.purchase_line_id
       JOIN purchase_order p ON p.company_id = pl.company_id AND p.id = pl.purchase_order_id
       LEFT JOIN shipment_line sl ON sl.company_id = rl.company_id AND sl.receipt_line_id = rl.id
       LEFT JOIN shipment s ON s.company_id = sl.company_id AND s.id = sl.shipment_id
      WHERE rl.company_id = ? AND rl.receipt_id = ? ORDER BY rl.id`,
    [companyId, id],
  );
  return sheetOf('RC', 'PO', 'SH', found, lines, await serialsMovedBy(sql, companyId, 'RC', [id]));
}

export async function openShipment(sql: Sql, companyId: number, id: number): Promise<Sheet> {
  const [head] = await sql.rows<HeadRow>(
    `SELECT s.id, s.number, s.posted_on, s.cost, c.id AS party_id, c.number AS party_number, c.name AS party_name,
            ${ownCurrency('s.company_id')} AS currency,
            NULL AS foreign_currency, NULL AS rate, s.reason, x.id AS reverses_id, x.number AS reverses,
            b.id AS reversed_by_id, b.number AS reversed_by
       FROM shipment s
       LEFT JOIN shipment x ON x.company_id = s.company_id AND x.id = s.reverses_id
       LEFT JOIN shipment b ON b.company_id = s.company_id AND b.reverses_id = s.id
       JOIN customer c ON c.company_id = s.company_id AND c.id = s.customer_id
      WHERE s.company_id = ? AND s.id = ?`,
    [companyId, id],
  );
  const found = orNotFound(head, 'This shipment');
  const lines = await sql.rows<LineRow>(
    `SELECT sl.item_id, i.number AS item_number, i.name AS item_name, i.unit, sl.quantity, sl.unit_cost, sl.cost, NULL AS value,
            sl.order_line_id, o.id AS source_id, o.number AS source_number, ol.line_no AS source_line_no, r.id AS half_id, r.number AS half_number
       FROM shipment_line sl
       JOIN item i ON i.company_id = sl.company_id AND i.id = sl.item_id
       JOIN sales_order_line ol ON ol.company_id = sl.company_id AND ol.id = sl.order_line_id
       JOIN sales_order o ON o.company_id = ol.company_id AND o.id = ol.order_id
       LEFT JOIN receipt_line rl ON rl.company_id = sl.company_id AND rl.id = sl.receipt_line_id
       LEFT JOIN receipt r ON r.company_id = rl.company_id AND r.id = rl.receipt_id
      WHERE sl.company_id = ? AND sl.shipment_id = ? ORDER BY sl.id`,
    [companyId, id],
  );
  return sheetOf('SH', 'SO', 'RC', found, lines, await serialsMovedBy(sql, companyId, 'SH', [id]));
}

function sheetOf(
  kind: 'RC' | 'SH',
  sourceKind: 'PO' | 'SO',
  halfKind: 'RC' | 'SH',
  head: HeadRow,
  lines: readonly LineRow[],
  serials: Awaited<ReturnType<typeof serialsMovedBy>>,
): Sheet {
  // The lines of an item share its pieces in order; those that are for an order line go with it.
  const left = [...serials];
  const take = ({ itemId, orderLineId, quantity }: LineRow) => {
    const fits = left.filter((each) => each.itemId === itemId);
    const own = kind === 'SH' ? fits.filter((each) => each.lineId === orderLineId) : fits;
    const taken = own.slice(0, Math.abs(Number(quantity)));
    for (const each of taken) left.splice(left.indexOf(each), 1);
    return taken.map(named);
  };
  const sourceOf = (line: LineRow) => ({ kind: sourceKind, id: line.sourceId, number: line.sourceNumber });
  return {
    document: { kind, id: head.id, number: head.number },
    party: { id: head.partyId, number: head.partyNumber, name: head.partyName },
    sources: [...new Map(lines.map((line) => [line.sourceId, sourceOf(line)])).values()],
    postedOn: head.postedOn,
    currency: head.currency,
    foreign: head.foreignCurrency === null ? null : { currency: head.foreignCurrency, rate: head.rate! },
    cost: head.cost,
    reverses: head.reversesId === null ? null : { kind, id: head.reversesId, number: head.reverses! },
    reversedBy: head.reversedById === null ? null : { kind, id: head.reversedById, number: head.reversedBy! },
    reason: head.reason,
    lines: lines.map((line) => ({
      item: { id: line.itemId, number: line.itemNumber, name: line.itemName, unit: line.unit },
      quantity: line.quantity,
      unitCost: line.unitCost,
      cost: line.cost,
      value: head.foreignCurrency === null ? null : line.value,
      orderLineId: line.orderLineId,
      source: sourceOf(line),
      sourceLineNo: line.sourceLineNo,
      otherHalf: line.halfId === null ? null : { kind: halfKind, id: line.halfId, number: line.halfNumber! },
      numbers: take(line),
    })),
  };
}

/** Other orders of the customer to the same address, with what of them is where this one goes out from: held for them, or free. // L3 */
export async function alsoWaiting(
  sql: Sql,
  companyId: number,
  orderId: number,
): Promise<z.infer<typeof contract.alsoWaiting.out>> {
  const rows = await sql.rows<
    Columns<SalesOrderLine, 'id lineNo itemId locationId reserved shipDate'> & {
      byNumber: number;
      orderId: number;
      orderNumber: string;
      itemNumber: string;
      itemName: string;
      unit: string;
      open: string;
      here: string;
    }
  >(
    `SELECT o.id AS order_id, o.number AS order_number, l.id, l.line_no, l.item_id, i.number AS item_number,
            i.name AS item_name, i.unit, l.quantity - l.cancelled - l.shipped AS open, l.reserved, l.ship_date, l.location_id,
            EXISTS (SELECT 1 FROM serial_series n WHERE n.company_id = l.company_id AND n.item_id = l.item_id) AS by_number,
            IF(l.route = 'stock', l.reserved + GREATEST(0, s.on_hand - s.reserved), l.reserved) AS here
       FROM sales_order this
       JOIN sales_order o FORCE INDEX (sales_order_customer_state) ON o.company_id = this.company_id
        AND o.customer_id = this.customer_id AND o.state = 'confirmed' AND o.id <> this.id AND o.ship_to_id <=> this.ship_to_id
       JOIN sales_order_line l ON l.company_id = o.company_id AND l.order_id = o.id AND l.route <> 'drop'
        AND l.quantity - l.cancelled > l.shipped
        AND EXISTS (SELECT 1 FROM sales_order_line own WHERE own.company_id = this.company_id AND own.order_id = this.id
              AND own.route <> 'drop' AND own.location_id = l.location_id)
       JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id
       JOIN stock s ON s.company_id = l.company_id AND s.item_id = l.item_id AND s.location_id = l.location_id
      WHERE this.company_id = ? AND this.id = ? HAVING here > 0 ORDER BY o.id, l.line_no LIMIT 60`,
    [companyId, orderId],
  );
  const orders = new Map<number, z.infer<typeof contract.alsoWaiting.out>['orders'][number]>();
  for (const row of rows) {
    const own = orders.get(row.orderId) ?? {
      order: { kind: 'SO', id: row.orderId, number: row.orderNumber },
      lines: [],
    };
    own.lines.push({
      id: row.id,
      lineNo: row.lineNo,
      item: { id: row.itemId, number: row.itemNumber, name: row.itemName, unit: row.unit },
      byNumber: Boolean(row.byNumber),
      locationId: row.locationId,
      open: least(dec(row.open), dec(row.here)).toFixed(),
      held: row.reserved,
      shipDate: row.shipDate,
    });
    orders.set(row.orderId, own);
  }
  return { orders: [...orders.values()] };
}
