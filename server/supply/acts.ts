import type { ReleaseEffects } from '@core/agreements';
import { dec, MAIN_LOCATION, sum } from '@core/kernel';
import { decidePlacement, decidePurchase, type PurchaseLinePlan, type PurchasePlan } from '@core/supply';
import * as purchasing from '@api/purchasing';
import * as contract from '@api/supply';
import { defineAct, takeNumbers, type Doer, type Touched } from '../acts';
import { counterStatements, loadOffers } from '../agreements';
import { locationsOf } from '../catalogue';
import { takeTurn, type Sql, type Statement, type Tx } from '../db';
import { loadBenchPlanned, placedStatements } from './planned';
import { boughtItems, loadBenchLines, supplyDaysOf } from './store';
import { inStepStatements } from './in-step';
import { purchaseOrderLineTable, purchaseOrderTable } from '../purchasing/tables';
import { tieTable } from './tables';

const placePurchases = defineAct(contract.placePurchases, {
  right: 'purchases',
  says: 'place purchase orders',
  done: 'purchase placed',
  async load(tx, input, doer) {
    const vendorIds = [...new Set([...input.lines, ...(input.planned ?? [])].map((each) => each.vendorId))];
    // Buying agreements first: the lock order is agreements, orders, the turn, purchases.
    const buying = await loadOffers(tx, doer.companyId, {
      vendorIds,
      day: doer.workDate,
    });
    const lines = await loadBenchLines(
      tx,
      doer.companyId,
      input.lines.map((line) => line.orderLineId),
      doer.workDate,
    );
    const shipTos = await tx.rows<{ id: number; label: string; name: string }>(
      `SELECT s.id, s.label, c.name FROM ship_to s JOIN customer c ON c.company_id = s.company_id AND c.id = s.customer_id
        WHERE s.company_id = ? AND s.id IN (?)`,
      [doer.companyId, lines.map((line) => line.shipToId)],
    );
    const places = await locationsOf(tx, doer.companyId);
    const asked = input.planned ?? [];
    // Who promises meanwhile may plan it away: one after the other.
    if (asked.length > 0) await takeTurn(tx, 'promise_turn', [doer.companyId]);
    const planned = await loadBenchPlanned(
      tx,
      doer.companyId,
      asked.map((each) => each.plannedId),
      doer.workDate,
    );
    return {
      lines,
      planned,
      days: await supplyDaysOf(tx, doer.companyId, doer.workDate, vendorIds),
      buying,
      shipTos: new Map(shipTos.map((row) => [row.id, `${row.label}, ${row.name}`])),
      places: new Map(places.map(({ id, name }) => [id, id === MAIN_LOCATION ? 'our place' : name])),
    };
  },
  decide: ({ lines, planned, buying, days }, input) =>
    decidePlacement(
      { lines, planned, days, buying: buying.map((offer) => ({ ...offer, vendorId: offer.vendorId ?? 0 })) },
      { lines: input.lines, planned: input.planned ?? [] },
    ),
  preview: ({ purchases }, { lines, planned, buying, shipTos, places }) => ({
    purchases: purchases.map((plan) => ({
      vendor:
        [...lines, ...planned].flatMap((each) => each.offers).find((offer) => offer.vendorId === plan.vendorId)
          ?.vendor ?? '',
      shipTo: (plan.shipToId === null ? places.get(plan.locationId) : shipTos.get(plan.shipToId)) ?? '',
      currency: plan.currency,
      net: netOf(plan),
      lines: plan.lines.map((line) => ({
        orderLineIds: line.ties.map((tie) => tie.orderLineId),
        plannedIds: line.planned,
        item: [...lines, ...planned].find((each) => each.item.id === line.itemId)!.item.number,
        quantity: line.quantity,
        spare: line.spare,
        unitPrice: line.unitPrice,
        agreement: buying.find((offer) => offer.line.id === line.agreementLineId)?.agreement.number ?? null,
        dueDate: line.dueDate,
        late:
          line.ties.some((tie) => line.dueDate > lines.find((each) => each.id === tie.orderLineId)!.shipDate) ||
          line.planned.some((id) => line.dueDate > planned.find((each) => each.id === id)!.dueDate),
      })),
    })),
  }),
  async write(tx, { purchases, released, uncovered }, { lines, planned, buying }, doer) {
    await coverLines(tx, doer, purchases);
    await tx.batch(
      uncovered.map(({ componentId, by }) => ({
        sql: 'UPDATE planned_component SET covered = covered - ? WHERE company_id = ? AND id = ?',
        values: [by, doer.companyId, componentId],
      })),
    );
    const counters = counterStatements(doer.companyId, 'released', released);
    const number = await takeNumbers(tx, doer.companyId, { PO: purchases.length }, counters);
    const made = await insertPurchases(tx, doer, purchases, () => number('PO'));
    const ties = purchases.flatMap((plan) => plan.lines.flatMap((line) => line.ties));
    await tx.batch(
      inStepStatements(
        doer.companyId,
        'orderLine',
        ties.map((tie) => tie.orderLineId),
      ),
    );
    const orders = new Map(
      ties
        .map((tie) => lines.find((each) => each.id === tie.orderLineId)!.order)
        .map((order) => [order.id, { kind: 'SO' as const, id: order.id, number: order.number }]),
    );
    const carriedOut = planned.map(({ id, number: planNumber }) => ({ kind: 'PL' as const, id, number: planNumber }));
    return { made, touched: [...orders.values(), ...carriedOut, ...agreementsTouched(buying, released)] };
  },
});

function netOf(plan: PurchasePlan): string {
  return sum(plan.lines.map((line) => dec(line.amount))).toFixed();
}

/** The placed lines are covered by what is tied to them; those covered whole leave the bench. // L1 */
async function coverLines(tx: Tx, doer: Doer, plans: readonly PurchasePlan[]): Promise<void> {
  const ties = plans.flatMap((plan) => plan.lines.flatMap((line) => line.ties));
  await tx.batch(ties.map((tie) => tiedStatement(doer.companyId, tie.orderLineId, tie.quantity)));
}

/** Counts a tie's change on its order line, and whether the line still waits on the bench. // L1 */
export function tiedStatement(companyId: number, orderLineId: number, quantity: string): Statement {
  return {
    sql: `UPDATE sales_order_line SET tied = tied + ?, on_bench = tied < quantity - cancelled
           WHERE company_id = ? AND id = ?`,
    values: [quantity, companyId, orderLineId],
  };
}

/** Ties an order line to a purchase line, counted on both; the same pair tied before grows by it. // L1 */
export function tieStatements(
  companyId: number,
  { orderLineId, purchaseLineId, quantity }: { orderLineId: number; purchaseLineId: number; quantity: string },
): Statement[] {
  return [
    tiedStatement(companyId, orderLineId, quantity),
    {
      sql: 'UPDATE purchase_order_line SET tied = tied + ? WHERE company_id = ? AND id = ?',
      values: [quantity, companyId, purchaseLineId],
    },
    {
      sql: `INSERT INTO tie (company_id, order_line_id, purchase_line_id, quantity) VALUES (?, ?, ?, ?)
             ON DUPLICATE KEY UPDATE quantity = quantity + VALUES(quantity)`,
      values: [companyId, orderLineId, purchaseLineId, quantity],
    },
    ...inStepStatements(companyId, 'orderLine', [orderLineId]),
  ];
}

/** Writes placed purchase orders with their lines and ties. */
export async function insertPurchases(
  tx: Tx,
  doer: Doer,
  plans: readonly PurchasePlan[],
  nextNumber: () => string,
): Promise<Touched[]> {
  const heads = plans.map((plan) => ({
    companyId: doer.companyId,
    number: nextNumber(),
    vendorId: plan.vendorId,
    shipToId: plan.shipToId,
    locationId: plan.locationId,
    orderDate: doer.workDate,
    firstDueDate: plan.lines.map((line) => line.dueDate).sort()[0]!,
    currency: plan.currency,
    net: netOf(plan),
  }));
  const ids = await tx.insert(purchaseOrderTable, heads);
  const lines = plans.flatMap((plan, index) =>
    plan.lines.map((line, at) => ({ ...line, purchaseOrderId: ids[index]!, lineNo: at + 1 })),
  );
  const lineIds = await insertLines(tx, doer, lines);
  await tx.insert(
    tieTable,
    lines.flatMap((line, index) =>
      line.ties.map((tie) => ({
        companyId: doer.companyId,
        ...tie,
        purchaseLineId: lineIds[index]!,
      })),
    ),
  );
  await tx.batch(
    placedStatements(
      doer.companyId,
      lines.flatMap((line, index) => line.planned.map((plannedId) => ({ plannedId, purchaseLineId: lineIds[index]! }))),
    ),
  );
  return heads.map((head, index) => ({ kind: 'PO', id: ids[index]!, number: head.number, version: 1 }));
}

/** Writes lines of purchase orders; their ids. */
export function insertLines(
  tx: Tx,
  doer: Doer,
  lines: readonly (PurchaseLinePlan & { purchaseOrderId: number; lineNo: number })[],
): Promise<number[]> {
  return tx.insert(
    purchaseOrderLineTable,
    lines.map((line) => ({
      companyId: doer.companyId,
      purchaseOrderId: line.purchaseOrderId,
      lineNo: line.lineNo,
      itemId: line.itemId,
      quantity: line.quantity,
      unitPrice: line.unitPrice,
      amount: line.amount,
      agreementLineId: line.agreementLineId,
      agreedAmount: line.agreedAmount,
      taxCodeId: line.taxCodeId,
      taxRate: line.taxRate,
      dueDate: line.dueDate,
      reason: line.reason,
      tied: sum(line.ties.map((tie) => dec(tie.quantity))).toFixed(),
    })),
  );
}

/** A release of a buying agreement: a purchase order placed for our own stock; its id. // A6 */
export async function insertReleasedPurchase(
  tx: Tx,
  doer: Doer,
  number: string,
  { order, lines }: ReleaseEffects,
): Promise<number> {
  const [id] = await tx.insert(purchaseOrderTable, [
    {
      companyId: doer.companyId,
      number,
      vendorId: order.partyId,
      agreementId: order.agreementId,
      orderDate: order.orderDate,
      firstDueDate: lines.map((line) => line.shipDate).sort()[0]!,
      currency: order.currency,
      net: sum(lines.map((line) => dec(line.amount))).toFixed(),
    },
  ]);
  await tx.insert(
    purchaseOrderLineTable,
    lines.map((line, index) => ({
      companyId: doer.companyId,
      purchaseOrderId: id!,
      lineNo: index + 1,
      itemId: line.itemId,
      agreementLineId: line.agreementLineId,
      agreedAmount: line.agreedAmount,
      quantity: line.quantity,
      unitPrice: line.unitPrice,
      amount: line.amount,
      taxCodeId: line.taxCodeId,
      taxRate: line.taxRate,
      dueDate: line.shipDate,
    })),
  );
  return id!;
}

/** Vendors as a purchase order is placed with them. */
export function vendorsOf(sql: Sql, companyId: number, ids: readonly number[]) {
  return sql.rows<{ id: number; name: string; currency: string; outOfUse: boolean }>(
    'SELECT id, name, currency, out_of_use FROM vendor WHERE company_id = ? AND id IN (?)',
    [companyId, ids],
  );
}

/** A purchase order typed by hand, for nobody yet. // L4 */
const enterPurchase = defineAct(purchasing.enterPurchase, {
  right: 'purchases',
  says: 'enter purchase orders',
  done: 'purchase entered',
  async load(tx, input, doer) {
    const { companyId } = doer;
    const vendorId = input.vendorId ?? 0;
    const buying = await loadOffers(tx, companyId, { vendorIds: [vendorId], day: doer.workDate });
    const [vendor] = await vendorsOf(tx, companyId, [vendorId]);
    const shipTos = await tx.rows<{ id: number }>('SELECT id FROM ship_to WHERE company_id = ? AND id = ?', [
      companyId,
      input.shipToId ?? 0,
    ]);
    return {
      vendor: vendor ?? null,
      shipToIds: shipTos.map((row) => row.id),
      locationIds: (await locationsOf(tx, companyId)).map((each) => each.id),
      items: await boughtItems(
        tx,
        companyId,
        input.lines.flatMap((line) => line.itemId ?? []),
        doer.workDate,
      ),
      buying: buying.map((offer) => ({ ...offer, vendorId: offer.vendorId ?? 0 })),
    };
  },
  decide: (ground, input, doer) => decidePurchase(ground, input, doer.workDate),
  preview: ({ purchase, typed }, { buying }) => ({
    currency: purchase.currency,
    net: netOf(purchase),
    lines: typed.map(({ agreementLineId, ...line }) => ({
      ...line,
      agreement: buying.find((offer) => offer.line.id === agreementLineId)?.agreement.number ?? null,
    })),
  }),
  async write(tx, { purchase, released }, { buying }, doer) {
    const counters = counterStatements(doer.companyId, 'released', released);
    const number = await takeNumbers(tx, doer.companyId, { PO: 1 }, counters);
    const made = await insertPurchases(tx, doer, [purchase], () => number('PO'));
    return { made, touched: agreementsTouched(buying, released) };
  },
});

/** The buying agreements from which something was taken. */
export function agreementsTouched(
  buying: readonly { agreement: { id: number; number: string }; line: { id: number } }[],
  released: readonly { agreementLineId: number }[],
): Touched[] {
  const taken = buying.filter((offer) => released.some((each) => each.agreementLineId === offer.line.id));
  return [...new Map(taken.map(({ agreement }) => [agreement.id, agreement])).values()].map(({ id, number }) => ({
    kind: 'AG',
    id,
    number,
  }));
}

export const supplyActs = [placePurchases, enterPurchase];
