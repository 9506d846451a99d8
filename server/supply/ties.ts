import { dec } from '@core/kernel';
import { decideTie, decideToStock, decideUntie, fittingQuantity, rankSales, rankSupplies } from '@core/supply';
import type * as z from 'zod';
import * as contract from '@api/supply';
import { defineAct, orNotFound, type Touched } from '../acts';
import type { Sql, Columns } from '../db';
import { loadSalesEnd, loadSupplyEnd, loadTiesById, openSales, openSupplies } from './tie-ends';
import { tiedStatement, tieStatements } from './acts';
import { inStepStatements } from './in-step';
import type { PurchaseOrder, PurchaseOrderLine } from '../purchasing/tables';

/** Ties a sales line to a purchase line; the same pair tied before grows by it. // L1 L5 */
const tieLine = defineAct(contract.tieLine, {
  right: 'purchases',
  says: 'tie purchases to sales orders',
  done: 'tied',
  async load(tx, input, doer) {
    const sales = await loadSalesEnd(tx, doer.companyId, input.orderLineId);
    return { sales, supply: await loadSupplyEnd(tx, doer.companyId, input.purchaseLineId) };
  },
  decide: ({ sales, supply }, input) => decideTie(sales, supply, input.quantity),
  preview: (effects, { sales, supply }) => ({
    order: sales.order.number,
    purchase: supply.purchase.number,
    quantity: effects.quantity,
    left: dec(sales.uncovered).minus(effects.quantity).toFixed(),
    late: supply.dueDate > sales.shipDate,
  }),
  async write(tx, { orderLineId, purchaseLineId, quantity }, { sales, supply }, { companyId }) {
    await tx.batch(tieStatements(companyId, { orderLineId, purchaseLineId, quantity }));
    return { made: [], touched: [refOf('SO', sales.order), refOf('PO', supply.purchase)] };
  },
});

/** Parts ties on which nothing was received; the purchase stands for nobody, or for stock, from then on. // L4 */
export const untie = defineAct(contract.untie, {
  right: 'purchases',
  says: 'untie purchases from sales orders',
  done: 'untied',
  load: (tx, input, doer) => loadTiesById(tx, doer.companyId, input.tieIds),
  decide: (ties) => decideUntie(ties),
  preview: ({ ties }) => ({
    ties: ties.map((tie) => ({
      order: tie.sales.order.number,
      purchase: tie.supply.purchase.number,
      quantity: tie.quantity,
    })),
  }),
  async write(tx, { ties }, _ground, { companyId }) {
    await tx.batch(
      ties.flatMap((tie) => [
        { sql: 'DELETE FROM tie WHERE company_id = ? AND id = ?', values: [companyId, tie.id] },
        {
          sql: 'UPDATE purchase_order_line SET tied = tied - ? WHERE company_id = ? AND id = ?',
          values: [tie.quantity, companyId, tie.supply.id],
        },
        tiedStatement(companyId, tie.sales.id, `-${tie.quantity}`),
        // What else the line is tied to.
        ...inStepStatements(companyId, 'orderLine', [tie.sales.id]),
      ]),
    );
    return {
      made: [],
      touched: [
        ...once(ties.map((tie) => refOf('SO', tie.sales.order))),
        ...once(ties.map((tie) => refOf('PO', tie.supply.purchase))),
      ],
    };
  },
});

/** A drop shipment that is for nobody comes to our place instead. // L4 */
export const purchaseToStock = defineAct(contract.purchaseToStock, {
  right: 'purchases',
  says: 'turn purchases to our stock',
  done: 'turned to our stock',
  expectedVersion: ({ id, version }) => ({ kind: 'PO', id, version }),
  async load(tx, input, doer) {
    const [head] = await tx.rows<Columns<PurchaseOrder, 'id number version state shipToId'>>(
      `SELECT id, number, version, state, ship_to_id FROM purchase_order WHERE company_id = ? AND id = ? ${tx.forUpdate}`,
      [doer.companyId, input.id],
    );
    const purchase = orNotFound(head, 'This purchase order');
    const lines = await tx.rows<Columns<PurchaseOrderLine, 'id lineNo tied received'>>(
      'SELECT id, line_no, tied, received FROM purchase_order_line WHERE company_id = ? AND purchase_order_id = ? ORDER BY line_no',
      [doer.companyId, input.id],
    );
    return {
      ...purchase,
      lines: lines,
    };
  },
  decide: (purchase) => decideToStock(purchase),
  preview: (_effects, { lines }) => ({ lines: lines.length }),
  async write(tx, { purchaseId }, { number, version }, { companyId }) {
    await tx.run('UPDATE purchase_order SET ship_to_id = NULL, version = version + 1 WHERE company_id = ? AND id = ?', [
      companyId,
      purchaseId,
    ]);
    return { made: [], touched: [{ kind: 'PO', id: purchaseId, number, version: version + 1 }] };
  },
});

function refOf(kind: 'SO' | 'PO', { id, number }: { id: number; number: string }): Touched {
  return { kind, id, number };
}

function once(documents: readonly Touched[]): Touched[] {
  return [...new Map(documents.map((document) => [document.id, document])).values()];
}

type Candidates = z.infer<typeof contract.findSupplies.out>['rows'];

/** Purchase lines that a sales line could be tied to, best first. // L5 */
export async function suppliesFor(sql: Sql, companyId: number, orderLineId: number): Promise<Candidates> {
  const sales = await loadSalesEnd(sql, companyId, orderLineId);
  return rankSupplies(sales, await openSupplies(sql, companyId, sales.item.id)).map((supply) => ({
    lineId: supply.id,
    lineNo: supply.lineNo,
    document: { kind: 'PO', id: supply.purchase.id, number: supply.purchase.number },
    party: supply.vendor,
    day: supply.dueDate,
    left: supply.untied,
    fits: fittingQuantity(sales, supply).toFixed(),
    late: supply.dueDate > sales.shipDate,
  }));
}

/** Sales lines that a purchase line could be tied to, best first. // L5 */
export async function salesFor(sql: Sql, companyId: number, purchaseLineId: number): Promise<Candidates> {
  const supply = await loadSupplyEnd(sql, companyId, purchaseLineId);
  return rankSales(supply, await openSales(sql, companyId, supply.item.id)).map((sales) => ({
    lineId: sales.id,
    lineNo: sales.lineNo,
    document: { kind: 'SO', id: sales.order.id, number: sales.order.number },
    party: sales.customer,
    day: sales.shipDate,
    left: sales.uncovered,
    fits: fittingQuantity(sales, supply).toFixed(),
    late: supply.dueDate > sales.shipDate,
  }));
}

export const tieActs = [tieLine, untie, purchaseToStock];
