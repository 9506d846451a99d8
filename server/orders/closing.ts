import { decideClose, decideOpenAgain, keepingPlanned, type ClosedLine } from '@core/orders';
import { dec } from '@core/kernel';
import * as contract from '@api/orders';
import { defineAct } from '../acts';
import { counterStatements, loadAgreements } from '../agreements';
import type { Columns } from '../db';
import { inStepStatements } from '../supply';
import { loadGivenBack, writeGivenBack } from '../workshop';
import { offersOfOrder, touchedBy } from './offers';
import { changed, lettingGo, setState, totalsAgain } from './state';
import { agreementsOf, loadOrder, plannedLines, pricedItems } from './store';
import { lineClosingTable, type LineClosing, type SalesOrderLine } from './tables';

/** Gives up what is open of lines: it goes back to the agreement. // S6 */
export const closeShort = defineAct(contract.closeShort, {
  right: 'orders',
  says: 'close order lines short',
  done: 'closed short',
  expectedVersion: ({ id, version }) => ({ kind: 'SO', id, version }),
  async load(tx, input, doer) {
    const { companyId } = doer;
    const agreements = await loadAgreements(tx, companyId, await agreementsOf(tx, companyId, input.id));
    const head = await loadOrder(tx, companyId, input.id);
    const rows = await tx.rows<
      Columns<
        SalesOrderLine,
        'id lineNo quantity cancelled shipped invoiced unitPrice amount agreedAmount agreementLineId'
      > & { onTheWay: string | null; purchases: string | null }
    >(
      `SELECT l.id, l.line_no, l.quantity, l.cancelled, l.shipped, l.invoiced, l.unit_price, l.amount, l.agreed_amount,
              l.agreement_line_id, SUM(t.quantity - t.received) AS on_the_way,
              GROUP_CONCAT(DISTINCT p.number ORDER BY p.id SEPARATOR ', ') AS purchases
         FROM sales_order_line l
         LEFT JOIN tie t ON t.company_id = l.company_id AND t.order_line_id = l.id
         LEFT JOIN purchase_order_line pl ON pl.company_id = t.company_id AND pl.id = t.purchase_line_id
         LEFT JOIN purchase_order p ON p.company_id = pl.company_id AND p.id = pl.purchase_order_id
        WHERE l.company_id = ? AND l.order_id = ? GROUP BY l.id ORDER BY l.line_no`,
      [companyId, head.id],
    );
    const lines = rows.map((row) => ({
      id: row.id,
      lineNo: row.lineNo,
      quantity: row.quantity,
      cancelled: row.cancelled,
      shipped: row.shipped,
      invoiced: row.invoiced,
      unitPrice: row.unitPrice,
      amount: row.amount,
      agreedAmount: row.agreedAmount,
      agreementLineId: row.agreementLineId,
      onTheWay: row.onTheWay ?? '0',
      purchases: row.purchases ?? '',
    }));
    const planned = await plannedLines(tx, companyId, head.id, 'planned');
    return {
      head,
      agreements,
      lines,
      planned: planned.filter((line) => input.lineIds.includes(line.id)),
      work: await loadGivenBack(tx, companyId, input.lineIds),
    };
  },
  decide: ({ head, lines, planned }, input) =>
    keepingPlanned(
      decideClose(
        { order: { number: head.number, state: head.state, currency: head.currency }, lines },
        input.lineIds,
        input.reason,
      ),
      planned,
      () => [],
    ),
  preview: ({ lines, state, released }, { agreements, lines: all, work }) => ({
    lines,
    state,
    effects: [
      ...lines.map(
        ({ id, given }) => `${given.quantity} of line ${all.find((line) => line.id === id)!.lineNo} are given up`,
      ),
      ...(released.length > 0
        ? [`what was agreed goes back to ${agreements.map(({ number }) => number).join(', ')}`]
        : []),
      ...(work.cancelled.length > 0
        ? [`${work.touched.map(({ number }) => number).join(', ')}: not made after all`]
        : []),
    ],
  }),
  async write(tx, { lines, released, state, reason, fields }, { head, agreements, work }, doer) {
    await writeGivenBack(tx, doer, work);
    await tx.batch([
      ...counterStatements(doer.companyId, 'released', released),
      // What was held for them is free again.
      ...lines.map((line) => lettingGo(doer.companyId, line.id)),
      ...lines.map((line) => ({
        sql: 'UPDATE sales_order_line SET reserved = 0, cancelled = ?, amount = ?, agreed_amount = ?, on_bench = FALSE WHERE company_id = ? AND id = ?',
        values: [line.cancelled, line.amount, line.agreedAmount, doer.companyId, line.id],
      })),
      ...inStepStatements(
        doer.companyId,
        'orderLine',
        lines.map((line) => line.id),
      ),
      totalsAgain(doer.companyId, head.id),
    ]);
    await tx.insertPlain(
      lineClosingTable,
      lines.map(({ id, given, amount }) => ({
        companyId: doer.companyId,
        orderLineId: id,
        ...given,
        leftAmount: amount,
        reason,
      })),
    );
    await setState(tx, doer, head, state);
    return { made: [], touched: [{ ...changed(head), reason, fields }, ...agreements, ...work.touched] };
  },
});

/** Opens lines again that were closed short. // S8 */
export const openAgain = defineAct(contract.openAgain, {
  right: 'orders',
  says: 'open order lines again',
  done: 'opened again',
  expectedVersion: ({ id, version }) => ({ kind: 'SO', id, version }),
  async load(tx, input, doer) {
    const { companyId } = doer;
    const offers = await offersOfOrder(tx, companyId, input.id, doer.workDate);
    const head = await loadOrder(tx, companyId, input.id);
    const rows = await tx.rows<
      Columns<SalesOrderLine, 'id lineNo itemId quantity cancelled amount agreedAmount agreementLineId'>
    >(
      `SELECT id, line_no, item_id, quantity, cancelled, amount, agreed_amount, agreement_line_id FROM sales_order_line
        WHERE company_id = ? AND order_id = ? ORDER BY line_no`,
      [companyId, head.id],
    );
    const closings = await tx.rows<Columns<LineClosing, 'id orderLineId quantity amount agreedAmount leftAmount'>>(
      `SELECT c.id, c.order_line_id, c.quantity, c.amount, c.agreed_amount, c.left_amount FROM sales_order_line l
         JOIN line_closing c ON c.company_id = l.company_id AND c.order_line_id = l.id AND c.undone = FALSE
        WHERE l.company_id = ? AND l.order_id = ? ORDER BY c.id`,
      [companyId, head.id],
    );
    const lines = rows.map((line): ClosedLine => {
      const last = closings.filter(({ orderLineId }) => orderLineId === line.id).at(-1);
      return { ...line, closing: last ?? null };
    });
    const items = await pricedItems(
      tx,
      companyId,
      head.customerId,
      rows.map(({ itemId }) => itemId),
    );
    return { head, order: head, lines, offers, items };
  },
  decide: (ground, input) => decideOpenAgain(ground, input.lineIds),
  preview: ({ lines }, ground) => ({
    lines: lines.map(({ id, cancelled }) => ({
      id,
      quantity: dec(ground.lines.find((line) => line.id === id)!.cancelled)
        .minus(cancelled)
        .toFixed(),
    })),
    net: ground.lines
      .reduce((sum, line) => sum.plus(lines.find(({ id }) => id === line.id)?.amount ?? line.amount), dec('0'))
      .toFixed(),
  }),
  async write(tx, { lines, released }, ground, doer) {
    const { head, offers } = ground;
    const { companyId } = doer;
    await tx.batch([
      ...counterStatements(companyId, 'released', released),
      ...lines.flatMap(({ id, closingId, cancelled, amount, agreedAmount }) => [
        {
          sql: `UPDATE sales_order_line SET cancelled = ?, amount = ?, agreed_amount = ?,
                  on_bench = route IN ('drop', 'special') AND tied < quantity - cancelled WHERE company_id = ? AND id = ?`,
          values: [cancelled, amount, agreedAmount, companyId, id],
        },
        {
          sql: 'UPDATE line_closing SET undone = TRUE WHERE company_id = ? AND id = ?',
          values: [companyId, closingId],
        },
      ]),
      ...inStepStatements(
        companyId,
        'orderLine',
        lines.map(({ id }) => id),
      ),
      totalsAgain(companyId, head.id),
    ]);
    await setState(tx, doer, head, 'confirmed');
    const fields = lines.map(({ id, cancelled }) => {
      const line = ground.lines.find((each) => each.id === id)!;
      return { what: `given up of line ${line.lineNo}`, was: line.cancelled, is: cancelled };
    });
    return { made: [], touched: [{ ...changed(head), fields }, ...touchedBy(offers, released)] };
  },
});
