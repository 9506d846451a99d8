import type { Doer } from '../acts';
import type { Statement, Tx } from '../db';
import type { OrderHead } from './store';

/** What is held for a line is free again; its own count is set with the line. */
export function lettingGo(companyId: number, lineId: number): Statement {
  return {
    sql: `UPDATE stock s JOIN sales_order_line l ON l.company_id = s.company_id AND l.item_id = s.item_id AND l.location_id = s.location_id
             SET s.reserved = s.reserved - l.reserved WHERE l.company_id = ? AND l.id = ?`,
    values: [companyId, lineId],
  };
}

/** An order's state is another, and so is its version. */
export function setState(tx: Tx, doer: Doer, head: OrderHead, state: string) {
  return tx.run('UPDATE sales_order SET state = ?, version = version + 1 WHERE company_id = ? AND id = ?', [
    state,
    doer.companyId,
    head.id,
  ]);
}

/** An order that has another version. */
export function changed(head: OrderHead) {
  return { kind: 'SO' as const, id: head.id, number: head.number, version: head.version + 1 };
}

/** What an order comes to and when it goes out first, as its lines are by now. */
export function totalsAgain(companyId: number, orderId: number): Statement {
  return {
    sql: `UPDATE sales_order o SET o.net = (SELECT COALESCE(SUM(l.amount), 0) FROM sales_order_line l
                WHERE l.company_id = o.company_id AND l.order_id = o.id),
                o.first_ship_date = COALESCE((SELECT MIN(l.ship_date) FROM sales_order_line l
                  WHERE l.company_id = o.company_id AND l.order_id = o.id AND l.cancelled < l.quantity), o.first_ship_date)
               WHERE o.company_id = ? AND o.id = ?`,
    values: [companyId, orderId],
  };
}
