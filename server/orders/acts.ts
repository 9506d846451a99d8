import type { LimitPolicy } from '@core/agreements';
import type { OrderEffects } from '@core/orders';
import { decideCancel, decideConfirm, decideOrder } from '@core/orders';
import * as contract from '@api/orders';
import { defineAct, takeNumbers, type Doer } from '../acts';
import { counterStatements, lockAgreements } from '../agreements';
import type { Sql, Tx } from '../db/database';
import { plain, shipTosOf } from '../db/mapping';
import {
  agreementOf,
  firstShipDate,
  insertLines,
  insertOrder,
  lineColumns,
  linesNow,
  lockOrder,
  netOf,
  orderItems,
  type OrderHead,
} from './store';

const saveOrder = defineAct(contract.saveOrder, {
  right: 'orders',
  says: 'save sales orders',
  saw: ({ id, version }) => (id === null ? null : { kind: 'SO', id, version: version ?? 0 }),
  async load(tx, input, doer) {
    const { companyId } = doer;
    const agreementId = input.id === null ? null : await agreementOf(tx, companyId, input.id);
    const agreements = await lockAgreements(tx, companyId, [agreementId]);
    const head = input.id === null ? null : await lockOrder(tx, companyId, input.id);
    const customerId = head?.customer_id ?? input.customerId;
    const lines = head ? await linesNow(tx, companyId, head.id) : [];
    const itemIds = [
      ...input.lines.flatMap((line) => (line.itemId === null ? [] : [line.itemId])),
      ...lines.map((line) => line.itemId),
    ];
    const [customer] = await tx.rows<{ id: number; name: string; currency: string }>(
      'SELECT id, name, currency FROM customer WHERE company_id = ? AND id = ?',
      [companyId, customerId ?? 0],
    );
    const shipTos = customer ? await shipTosOf(tx, companyId, customer.id) : [];
    return {
      head,
      agreements,
      current: head && { number: head.number, state: head.state, lines },
      customer: customer ?? null,
      shipToIds: shipTos.map((each) => each.id),
      items: await orderItems(tx, companyId, itemIds),
      ...(await limitsOf(tx, companyId, agreementId)),
    };
  },
  decide: (ground, input, doer) => decideOrder(ground, input, doer.workDate),
  show: (effects) => ({ net: netOf(effects.lines) }),
  async write(tx, effects, { head, customer, agreements }, doer) {
    if (!head) {
      const number = (await takeNumbers(tx, doer.companyId, { SO: 1 }))('SO');
      const order = {
        customerId: customer!.id,
        agreementId: null,
        shipToId: effects.shipToId,
        customerReference: effects.customerReference,
        orderDate: doer.workDate,
        currency: customer!.currency,
      };
      const lines = effects.lines.map((line) => ({ ...line, agreementLineId: null }));
      const id = await insertOrder(tx, doer, number, order, lines);
      return { made: [{ kind: 'SO', id, number, version: 1 }], touched: [] };
    }
    await tx.together(counterStatements(doer.companyId, 'released', effects.released));
    await changeLines(tx, doer, head, effects);
    return {
      made: [],
      touched: [{ kind: 'SO', id: head.id, number: head.number, version: head.version + 1 }, ...agreements],
    };
  },
});

async function limitsOf(sql: Sql, companyId: number, agreementId: number | null) {
  if (agreementId === null) return { agreement: null, agreementLines: new Map() };
  const rows = await sql.rows<{
    number: string;
    limit_policy: LimitPolicy;
    tolerance_percent: string;
    id: number;
    committed: string;
    released: string;
  }>(
    `SELECT a.number, a.limit_policy, a.tolerance_percent, l.id, l.committed, l.released
       FROM agreement a JOIN agreement_line l ON l.company_id = a.company_id AND l.agreement_id = a.id
      WHERE a.company_id = ? AND a.id = ?`,
    [companyId, agreementId],
  );
  const first = rows[0]!;
  return {
    agreement: {
      number: first.number,
      limitPolicy: first.limit_policy,
      tolerancePercent: plain(first.tolerance_percent),
    },
    agreementLines: new Map(
      rows.map((row) => [row.id, { committed: plain(row.committed), released: plain(row.released) }]),
    ),
  };
}

async function changeLines(tx: Tx, doer: Doer, head: OrderHead, effects: OrderEffects) {
  if (effects.removedLineIds.length > 0) {
    await tx.run('DELETE FROM sales_order_line WHERE company_id = ? AND id IN (?)', [
      doer.companyId,
      effects.removedLineIds,
    ]);
  }
  for (const line of effects.lines) {
    if (line.id === null) continue;
    const columns = lineColumns(line);
    await tx.run(
      `UPDATE sales_order_line SET ${Object.keys(columns)
        .map((column) => `${column} = ?`)
        .join(', ')} WHERE company_id = ? AND id = ?`,
      [...Object.values(columns), doer.companyId, line.id],
    );
  }
  const [last] = await tx.rows<{ line_no: number | null }>(
    'SELECT MAX(line_no) AS line_no FROM sales_order_line WHERE company_id = ? AND order_id = ?',
    [doer.companyId, head.id],
  );
  const added = effects.lines.filter((line) => line.id === null).map((line) => ({ ...line, agreementLineId: null }));
  await insertLines(tx, doer, head.id, added, (last?.line_no ?? 0) + 1);
  await tx.run(
    `UPDATE sales_order SET ship_to_id = ?, customer_reference = ?, first_ship_date = ?, net = ?, version = version + 1
      WHERE company_id = ? AND id = ?`,
    [
      effects.shipToId,
      effects.customerReference,
      firstShipDate(effects.lines),
      netOf(effects.lines),
      doer.companyId,
      head.id,
    ],
  );
}

const confirmOrder = defineAct(contract.confirmOrder, {
  right: 'orders',
  says: 'confirm sales orders',
  saw: ({ id, version }) => ({ kind: 'SO', id, version }),
  async load(tx, input, doer) {
    const head = await lockOrder(tx, doer.companyId, input.id);
    const lines = await linesNow(tx, doer.companyId, head.id);
    const items = await orderItems(
      tx,
      doer.companyId,
      lines.map((line) => line.itemId),
    );
    const [customer] = await tx.rows<{ name: string; reference_required: number }>(
      'SELECT name, reference_required FROM customer WHERE company_id = ? AND id = ?',
      [doer.companyId, head.customer_id],
    );
    return {
      head,
      customer: { name: customer!.name, referenceRequired: Boolean(customer!.reference_required) },
      lines: lines.map((line) => ({ ...line, item: items.get(line.itemId)! })),
    };
  },
  decide: ({ head, customer, lines }, _input, doer) =>
    decideConfirm(
      {
        order: {
          number: head.number,
          state: head.state,
          shipToId: head.ship_to_id,
          customerReference: head.customer_reference,
        },
        customer,
        lines,
      },
      doer.workDate,
    ),
  show: (effects) => effects,
  async write(tx, effects, { head }, doer) {
    await setState(tx, doer, head, effects.state);
    await tx.run(
      "UPDATE sales_order_line SET on_bench = TRUE WHERE company_id = ? AND order_id = ? AND route = 'drop' AND tied < quantity - cancelled",
      [doer.companyId, head.id],
    );
    return { made: [], touched: [changed(head)] };
  },
});

const cancelOrder = defineAct(contract.cancelOrder, {
  right: 'orders',
  says: 'cancel sales orders',
  saw: ({ id, version }) => ({ kind: 'SO', id, version }),
  async load(tx, input, doer) {
    const { companyId } = doer;
    const agreements = await lockAgreements(tx, companyId, [await agreementOf(tx, companyId, input.id)]);
    const head = await lockOrder(tx, companyId, input.id);
    const lines = await linesNow(tx, companyId, head.id);
    const purchases = await tx.rows<{ number: string }>(
      `SELECT DISTINCT p.number FROM sales_order_line l
         JOIN tie t ON t.company_id = l.company_id AND t.order_line_id = l.id
         JOIN purchase_order_line pl ON pl.company_id = t.company_id AND pl.id = t.purchase_line_id
         JOIN purchase_order p ON p.company_id = pl.company_id AND p.id = pl.purchase_order_id
        WHERE l.company_id = ? AND l.order_id = ?`,
      [companyId, head.id],
    );
    return {
      head,
      agreements,
      lines,
      purchases: purchases.map((row) => row.number),
      moved: lines.some((line) => line.shipped !== '0'),
    };
  },
  decide: (ground) => decideCancel({ ...ground, order: ground.head }),
  show: (effects) => ({ state: effects.state }),
  async write(tx, effects, { head, agreements }, doer) {
    await tx.together(counterStatements(doer.companyId, 'released', effects.released));
    await setState(tx, doer, head, effects.state);
    await tx.run(
      'UPDATE sales_order_line SET cancelled = quantity, on_bench = FALSE WHERE company_id = ? AND id IN (?)',
      [doer.companyId, effects.lineIds],
    );
    return { made: [], touched: [changed(head), ...agreements] };
  },
});

function setState(tx: Tx, doer: Doer, head: OrderHead, state: string) {
  return tx.run('UPDATE sales_order SET state = ?, version = version + 1 WHERE company_id = ? AND id = ?', [
    state,
    doer.companyId,
    head.id,
  ]);
}

function changed(head: OrderHead) {
  return { kind: 'SO' as const, id: head.id, number: head.number, version: head.version + 1 };
}

export const orderActs = [saveOrder, confirmOrder, cancelOrder];
