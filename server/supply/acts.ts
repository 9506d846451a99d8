import { dec, lineAmount, sum } from '@core/kernel';
import { decidePlacement, type PurchasePlan } from '@core/supply';
import * as contract from '@api/supply';
import { defineAct, takeNumbers, type Doer, type Touched } from '../acts';
import type { Tx } from '../db/database';
import { lockBenchLines } from './store';

const placePurchases = defineAct(contract.placePurchases, {
  right: 'purchases',
  says: 'place purchase orders',
  async load(tx, input, doer) {
    const lines = await lockBenchLines(
      tx,
      doer.companyId,
      input.lines.map((line) => line.orderLineId),
    );
    const shipTos = await tx.rows<{ id: number; label: string; name: string }>(
      `SELECT s.id, s.label, c.name FROM ship_to s JOIN customer c ON c.company_id = s.company_id AND c.id = s.customer_id
        WHERE s.company_id = ? AND s.id IN (?)`,
      [doer.companyId, [0, ...lines.map((line) => line.shipToId)]],
    );
    return { lines, shipTos: new Map(shipTos.map((row) => [row.id, `${row.label}, ${row.name}`])) };
  },
  decide: ({ lines }, input, doer) => decidePlacement(lines, input.lines, doer.workDate),
  show: ({ purchases }, { lines, shipTos }) => ({
    purchases: purchases.map((plan) => ({
      vendor: lines.flatMap((line) => line.offers).find((offer) => offer.vendorId === plan.vendorId)?.vendor ?? '',
      shipTo: shipTos.get(plan.shipToId) ?? '',
      currency: plan.currency,
      net: netOf(plan),
      lines: plan.lines.map((line) => ({
        orderLineId: line.orderLineId,
        quantity: line.quantity,
        unitPrice: line.unitPrice,
        dueDate: line.dueDate,
        late: line.dueDate > lines.find((each) => each.id === line.orderLineId)!.shipDate,
      })),
    })),
  }),
  async write(tx, { purchases }, { lines }, doer) {
    await coverLines(tx, doer, purchases);
    const number = await takeNumbers(tx, doer.companyId, { PO: purchases.length });
    const made = await insertPurchases(tx, doer, purchases, () => number('PO'));
    const orders = new Map(
      purchases
        .flatMap((plan) => plan.lines)
        .map((line) => lines.find((each) => each.id === line.orderLineId)!.order)
        .map((order) => [order.id, { kind: 'SO' as const, id: order.id, number: order.number }]),
    );
    return { made, touched: [...orders.values()] };
  },
});

function netOf(plan: PurchasePlan): string {
  return sum(plan.lines.map((line) => lineAmount(dec(line.quantity), dec(line.unitPrice), plan.currency))).toFixed();
}

/** The placed lines are covered whole and leave the bench. // L1 */
async function coverLines(tx: Tx, doer: Doer, plans: readonly PurchasePlan[]): Promise<void> {
  await tx.run(
    'UPDATE sales_order_line SET tied = quantity - cancelled, on_bench = FALSE WHERE company_id = ? AND id IN (?)',
    [doer.companyId, plans.flatMap((plan) => plan.lines.map((line) => line.orderLineId))],
  );
}

async function insertPurchases(
  tx: Tx,
  doer: Doer,
  plans: readonly PurchasePlan[],
  nextNumber: () => string,
): Promise<Touched[]> {
  const heads = plans.map((plan) => ({
    company_id: doer.companyId,
    number: nextNumber(),
    vendor_id: plan.vendorId,
    ship_to_id: plan.shipToId,
    order_date: doer.workDate,
    first_due_date: plan.lines.map((line) => line.dueDate).sort()[0]!,
    currency: plan.currency,
    net: netOf(plan),
  }));
  const ids = await tx.insert('purchase_order', heads);
  const lines = plans.flatMap((plan, index) =>
    plan.lines.map((line, at) => ({ ...line, currency: plan.currency, orderId: ids[index]!, lineNo: at + 1 })),
  );
  const lineIds = await tx.insert(
    'purchase_order_line',
    lines.map((line) => ({
      company_id: doer.companyId,
      purchase_order_id: line.orderId,
      line_no: line.lineNo,
      item_id: line.itemId,
      quantity: line.quantity,
      unit_price: line.unitPrice,
      amount: lineAmount(dec(line.quantity), dec(line.unitPrice), line.currency).toFixed(),
      tax_code_id: line.taxCodeId,
      tax_rate: line.taxRate,
      due_date: line.dueDate,
      tied: line.quantity,
    })),
  );
  await tx.insert(
    'tie',
    lines.map((line, index) => ({
      company_id: doer.companyId,
      order_line_id: line.orderLineId,
      purchase_line_id: lineIds[index]!,
      quantity: line.quantity,
    })),
  );
  return heads.map((head, index) => ({ kind: 'PO', id: ids[index]!, number: head.number, version: 1 }));
}

export const supplyActs = [placePurchases];
