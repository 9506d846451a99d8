import type * as z from 'zod';
import { decidePlan, forecastOf, unconsumed, weightedValue, type PlannedCall } from '@core/agreements';
import { dec, most, sum, ZERO, type Day } from '@core/kernel';
import * as contract from '@api/agreements';
import { defineAct, there } from '../acts';
import type { Sql } from '../db/database';
import { plain } from '../db/mapping';
import { lockAgreement } from './store';

type Call = z.infer<typeof contract.Call>;

interface Dated {
  line_id: number;
  day: Day;
  quantity: string;
}

/** The planned calls of an agreement's lines with what no release has used up yet, by line. // A7 */
export async function callsOf(sql: Sql, companyId: number, agreementId: number): Promise<Map<number, Call[]>> {
  const [calls, releases] = await Promise.all([
    sql.rows<Dated & { skipped: number; rule: string }>(
      `SELECT c.agreement_line_id AS line_id, c.day, c.quantity, c.skipped, c.rule
         FROM agreement_line l
         JOIN agreement_call c ON c.company_id = l.company_id AND c.agreement_line_id = l.id
        WHERE l.company_id = ? AND l.agreement_id = ? ORDER BY c.agreement_line_id, c.day`,
      [companyId, agreementId],
    ),
    sql.rows<Dated>(
      `SELECT ol.agreement_line_id AS line_id, ol.ship_date AS day, SUM(ol.quantity - ol.cancelled) AS quantity
         FROM agreement_line l
         JOIN sales_order_line ol ON ol.company_id = l.company_id AND ol.agreement_line_id = l.id
        WHERE l.company_id = ? AND l.agreement_id = ? AND ol.quantity > ol.cancelled
        GROUP BY ol.agreement_line_id, ol.ship_date`,
      [companyId, agreementId],
    ),
  ]);
  const byLine = new Map<number, Call[]>();
  for (const lineId of new Set(calls.map((call) => call.line_id))) {
    const ofLine = calls.filter((call) => call.line_id === lineId);
    const planned: PlannedCall[] = ofLine.map((call) => ({ ...call, skipped: Boolean(call.skipped) }));
    const rests = unconsumed(
      planned,
      releases.filter((release) => release.line_id === lineId),
    );
    byLine.set(
      lineId,
      ofLine.map((call, index) => ({
        day: call.day,
        quantity: plain(call.quantity),
        skipped: Boolean(call.skipped),
        rule: call.rule,
        rest: rests[index]!.toFixed(),
      })),
    );
  }
  return byLine;
}

/** How one agreement line stands and where it is heading. // A4 A7 A8 */
export async function openProgress(
  sql: Sql,
  companyId: number,
  lineId: number,
  workDate: Day,
): Promise<z.infer<typeof contract.Progress>> {
  const [found] = await sql.rows<{
    agreement_id: number;
    first_day: Day;
    last_day: Day;
    probability_percent: string;
    committed: string;
    committed_value: string;
    released_value: string;
  }>(
    `SELECT l.agreement_id, a.first_day, a.last_day, a.probability_percent, l.committed, l.committed_value, l.released_value
       FROM agreement_line l JOIN agreement a ON a.company_id = l.company_id AND a.id = l.agreement_id
      WHERE l.company_id = ? AND l.id = ?`,
    [companyId, lineId],
  );
  const line = there(found, 'This agreement line');
  const [shipped, open, calls] = await Promise.all([
    sql.rows<{ day: Day; quantity: string }>(
      `SELECT s.posted_on AS day, SUM(sl.quantity) AS quantity
         FROM sales_order_line ol
         JOIN shipment_line sl ON sl.company_id = ol.company_id AND sl.order_line_id = ol.id
         JOIN shipment s ON s.company_id = sl.company_id AND s.id = sl.shipment_id
        WHERE ol.company_id = ? AND ol.agreement_line_id = ? GROUP BY s.posted_on`,
      [companyId, lineId],
    ),
    sql.rows<{ day: Day; quantity: string }>(
      `SELECT ship_date AS day, quantity - cancelled - shipped AS quantity FROM sales_order_line
        WHERE company_id = ? AND agreement_line_id = ? AND quantity - cancelled > shipped`,
      [companyId, lineId],
    ),
    callsOf(sql, companyId, line.agreement_id),
  ]);
  const planned = (calls.get(lineId) ?? [])
    .filter((call) => call.rest !== '0')
    .map(({ day, rest }) => ({ day, quantity: rest }));
  const forecast = forecastOf({
    committed: line.committed,
    firstDay: line.first_day,
    lastDay: line.last_day,
    workDate,
    shipped,
    open,
    planned,
  });
  const total = (dated: readonly { quantity: string }[]) => sum(dated.map((each) => dec(each.quantity))).toFixed();
  const points = (curve: typeof forecast.past) =>
    curve.map(({ day, quantity }) => ({ day, quantity: quantity.toFixed() }));
  const left = most(ZERO, dec(line.committed_value).minus(line.released_value));
  return {
    committed: plain(line.committed),
    firstDay: line.first_day,
    lastDay: line.last_day,
    shipped: total(shipped),
    open: total(open),
    planned: total(planned),
    rate: forecast.rate.toFixed(),
    past: points(forecast.past),
    coming: points(forecast.coming),
    atEnd: forecast.atEnd.toFixed(),
    remainder: forecast.remainder.toFixed(),
    runOut: forecast.runOut,
    weightedValue: weightedValue(left, line.probability_percent).round(2).toFixed(),
  };
}

/** Replaces the call-off plan of the lines named. // A7 */
export const savePlan = defineAct(contract.savePlan, {
  right: 'agreements',
  says: 'plan call-offs',
  saw: ({ id, version }) => ({ kind: 'AG', id, version }),
  async load(tx, input, doer) {
    const head = await lockAgreement(tx, doer.companyId, input.id);
    const lines = await tx.rows<{ id: number; item: string }>(
      `SELECT l.id, i.number AS item FROM agreement_line l
         JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id
        WHERE l.company_id = ? AND l.agreement_id = ?`,
      [doer.companyId, input.id],
    );
    return { head, lines };
  },
  decide: ({ head, lines }, input) =>
    decidePlan(
      {
        agreement: { number: head.number, state: head.state, firstDay: head.first_day, lastDay: head.last_day },
        lines,
      },
      input,
    ),
  show: ({ lines }) => ({
    lines: lines.map(({ agreementLineId, calls }) => ({
      agreementLineId,
      planned: sum(calls.filter((call) => !call.skipped).map((call) => dec(call.quantity))).toFixed(),
    })),
  }),
  async write(tx, { lines }, { head }, doer) {
    const { companyId } = doer;
    if (lines.length > 0) {
      await tx.run('DELETE FROM agreement_call WHERE company_id = ? AND agreement_line_id IN (?)', [
        companyId,
        lines.map((line) => line.agreementLineId),
      ]);
    }
    await tx.insertPlain(
      'agreement_call',
      lines.flatMap(({ agreementLineId, calls }) =>
        calls.map((call) => ({
          company_id: companyId,
          agreement_line_id: agreementLineId,
          day: call.day,
          quantity: call.quantity,
          skipped: call.skipped,
          rule: call.rule,
        })),
      ),
    );
    await tx.run('UPDATE agreement SET version = version + 1 WHERE company_id = ? AND id = ?', [companyId, head.id]);
    return { made: [], touched: [{ kind: 'AG', id: head.id, number: head.number, version: head.version + 1 }] };
  },
});
