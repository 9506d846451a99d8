import { decideAnswer, type AnswerEffects, type AnswerGround } from '@core/supply';
import type { Day } from '@core/kernel';
import * as contract from '@api/purchasing';
import { defineAct, orNotFound, type Touched } from '../acts';
import { counterStatements, loadAgreements } from '../agreements';
import type { Sql, Statement, Columns } from '../db';
import { tiedStatement } from './acts';
import { inStepStatements } from './in-step';
import type { PurchaseOrder, PurchaseOrderLine } from '../purchasing/tables';
import type { Tie } from './tables';

/** What the vendor says to a purchase order: when its lines are due, and what will not come. // L4 L6 */
export const answerPurchase = defineAct(contract.answerPurchase, {
  right: 'purchases',
  says: 'take down what a vendor answers',
  done: 'vendor’s answer taken down',
  expectedVersion: ({ purchaseId, version }) => ({ kind: 'PO', id: purchaseId, version }),
  load: (tx, input, doer) => loadForAnswer(tx, doer.companyId, input.purchaseId),
  decide: (ground, input, doer) => decideAnswer(ground, input, doer.workDate),
  preview: ({ lines, touches, state }) => ({
    stopped: lines.filter((line) => line.stopped !== '0').length,
    touches,
    state,
  }),
  async write(tx, effects, ground, { companyId, workDate }) {
    await tx.batch(answerStatements(companyId, ground.purchase.id, effects, workDate));
    return { made: [], touched: touchedByAnswer(ground) };
  },
});

/** What an answer writes. Where we change it ourselves, the vendor has not answered any more. */
export function answerStatements(
  companyId: number,
  purchaseId: number,
  effects: AnswerEffects,
  answeredOn: Day | null,
): Statement[] {
  return [
    ...counterStatements(companyId, 'released', effects.released),
    ...effects.ties.flatMap((tie): Statement[] => [
      tie.quantity === '0'
        ? { sql: 'DELETE FROM tie WHERE company_id = ? AND id = ?', values: [companyId, tie.id] }
        : {
            sql: 'UPDATE tie SET quantity = ? WHERE company_id = ? AND id = ?',
            values: [tie.quantity, companyId, tie.id],
          },
      tiedStatement(companyId, tie.orderLineId, tie.by),
    ]),
    ...effects.lines.map((line) => ({
      sql: `UPDATE purchase_order_line l SET l.quantity = ?, l.amount = ?, l.agreed_amount = ?, l.due_date = ?, l.stopped = l.stopped + ?,
              l.tied = (SELECT COALESCE(SUM(t.quantity), 0) FROM tie t WHERE t.company_id = l.company_id AND t.purchase_line_id = l.id)
             WHERE l.company_id = ? AND l.id = ?`,
      values: [line.quantity, line.amount, line.agreedAmount, line.dueDate, line.stopped, companyId, line.id],
    })),
    {
      sql: `UPDATE purchase_order p SET p.answered_on = ?, p.state = ?, p.version = p.version + 1,
              p.net = (SELECT SUM(l.amount) FROM purchase_order_line l WHERE l.company_id = p.company_id AND l.purchase_order_id = p.id),
              p.first_due_date = (SELECT MIN(l.due_date) FROM purchase_order_line l
                WHERE l.company_id = p.company_id AND l.purchase_order_id = p.id AND l.quantity > 0)
             WHERE p.company_id = ? AND p.id = ?`,
      values: [answeredOn, effects.state, companyId, purchaseId],
    },
    ...inStepStatements(companyId, 'purchase', [purchaseId]),
    // What else the cut lines are tied to differs from them now.
    ...inStepStatements(
      companyId,
      'orderLine',
      effects.ties.map((tie) => tie.orderLineId),
    ),
  ];
}

/** The documents an answer changes. */
export function touchedByAnswer({ purchase, version, agreements, lines }: LoadedForAnswer): Touched[] {
  const orders = new Map(lines.flatMap((line) => line.ties).map(({ order }) => [order.id, order]));
  return [
    { kind: 'PO', id: purchase.id, number: purchase.number, version: version + 1 },
    ...[...orders.values()].map((order): Touched => ({ kind: 'SO', ...order })),
    ...agreements,
  ];
}

export type LoadedForAnswer = AnswerGround & { version: number; agreements: Touched[] };

/** A purchase order with its lines and ties; locked are its agreements, the orders it is for, then itself. */
export async function loadForAnswer(sql: Sql, companyId: number, purchaseId: number): Promise<LoadedForAnswer> {
  const bought = await sql.rows<{ id: number }>(
    `SELECT DISTINCT al.agreement_id AS id FROM purchase_order_line l
       JOIN agreement_line al ON al.company_id = l.company_id AND al.id = l.agreement_line_id
      WHERE l.company_id = ? AND l.purchase_order_id = ?`,
    [companyId, purchaseId],
  );
  const agreements = await loadAgreements(
    sql,
    companyId,
    bought.map((row) => row.id),
  );
  await sql.rows(
    `SELECT id FROM sales_order WHERE company_id = ? AND id IN (
       SELECT sl.order_id FROM purchase_order_line l
         JOIN tie t ON t.company_id = l.company_id AND t.purchase_line_id = l.id
         JOIN sales_order_line sl ON sl.company_id = t.company_id AND sl.id = t.order_line_id
        WHERE l.company_id = ? AND l.purchase_order_id = ?) ORDER BY id ${sql.forUpdate}`,
    [companyId, companyId, purchaseId],
  );
  const [head] = await sql.rows<Columns<PurchaseOrder, 'id number state currency version'>>(
    `SELECT id, number, state, currency, version FROM purchase_order WHERE company_id = ? AND id = ? ${sql.forUpdate}`,
    [companyId, purchaseId],
  );
  const { version, ...purchase } = orNotFound(head, 'This purchase order');
  const [lines, ties] = [
    await sql.rows<
      Columns<
        PurchaseOrderLine,
        'id lineNo quantity unitPrice amount agreedAmount received invoiced dueDate agreementLineId'
      > & { item: string }
    >(
      `SELECT l.id, l.line_no, i.number AS item, l.quantity, l.unit_price, l.amount, l.agreed_amount, l.received, l.invoiced,
              l.due_date, l.agreement_line_id
         FROM purchase_order_line l JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id
        WHERE l.company_id = ? AND l.purchase_order_id = ? ORDER BY l.line_no`,
      [companyId, purchaseId],
    ),
    await sql.rows<
      Columns<Tie, 'id purchaseLineId quantity received orderLineId'> & {
        orderId: number;
        orderNumber: string;
        lineNo: number;
        shipDate: Day;
      }
    >(
      `SELECT t.id, t.purchase_line_id, t.quantity, t.received, t.order_line_id, o.id AS order_id, o.number AS order_number,
              sl.line_no, sl.ship_date
         FROM purchase_order_line l
         JOIN tie t ON t.company_id = l.company_id AND t.purchase_line_id = l.id
         JOIN sales_order_line sl ON sl.company_id = t.company_id AND sl.id = t.order_line_id
         JOIN sales_order o ON o.company_id = sl.company_id AND o.id = sl.order_id
        WHERE l.company_id = ? AND l.purchase_order_id = ? ORDER BY t.id`,
      [companyId, purchaseId],
    ),
  ];
  return {
    purchase,
    version,
    agreements,
    lines: lines.map((row) => ({
      ...row,
      ties: ties
        .filter((tie) => tie.purchaseLineId === row.id)
        .map((tie) => ({
          id: tie.id,
          quantity: tie.quantity,
          received: tie.received,
          orderLineId: tie.orderLineId,
          order: { id: tie.orderId, number: tie.orderNumber },
          orderLineNo: tie.lineNo,
          shipDate: tie.shipDate,
        })),
    })),
  };
}
