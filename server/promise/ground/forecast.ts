import { unconsumed } from '@core/agreements';
import type { Day } from '@core/kernel';
import type { MoveRow } from '@core/promise';
import type { Sql } from '../../db';

interface CallRow {
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
 * Each real release uses up the plan nearest to it, once it counts as demand itself: a draft does not. // A7 T11
 */
export async function forecastOf(
  sql: Sql,
  companyId: number,
  itemIds: readonly number[],
): Promise<{ demands: MoveRow[]; supplies: MoveRow[] }> {
  const calls = await sql.rows<CallRow>(
    `SELECT l.id AS line_id, a.id AS agreement_id, a.number, a.side, COALESCE(c.name, v.name) AS party, l.item_id,
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
  const lineIds = [...new Set(calls.map((call) => call.lineId))];
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
  const demands: MoveRow[] = [];
  const supplies: MoveRow[] = [];
  for (const [lineId, ofLine] of grouped(calls)) {
    const rests = unconsumed(
      ofLine,
      releases.filter((release) => release.lineId === lineId),
    );
    for (const [at, call] of ofLine.entries()) {
      if (rests[at]!.lte(0)) continue;
      const move: MoveRow = {
        itemId: call.itemId,
        day: call.day,
        quantity: rests[at]!.toFixed(),
        source: { kind: 'AG', id: call.agreementId, number: call.number, lineId, party: call.party },
      };
      if (call.side === 'selling') demands.push(move);
      else supplies.push({ ...move, fixed: true });
    }
  }
  return { demands, supplies };
}

function grouped(calls: readonly CallRow[]): Map<number, CallRow[]> {
  const byLine = new Map<number, CallRow[]>();
  for (const call of calls) {
    const of = byLine.get(call.lineId);
    if (of) of.push(call);
    else byLine.set(call.lineId, [call]);
  }
  return byLine;
}
