import { dec } from '@core/kernel';
import { decideFromPurchase } from '@core/supply';
import * as contract from '@api/orders';
import { defineAct, takeNumbers, orNotFound } from '../acts';
import { counterStatements, loadOffers } from '../agreements';
import type { Columns } from '../db';
import { shipTosOf } from '../parties';
import { orderPricing } from '../pricing';
import { tieStatements } from '../supply';
import { standingOf } from './standing';
import { insertOrder, netOf, permitStatements, pricedItems } from './store';
import type { PurchaseOrder, PurchaseOrderLine } from '../purchasing/tables';

/** A drop shipment that is for nobody becomes a confirmed order of the customer it goes to, tied to it. // L4 */
export const orderFromPurchase = defineAct(contract.orderFromPurchase, {
  right: 'orders',
  says: 'make sales orders of purchases',
  done: 'order made of a purchase',
  expectedVersion: ({ purchaseId, version }) => ({ kind: 'PO', id: purchaseId, version }),
  async load(tx, input, doer) {
    const { companyId, workDate } = doer;
    const [owner] = await tx.rows<{ customerId: number | null }>(
      `SELECT s.customer_id FROM purchase_order p
         LEFT JOIN ship_to s ON s.company_id = p.company_id AND s.id = p.ship_to_id
        WHERE p.company_id = ? AND p.id = ?`,
      [companyId, input.purchaseId],
    );
    const customerId = orNotFound(owner, 'This purchase order').customerId;
    // Agreements before the purchase; the order is new, so nobody else holds it.
    const offers = customerId === null ? [] : await loadOffers(tx, companyId, { customerId, day: workDate });
    const [head] = await tx.rows<Columns<PurchaseOrder, 'id number state shipToId'>>(
      `SELECT id, number, state, ship_to_id FROM purchase_order WHERE company_id = ? AND id = ? ${tx.forUpdate}`,
      [companyId, input.purchaseId],
    );
    const lines = await tx.rows<Columns<PurchaseOrderLine, 'id itemId quantity tied dueDate'>>(
      `SELECT id, item_id, quantity, tied, due_date FROM purchase_order_line
        WHERE company_id = ? AND purchase_order_id = ? AND tied < quantity ORDER BY line_no`,
      [companyId, input.purchaseId],
    );
    const [owned] = await tx.rows<{ id: number; contractedOnly: boolean }>(
      'SELECT id, contracted_only FROM customer WHERE company_id = ? AND id = ?',
      [companyId, customerId ?? 0],
    );
    const customer = owned && {
      ...owned,
      ...(await standingOf(tx, companyId, owned.id, null, 'done')),
    };
    const purchase = orNotFound(head, 'This purchase order');
    return {
      purchase: { ...purchase },
      loose: lines.map((line) => ({
        id: line.id,
        itemId: line.itemId,
        quantity: dec(line.quantity).minus(line.tied).toFixed(),
        shipDate: line.dueDate < workDate ? workDate : line.dueDate,
      })),
      offers,
      customer: customer ?? null,
      shipToIds: customer ? (await shipTosOf(tx, companyId, customer.id)).map((each) => each.id) : [],
      items: await pricedItems(
        tx,
        companyId,
        customerId,
        lines.map((line) => line.itemId),
      ),
      pricing: await orderPricing(tx, doer, customerId, workDate),
    };
  },
  decide: (ground, input, doer) => decideFromPurchase(ground, input.customerReference, doer.workDate),
  preview: (effects, { customer, items }) => ({
    customer: customer!.name,
    currency: customer!.currency,
    net: netOf(effects.lines),
    lines: effects.lines.map((line) => ({
      item: items.get(line.itemId)!.number,
      quantity: line.quantity,
      unitPrice: line.unitPrice,
      amount: line.amount,
      shipDate: line.shipDate,
    })),
  }),
  async write(tx, effects, { purchase, customer }, doer) {
    const { companyId, workDate } = doer;
    const counters = counterStatements(companyId, 'released', effects.released);
    const number = (await takeNumbers(tx, companyId, { SO: 1 }, counters))('SO');
    const { shipToId, customerReference, lines } = effects;
    const { id: customerId, currency } = customer!;
    const head = { customerId, agreementId: null, shipToId, customerReference, orderDate: workDate, currency };
    const id = await insertOrder(tx, doer, number, head, lines);
    const made = await tx.rows<{ id: number }>(
      'SELECT id FROM sales_order_line WHERE company_id = ? AND order_id = ? ORDER BY line_no',
      [companyId, id],
    );
    const ties = lines.map(({ quantity }, index) => ({
      orderLineId: made[index]!.id,
      purchaseLineId: effects.purchaseLineIds[index]!,
      quantity,
    }));
    await tx.batch([
      { sql: "UPDATE sales_order SET state = 'confirmed' WHERE company_id = ? AND id = ?", values: [companyId, id] },
      ...ties.flatMap((tie) => tieStatements(companyId, tie)),
      ...permitStatements(
        companyId,
        effects.permits.map((permitId, index) => ({ lineId: made[index]!.id, permitId })),
      ),
    ]);
    return {
      made: [{ kind: 'SO', id, number, version: 1 }],
      touched: [{ kind: 'PO', id: purchase.id, number: purchase.number }],
    };
  },
});
