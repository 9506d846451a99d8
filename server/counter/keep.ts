import type { Route } from '@core/catalogue';
import { keepRefusals, toBeDrawn } from '@core/counter';
import { dec } from '@core/kernel';
import type { OrderState } from '@core/orders';
import { decided, refuse } from '@core/refusals';
import * as contract from '@api/counter';
import { actNamed, defineAct, doWithin, orNotFound, type Doer, type Touched } from '../acts';
import { prepaymentMarkTable } from '../billing/tables';
import type { Sql, Tx } from '../db';
import { shipTosOf } from '../parties';
import { loadAtTill } from './ground';
import { tillNow } from './tills';

/** Rights that what is done at a counter asks for besides: they are the counter's own. */
export const atCounter = (doer: Doer): Doer => ({
  ...doer,
  rights: [...new Set([...doer.rights, 'orders', 'goods', 'customer-invoices', 'payments'] as const)],
});

/** Who buys, where they are served, and how the items that are typed go out. */
async function loadKeeping(
  sql: Sql,
  companyId: number,
  {
    id,
    customerId,
    contactId,
    tillId,
    lines,
  }: {
    id: number | null;
    customerId: number | null;
    contactId: number | null;
    tillId: number;
    lines: readonly { itemId: number }[];
  },
) {
  const till = await tillNow(sql, companyId, tillId);
  const [company] = await sql.rows<{ counterCustomerId: number | null }>(
    'SELECT counter_customer_id FROM company WHERE id = ?',
    [companyId],
  );
  const [contact] = await sql.rows<{ id: number; customerId: number | null }>(
    'SELECT id, customer_id FROM contact WHERE company_id = ? AND id = ? AND customer_id IS NOT NULL',
    [companyId, contactId ?? 0],
  );
  const [order] = await sql.rows<{
    id: number;
    number: string;
    state: OrderState;
    customerId: number;
    customerReference: string;
    version: number;
  }>(
    'SELECT id, number, state, customer_id, customer_reference, version FROM sales_order WHERE company_id = ? AND id = ?',
    [companyId, id ?? 0],
  );
  const buyerId = customerId ?? contact?.customerId ?? company?.counterCustomerId ?? null;
  const [buyer] = await sql.rows<{ id: number; name: string; currency: string }>(
    'SELECT id, name, currency FROM customer WHERE company_id = ? AND id = ?',
    [companyId, buyerId ?? 0],
  );
  const routes = await sql.rows<{ id: number; route: Route; free: string | null }>(
    `SELECT i.id, i.route, s.on_hand - s.reserved AS free FROM item i
       LEFT JOIN stock s ON s.company_id = i.company_id AND s.item_id = i.id AND s.location_id = ?
      WHERE i.company_id = ? AND i.id IN (?)`,
    [till.locationId, companyId, lines.map(({ itemId }) => itemId)],
  );
  const shipTos = buyer ? await shipTosOf(sql, companyId, buyer.id) : [];
  // Handed over here, nothing is carried to a freight zone. // R5
  const zones = await sql.rows<{ id: number }>(
    "SELECT id FROM ship_to WHERE company_id = ? AND customer_id = ? AND zone = '' ORDER BY id LIMIT 1",
    [companyId, buyer?.id ?? 0],
  );
  return {
    till,
    order: id === null ? null : orNotFound(order, 'This order'),
    contact: contactId === null ? null : orNotFound(contact, 'This contact'),
    buyer: buyer ?? null,
    shipToId: zones[0]?.id ?? shipTos[0]?.id ?? null,
    // What lies here is sold from here, however it is obtained otherwise.
    routes: new Map(routes.map(({ id: itemId, route, free }) => [itemId, dec(free ?? '0').gt(0) ? 'stock' : route])),
  };
}

/** An order as it is kept at the counter: a draft, or a new one in its place where somebody else buys by now. // C1 */
export const keepAtCounter = defineAct(contract.keepAtCounter, {
  right: 'counter',
  says: 'keep orders at the counter',
  done: 'kept at the counter',
  expectedVersion: ({ id, version }) => (id === null ? null : { kind: 'SO', id, version: version ?? 0 }),
  load: (sql, input, { companyId }) => loadKeeping(sql, companyId, input),
  decide: ({ till, order, buyer }) =>
    decided(keepRefusals({ currency: till.currency, order, buyer }), () => ({ buyer: buyer! })),
  preview: () => ({}),
  async write(tx, { buyer }, { order, contact, shipToId, routes, till }, doer, input) {
    const { companyId } = doer;
    const inner = atCounter(doer);
    const same = order !== null && order.customerId === buyer.id;
    if (order && !same) {
      const facts = { id: order.id, version: order.version, reason: 'Somebody else buys at the counter', supplies: [] };
      await doWithin(tx, actNamed('cancelOrder')!, facts, inner);
      await waitsNoMore(tx, companyId, [order.id]);
    }
    const saved = await doWithin(
      tx,
      actNamed('saveOrder')!,
      {
        id: same ? order.id : null,
        version: same ? order.version : null,
        customerId: buyer.id,
        shipToId,
        customerReference: input.reference ?? (same ? order.customerReference : ''),
        lines: input.lines.map(({ shipDate, ...line }) => ({
          ...line,
          id: same ? line.id : null,
          shipDate: shipDate ?? doer.workDate,
          route: routes.get(line.itemId) ?? 'stock',
          locationId: routes.get(line.itemId) === 'drop' ? undefined : till.locationId,
        })),
      },
      inner,
    );
    const made = saved.made[0] ?? null;
    const id = made?.id ?? order!.id;
    await tx.run('UPDATE sales_order SET contact_id = ?, counter_day = ? WHERE company_id = ? AND id = ?', [
      contact?.id ?? null,
      doer.workDate,
      companyId,
      id,
    ]);
    await markPrepayments(tx, doer, id);
    const left: Touched[] = order && !same ? [{ kind: 'SO', id: order.id, number: order.number }] : [];
    return { made: saved.made, touched: [...saved.touched, ...left] };
  },
});

/** Throws away what was only kept at the counter: nothing of it went out or was paid. // C1 */
export const dropAtCounter = defineAct(contract.dropAtCounter, {
  right: 'counter',
  says: 'throw away what is kept at the counter',
  done: 'thrown away at the counter',
  expectedVersion: ({ id, version }) => ({ kind: 'SO', id, version }),
  async load(sql, { id }, { companyId }) {
    const [order] = await sql.rows<{ id: number; number: string; state: string; counterDay: string | null }>(
      'SELECT id, number, state, counter_day FROM sales_order WHERE company_id = ? AND id = ?',
      [companyId, id],
    );
    return orNotFound(order, 'This order');
  },
  decide: ({ number, state, counterDay }) =>
    decided(
      state === 'draft' && counterDay !== null ? [] : [refuse('not-kept-here', '', { order: number })],
      () => ({}),
    ),
  preview: () => ({}),
  async write(tx, _effects, _order, doer, { id, version }) {
    const reason = 'Thrown away at the counter';
    const cancelled = await doWithin(
      tx,
      actNamed('cancelOrder')!,
      { id, version, reason, supplies: [] },
      atCounter(doer),
    );
    await waitsNoMore(tx, doer.companyId, [id]);
    return { made: [], touched: cancelled.touched };
  },
});

/** Orders that wait at no till any more: nothing is kept for them. // C1 */
export async function waitsNoMore(tx: Tx, companyId: number, orderIds: readonly number[]): Promise<void> {
  await tx.batch([
    {
      sql: 'UPDATE sales_order SET counter_day = NULL WHERE company_id = ? AND id IN (?)',
      values: [companyId, [...orderIds]],
    },
    {
      sql: 'DELETE FROM prepayment_mark WHERE company_id = ? AND order_id IN (?)',
      values: [companyId, [...orderIds]],
    },
  ]);
}

/** Keeps of the prepayments of its agreements what an order will draw: no other order does meanwhile. // C1 */
async function markPrepayments(tx: Tx, { companyId, workDate }: Doer, orderId: number): Promise<void> {
  await tx.run('DELETE FROM prepayment_mark WHERE company_id = ? AND order_id = ?', [companyId, orderId]);
  const { ground } = await loadAtTill(tx, companyId, [orderId], workDate);
  await tx.insertPlain(
    prepaymentMarkTable,
    toBeDrawn(ground, workDate).map((mark) => ({ companyId, orderId, ...mark })),
  );
}
