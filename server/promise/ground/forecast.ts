import { leftInNoPlan, restOf, unconsumed, type RestPlan } from '@core/agreements';
import { addDays, Calendar, daysBetween, dec, groupedBy, sum, weekdayOf, type Day } from '@core/kernel';
import type { MoveRow } from '@core/promise';
import { calendarsOf } from '../../catalogue';
import type { Sql } from '../../db';
import { standingDemands } from '../../standing';
import { HORIZON } from './ground';

interface CallRow {
  customerId: number | null;
  lineId: number;
  agreementId: number;
  number: string;
  side: 'selling' | 'buying';
  party: string;
  itemId: number;
  day: Day;
  quantity: string;
  skipped: boolean;
}

/**
 * What agreements in force expect and is not released yet: of selling ones demand, of buying ones supply that is
 * nobody's order yet. Only quantities of items we keep or make: what is bought for each order by itself is not planned.
 * Each real release uses up the plan nearest to it, once it counts as demand itself: a draft does not. What is left and in
 * no plan counts as its agreement says. // A7 T11
 */
export async function forecastOf(
  sql: Sql,
  companyId: number,
  workDate: Day,
  itemIds: readonly number[],
): Promise<{ demands: MoveRow[]; supplies: MoveRow[] }> {
  const calls = await sql.rows<CallRow>(
    `SELECT l.id AS line_id, a.id AS agreement_id, a.number, a.side, a.customer_id, COALESCE(c.name, v.name) AS party, l.item_id,
            k.day, k.quantity, k.skipped
       FROM agreement a
       JOIN agreement_line l ON l.company_id = a.company_id AND l.agreement_id = a.id
       JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id AND i.route = 'stock'
       JOIN agreement_call k ON k.company_id = l.company_id AND k.agreement_line_id = l.id
       LEFT JOIN customer c ON c.company_id = a.company_id AND c.id = a.customer_id
       LEFT JOIN vendor v ON v.company_id = a.company_id AND v.id = a.vendor_id
      WHERE a.company_id = ? AND a.state = 'in-force' AND a.basis = 'quantity' AND l.item_id IN (?)
      ORDER BY l.id, k.day`,
    [companyId, itemIds],
  );
  const rests = await restLines(sql, companyId, itemIds);
  const lineIds = [...new Set([...calls, ...rests].map(({ lineId }) => lineId))];
  const releases = await sql.rows<{ lineId: number; day: Day; quantity: string }>(
    `SELECT l.agreement_line_id AS line_id, l.ship_date AS day, SUM(l.quantity - l.cancelled) AS quantity
       FROM sales_order_line l JOIN sales_order o ON o.company_id = l.company_id AND o.id = l.order_id
      WHERE l.company_id = ? AND l.agreement_line_id IN (?) AND l.quantity > l.cancelled
        AND (o.state <> 'draft' OR l.promised_date IS NOT NULL)
      GROUP BY l.agreement_line_id, l.ship_date
     UNION ALL
     SELECT agreement_line_id, due_date, SUM(quantity) FROM purchase_order_line
      WHERE company_id = ? AND agreement_line_id IN (?) GROUP BY agreement_line_id, due_date`,
    [companyId, lineIds, companyId, lineIds],
  );
  const standing = await standingDemands(sql, companyId, workDate, itemIds);
  // What somebody gets again and again uses up what their agreement expects of it. // S7
  const expecting = new Map<number, { itemId: number; customerId: number | null }>();
  for (const line of [...calls.filter(({ side }) => side === 'selling'), ...rests]) expecting.set(line.lineId, line);
  for (const [lineId, expected] of expecting) {
    for (const { itemId, customerId, day, quantity } of standing) {
      if (itemId === expected.itemId && customerId === expected.customerId) releases.push({ lineId, day, quantity });
    }
  }
  const demands: MoveRow[] = standing.map(({ customerId: _customerId, ...move }) => move);
  const supplies: MoveRow[] = [];
  for (const [lineId, ofLine] of groupedBy(calls, ({ lineId }) => lineId)) {
    const left = unconsumed(
      ofLine,
      releases.filter((release) => release.lineId === lineId),
    );
    for (const [at, call] of ofLine.entries()) {
      if (left[at]!.lte(0)) continue;
      const move: MoveRow = {
        itemId: call.itemId,
        day: call.day,
        quantity: left[at]!.toFixed(),
        source: { kind: 'AG', id: call.agreementId, number: call.number, lineId, party: call.party },
      };
      if (call.side === 'selling') demands.push(move);
      else supplies.push({ ...move, fixed: true });
    }
  }
  demands.push(
    ...(await restDemands(sql, companyId, workDate, rests, {
      calls: groupedBy(calls, ({ lineId }) => lineId),
      releases,
    })),
  );
  return { demands, supplies };
}

interface RestLine {
  lineId: number;
  customerId: number;
  agreementId: number;
  number: string;
  party: string;
  itemId: number;
  unit: string;
  committed: string;
  restPlan: RestPlan;
  probabilityPercent: string;
  lastDay: Day;
}

/** Lines of selling agreements whose rest counts. // A7 */
function restLines(sql: Sql, companyId: number, itemIds: readonly number[]): Promise<RestLine[]> {
  return sql.rows<RestLine>(
    `SELECT l.id AS line_id, a.customer_id, a.id AS agreement_id, a.number, c.name AS party, l.item_id, i.unit, l.committed, a.rest_plan,
            IF(k.plan_by_probability, a.probability_percent, 100) AS probability_percent, a.last_day
       FROM agreement a
       JOIN agreement_line l ON l.company_id = a.company_id AND l.agreement_id = a.id
       JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id AND i.route = 'stock'
       JOIN customer c ON c.company_id = a.company_id AND c.id = a.customer_id
       JOIN company k ON k.id = a.company_id
      WHERE a.company_id = ? AND a.state = 'in-force' AND a.basis = 'quantity' AND a.side = 'selling' AND a.rest_plan <> 'none'
        AND l.item_id IN (?)
      ORDER BY l.id`,
    [companyId, itemIds],
  );
}

/** What is left of each line, released by nobody and in no plan, as its agreement says it counts. // A7 */
async function restDemands(
  sql: Sql,
  companyId: number,
  workDate: Day,
  lines: readonly RestLine[],
  expected: { calls: Map<number, CallRow[]>; releases: readonly { lineId: number; day: Day; quantity: string }[] },
): Promise<MoveRow[]> {
  if (lines.length === 0) return [];
  const [company] = await sql.rows<{ calendarId: number }>('SELECT calendar_id FROM company WHERE id = ?', [companyId]);
  const calendars = await calendarsOf(sql, companyId, workDate);
  const own = calendars.find(({ id }) => id === company!.calendarId)!;
  const calendar = new Calendar(workDate, HORIZON, own);
  return lines.flatMap((line) => {
    const released = expected.releases.filter(({ lineId }) => lineId === line.lineId);
    const calls = expected.calls.get(line.lineId) ?? [];
    const planned = unconsumed(calls, released);
    const left = leftInNoPlan(line.committed, sum(released.map(({ quantity }) => dec(quantity))), sum(planned));
    return restOf(
      { ...line, left, until: daysBetween(workDate, line.lastDay), weekday: weekdayOf(workDate) },
      calendar,
    ).map(({ day, quantity }): MoveRow => ({
      itemId: line.itemId,
      day: addDays(workDate, day),
      quantity: quantity.toFixed(),
      source: { kind: 'AG', id: line.agreementId, number: line.number, lineId: line.lineId, party: line.party },
    }));
  });
}
