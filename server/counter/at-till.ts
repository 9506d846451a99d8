import type * as z from 'zod';
import { dueAtTill, dueOf, inCash, takenAlong } from '@core/counter';
import type { Day } from '@core/kernel';
import { refuse, sentenceOf } from '@core/refusals';
import type * as contract from '@api/counter';
import type { Sql } from '../db';
import { loadAtTill } from './ground';
import { cardsOf, vouchersOf } from './sell';

type Out<E extends { out: z.ZodType }> = z.infer<E['out']>;

/** Orders as they stand at the till, with what is to pay. // C2 */
export async function atTill(
  sql: Sql,
  companyId: number,
  workDate: Day,
  query: z.output<typeof contract.atTill.query>,
): Promise<Out<typeof contract.atTill>> {
  const { orders, customer, contact, mayOwe, referenceRequired, ground } = await loadAtTill(
    sql,
    companyId,
    query.orders,
    workDate,
  );
  const said = new Map(
    (query.take ?? '').split(',').flatMap((each) => {
      const [id, quantity] = each.split(':');
      return id && quantity ? [[Number(id), quantity] as const] : [];
    }),
  );
  // What nobody said of is taken along where it is here and not to be fetched later.
  const asked = ground.lines.map((line) => ({
    lineId: line.orderLineId,
    quantity: said.get(line.orderLineId) ?? (line.shipDate > workDate ? '0' : line.here),
  }));
  const { taken } = takenAlong(ground.lines, asked);
  // Who may owe and ordered before pays what stays when it is fetched, unless somebody says otherwise.
  const later =
    query.later === undefined ? mayOwe && orders.some(({ state }) => state === 'confirmed') : query.later === 'yes';
  const due = dueAtTill(ground, taken, later, workDate);
  const toPay = dueOf(due);
  const { currency } = orders[0]!;
  return {
    customer,
    contact,
    currency,
    mayOwe,
    referenceRequired,
    reference: (orders.find(({ state }) => state === 'draft') ?? orders[0]!).customerReference,
    orders: orders.map(({ id, number, version, state }) => ({ order: { kind: 'SO', id, number }, version, state })),
    lines: ground.lines.map((line) => ({
      id: line.orderLineId,
      orderId: line.orderId,
      lineNo: line.lineNo,
      item: line.item,
      byNumber: line.byNumber,
      free: line.freeWith,
      quantity: line.ordered,
      unitPrice: line.unitPrice,
      amount: line.toGoAmount,
      toGo: line.toGo,
      here: line.here,
      shipDate: line.shipDate,
      agreement: line.agreement && { kind: 'AG', id: line.agreement.id, number: line.agreement.number },
      left: line.agreement?.left ?? null,
      permit: line.permit,
      words:
        line.permitWanted === null
          ? []
          : [
              sentenceOf(
                refuse('permit-missing', '', {
                  customer: contact?.name ?? customer.name,
                  permit: line.permitWanted,
                  item: line.item.number,
                  day: line.shipDate,
                }),
              ),
            ],
    })),
    later,
    taken: [...taken].map(([lineId, quantity]) => ({ lineId, quantity })),
    due: { ...due, toPay: toPay.toFixed(), inCash: inCash(toPay, currency).toFixed() },
    vouchers: await vouchersOf(sql, companyId, customer.id, currency),
    cards: await cardsOf(sql, companyId, query.orders),
  };
}

/** Orders that were kept at the counter and wait at the till. */
export async function listWaiting(sql: Sql, companyId: number): Promise<Out<typeof contract.listWaiting>> {
  const rows = await sql.rows<{
    id: number;
    number: string;
    state: 'draft' | 'confirmed';
    day: Day;
    net: string;
    currency: string;
    partyId: number;
    partyNumber: string;
    partyName: string;
    who: string | null;
    count: number;
  }>(
    `SELECT o.id, o.number, o.state, o.counter_day AS day, o.net, o.currency, c.id AS party_id, c.number AS party_number, c.name AS party_name,
            k.name AS who, (SELECT COUNT(*) FROM sales_order_line l WHERE l.company_id = o.company_id AND l.order_id = o.id) AS count
       FROM sales_order o FORCE INDEX (sales_order_counter)
       JOIN customer c ON c.company_id = o.company_id AND c.id = o.customer_id
       LEFT JOIN contact k ON k.company_id = o.company_id AND k.id = o.contact_id
      WHERE o.company_id = ? AND o.counter_day > '0000-00-00' AND o.state IN ('draft', 'confirmed') ORDER BY o.counter_day DESC, o.id DESC LIMIT 50`,
    [companyId],
  );
  return {
    rows: rows.map(({ id, number, state, day, net, currency, partyId, partyNumber, partyName, who, count }) => ({
      order: { kind: 'SO', id, number },
      customer: { id: partyId, number: partyNumber, name: partyName },
      who: who ?? '',
      lines: count,
      net,
      currency,
      day,
      state,
    })),
  };
}
