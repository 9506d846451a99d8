import type * as z from 'zod';
import { decidePlan, forecastOf, unconsumed, weightedValue } from '@core/agreements';
import { dec, most, sum, ZERO, type Day } from '@core/kernel';
import * as contract from '@api/agreements';
import { defineAct, orNotFound } from '../../acts';
import type { Sql, Columns } from '../../db';
import { shipTosOf } from '../../parties';
import { loadAgreement } from '../terms/store';
import type { Agreement, AgreementLine } from '../tables';
import { agreementCallTable } from '../tables';

type Call = z.infer<typeof contract.Call>;

interface Dated {
  lineId: number;
  day: Day;
  quantity: string;
}

interface CallRow extends Dated {
  skipped: boolean;
  rule: string;
  madeKind: 'SO' | 'PO' | null;
  madeId: number | null;
  madeNumber: string | null;
}

/** What was really released of an agreement's lines, by ship or due date: sales lines, or purchase lines. */
const RELEASED = `SELECT ol.agreement_line_id AS line_id, ol.ship_date AS day, SUM(ol.quantity - ol.cancelled) AS quantity
     FROM agreement_line l
     JOIN sales_order_line ol ON ol.company_id = l.company_id AND ol.agreement_line_id = l.id
    WHERE l.company_id = ? AND l.agreement_id = ? AND ol.quantity > ol.cancelled
    GROUP BY ol.agreement_line_id, ol.ship_date
   UNION ALL
   SELECT pl.agreement_line_id, pl.due_date, SUM(pl.quantity)
     FROM agreement_line l
     JOIN purchase_order_line pl ON pl.company_id = l.company_id AND pl.agreement_line_id = l.id
    WHERE l.company_id = ? AND l.agreement_id = ? GROUP BY pl.agreement_line_id, pl.due_date`;

/** The calls planned on an agreement and what was released of it, as core reads them. */
export async function planOf(sql: Sql, companyId: number, agreementId: number) {
  const calls = await sql.rows<CallRow>(
    `SELECT c.agreement_line_id AS line_id, c.day, c.quantity, c.skipped, c.rule, c.made_kind, c.made_id,
            COALESCE(o.number, p.number) AS made_number
       FROM agreement_line l
       JOIN agreement_call c ON c.company_id = l.company_id AND c.agreement_line_id = l.id
       LEFT JOIN sales_order o ON c.made_kind = 'SO' AND o.company_id = c.company_id AND o.id = c.made_id
       LEFT JOIN purchase_order p ON c.made_kind = 'PO' AND p.company_id = c.company_id AND p.id = c.made_id
      WHERE l.company_id = ? AND l.agreement_id = ? ORDER BY c.agreement_line_id, c.day`,
    [companyId, agreementId],
  );
  const releases = await sql.rows<Dated>(RELEASED, [companyId, agreementId, companyId, agreementId]);
  return { calls, releases };
}

/** The planned calls of an agreement's lines with what no release has used up yet, by line. // A7 */
export async function callsOf(sql: Sql, companyId: number, agreementId: number): Promise<Map<number, Call[]>> {
  const { calls, releases } = await planOf(sql, companyId, agreementId);
  const byLine = new Map<number, Call[]>();
  for (const lineId of new Set(calls.map((call) => call.lineId))) {
    const ofLine = calls.filter((call) => call.lineId === lineId);
    const rests = unconsumed(
      ofLine,
      releases.filter((release) => release.lineId === lineId),
    );
    byLine.set(
      lineId,
      ofLine.map((call, index) => ({
        day: call.day,
        quantity: call.quantity,
        skipped: call.skipped,
        rule: call.rule,
        rest: rests[index]!.toFixed(),
        made: call.madeKind && { kind: call.madeKind, id: call.madeId!, number: call.madeNumber ?? '' },
      })),
    );
  }
  return byLine;
}

/** What counts on an agreement line day by day: what went out less what came back, or what came in. // A4 A8 */
const MOVED = {
  selling: {
    quantity: `SELECT s.posted_on AS day, sl.quantity FROM sales_order_line ol
         JOIN shipment_line sl ON sl.company_id = ol.company_id AND sl.order_line_id = ol.id
         JOIN shipment s ON s.company_id = sl.company_id AND s.id = sl.shipment_id
        WHERE ol.company_id = ? AND ol.agreement_line_id = ?
       UNION ALL SELECT n.credit_date, -cl.quantity FROM sales_order_line ol
         JOIN credit_note_line cl ON cl.company_id = ol.company_id AND cl.order_line_id = ol.id
         JOIN credit_note n ON n.company_id = cl.company_id AND n.id = cl.credit_note_id
        WHERE ol.company_id = ? AND ol.agreement_line_id = ? AND cl.quantity > 0`,
    value: `SELECT s.posted_on AS day, COALESCE(sl.agreed_value, sl.value) AS quantity FROM sales_order_line ol
         JOIN shipment_line sl ON sl.company_id = ol.company_id AND sl.order_line_id = ol.id
         JOIN shipment s ON s.company_id = sl.company_id AND s.id = sl.shipment_id
        WHERE ol.company_id = ? AND ol.agreement_line_id = ?
       UNION ALL SELECT n.credit_date, -COALESCE(cl.agreed_value, cl.value) FROM sales_order_line ol
         JOIN credit_note_line cl ON cl.company_id = ol.company_id AND cl.order_line_id = ol.id
         JOIN credit_note n ON n.company_id = cl.company_id AND n.id = cl.credit_note_id
        WHERE ol.company_id = ? AND ol.agreement_line_id = ? AND cl.quantity > 0`,
  },
  buying: {
    quantity: `SELECT r.posted_on AS day, rl.quantity FROM purchase_order_line pl
         JOIN receipt_line rl ON rl.company_id = pl.company_id AND rl.purchase_line_id = pl.id
         JOIN receipt r ON r.company_id = rl.company_id AND r.id = rl.receipt_id
        WHERE pl.company_id = ? AND pl.agreement_line_id = ?`,
    value: `SELECT r.posted_on AS day, COALESCE(rl.agreed_value, rl.value) AS quantity FROM purchase_order_line pl
         JOIN receipt_line rl ON rl.company_id = pl.company_id AND rl.purchase_line_id = pl.id
         JOIN receipt r ON r.company_id = rl.company_id AND r.id = rl.receipt_id
        WHERE pl.company_id = ? AND pl.agreement_line_id = ?`,
  },
} as const;

/** Released and not moved yet, by ship or due date. */
const OPEN = {
  selling: {
    quantity: `SELECT ship_date AS day, quantity - cancelled - shipped AS quantity FROM sales_order_line
        WHERE company_id = ? AND agreement_line_id = ? AND quantity - cancelled > shipped`,
    value: `SELECT ship_date AS day, COALESCE(agreed_amount, amount) * (quantity - cancelled - shipped) / (quantity - cancelled) AS quantity
         FROM sales_order_line WHERE company_id = ? AND agreement_line_id = ? AND quantity - cancelled > shipped`,
  },
  buying: {
    quantity: `SELECT due_date AS day, quantity - received AS quantity FROM purchase_order_line
        WHERE company_id = ? AND agreement_line_id = ? AND quantity > received`,
    value: `SELECT due_date AS day, COALESCE(agreed_amount, amount) * (quantity - received) / quantity AS quantity
         FROM purchase_order_line WHERE company_id = ? AND agreement_line_id = ? AND quantity > received`,
  },
} as const;

/** How one agreement line stands and where it is heading, in units or in value as it commits. // A4 A7 A8 */
export async function openProgress(
  sql: Sql,
  companyId: number,
  lineId: number,
  workDate: Day,
): Promise<z.infer<typeof contract.Progress>> {
  const [found] = await sql.rows<
    Columns<AgreementLine, 'agreementId committed committedValue releasedValue'> &
      Columns<Agreement, 'side basis firstDay lastDay probabilityPercent'>
  >(
    `SELECT l.agreement_id, a.side, a.basis, a.first_day, a.last_day, a.probability_percent, l.committed, l.committed_value,
            l.released_value
       FROM agreement_line l JOIN agreement a ON a.company_id = l.company_id AND a.id = l.agreement_id
      WHERE l.company_id = ? AND l.id = ?`,
    [companyId, lineId],
  );
  const line = orNotFound(found, 'This agreement line');
  const { side, basis } = line;
  const [shipped, open, calls] = await Promise.all([
    sql.rows<{ day: Day; quantity: string }>(
      `SELECT day, SUM(quantity) AS quantity FROM (${MOVED[side][basis]}) m GROUP BY day`,
      side === 'selling' ? [companyId, lineId, companyId, lineId] : [companyId, lineId],
    ),
    sql.rows<{ day: Day; quantity: string }>(OPEN[side][basis], [companyId, lineId]),
    callsOf(sql, companyId, line.agreementId),
  ]);
  const planned =
    basis === 'value'
      ? []
      : (calls.get(lineId) ?? []).filter((call) => call.rest !== '0').map(({ day, rest }) => ({ day, quantity: rest }));
  const committed = basis === 'value' ? line.committedValue : line.committed;
  const forecast = forecastOf({
    committed,
    firstDay: line.firstDay,
    lastDay: line.lastDay,
    workDate,
    shipped,
    open,
    planned,
  });
  const total = (dated: readonly { quantity: string }[]) => sum(dated.map((each) => dec(each.quantity))).toFixed();
  const points = (curve: typeof forecast.past) =>
    curve.map(({ day, quantity }) => ({ day, quantity: quantity.toFixed() }));
  const left = most(ZERO, dec(line.committedValue).minus(line.releasedValue));
  return {
    committed,
    firstDay: line.firstDay,
    lastDay: line.lastDay,
    shipped: total(shipped),
    open: total(open),
    planned: total(planned),
    rate: forecast.rate.toFixed(),
    past: points(forecast.past),
    coming: points(forecast.coming),
    atEnd: forecast.atEnd.toFixed(),
    remainder: forecast.remainder.toFixed(),
    runOut: forecast.runOut,
    weightedValue: weightedValue(left, line.probabilityPercent).round(2).toFixed(),
  };
}

/** Replaces the call-off plan of the lines named. // A7 */
export const savePlan = defineAct(contract.savePlan, {
  right: 'agreements',
  says: 'plan call-offs',
  done: 'call-offs planned',
  expectedVersion: ({ id, version }) => ({ kind: 'AG', id, version }),
  async load(tx, input, doer) {
    const head = await loadAgreement(tx, doer.companyId, input.id);
    const lines = await tx.rows<{ id: number; item: string }>(
      `SELECT l.id, i.number AS item FROM agreement_line l
         JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id
        WHERE l.company_id = ? AND l.agreement_id = ?`,
      [doer.companyId, input.id],
    );
    const shipTos = head.customerId === null ? [] : await shipTosOf(tx, doer.companyId, head.customerId);
    const { calls } = await planOf(tx, doer.companyId, input.id);
    return {
      head,
      lines,
      shipToIds: shipTos.map((each) => each.id),
      made: calls.filter((call) => call.madeId !== null),
    };
  },
  decide: ({ head, lines, shipToIds }, input) =>
    decidePlan(
      {
        agreement: { number: head.number, state: head.state, firstDay: head.firstDay, lastDay: head.lastDay },
        lines,
        shipToIds,
      },
      input,
    ),
  preview: ({ lines }) => ({
    lines: lines.map(({ agreementLineId, calls }) => ({
      agreementLineId,
      planned: sum(calls.filter((call) => !call.skipped).map((call) => dec(call.quantity))).toFixed(),
    })),
  }),
  async write(tx, { lines }, { head, made }, doer, input) {
    const { companyId } = doer;
    // A call that was made into an order stays made, so that no job makes it again.
    const madeOf = (lineId: number, day: Day) => made.find((call) => call.lineId === lineId && call.day === day);
    if (lines.length > 0) {
      await tx.run('DELETE FROM agreement_call WHERE company_id = ? AND agreement_line_id IN (?)', [
        companyId,
        lines.map((line) => line.agreementLineId),
      ]);
    }
    await tx.insertPlain(
      agreementCallTable,
      lines.flatMap(({ agreementLineId, calls }) =>
        calls.map((call) => ({
          companyId,
          agreementLineId,
          ...call,
          madeKind: madeOf(agreementLineId, call.day)?.madeKind ?? null,
          madeId: madeOf(agreementLineId, call.day)?.madeId ?? null,
        })),
      ),
    );
    await tx.run(
      `UPDATE agreement SET plan_ship_to_id = ?, plan_reference = ?, version = version + 1
        WHERE company_id = ? AND id = ?`,
      [
        input.shipToId === undefined ? head.planShipToId : input.shipToId,
        input.customerReference === undefined ? head.planReference : input.customerReference.trim(),
        companyId,
        head.id,
      ],
    );
    return { made: [], touched: [{ kind: 'AG', id: head.id, number: head.number, version: head.version + 1 }] };
  },
});
