import type * as z from 'zod';
import { addDays, type Day } from '@core/kernel';
import type * as contract from '@api/standing';
import { orNotFound } from '../acts';
import { likeOf, pageById, type Sql } from '../db';
import { shipTosOf } from '../parties';
import { datesOf, loadStanding } from './ground';
import { orderable } from './save';

/** Dates that are over, and how far ahead dates are shown. */
const BACK_DAYS = 35;
const AHEAD_DAYS = 120;
const MOST_DATES = 60;

/** One standing order with its dates. // S7 */
export async function openStanding(
  sql: Sql,
  companyId: number,
  workDate: Day,
  id: number,
): Promise<z.infer<typeof contract.openStanding.out>> {
  const loaded = await loadStanding(sql, companyId, id);
  const { head, terms } = loaded;
  const [customer] = await sql.rows<{ id: number; number: string; name: string }>(
    'SELECT id, number, name FROM customer WHERE company_id = ? AND id = ?',
    [companyId, head.customerId],
  );
  const shipTos = await shipTosOf(sql, companyId, head.customerId);
  const itemIds = terms.flatMap(({ lines }) => lines.map(({ itemId }) => itemId));
  const items = await sql.rows<{ id: number; number: string; name: string; unit: string }>(
    'SELECT id, number, name, unit FROM item WHERE company_id = ? AND id IN (?)',
    [companyId, itemIds],
  );
  const units = await orderable(sql, companyId, itemIds);
  const orders = await sql.rows<{ id: number; number: string; state: string }>(
    `SELECT o.id, o.number, o.state FROM standing_date d JOIN sales_order o ON o.company_id = d.company_id AND o.id = d.order_id
      WHERE d.company_id = ? AND d.standing_order_id = ?`,
    [companyId, id],
  );
  const current = terms.filter(({ fromDay }) => fromDay <= workDate).length - 1;
  return {
    document: { kind: 'ST', id, number: head.number },
    version: head.version,
    state: head.state,
    customer: orNotFound(customer, 'This customer'),
    shipTo: shipTos.find((each) => each.id === head.shipToId)!,
    shipTos,
    customerReference: head.customerReference,
    firstDay: head.firstDay,
    lastDay: head.lastDay,
    aheadDays: head.aheadDays,
    closed: head.closed,
    terms: terms.map(({ fromDay, rule, lines }) => ({
      fromDay,
      rule,
      lines: lines.map(({ itemId, quantity, unit }) => ({
        item: items.find((each) => each.id === itemId)!,
        quantity,
        unit,
        units: [...(units.get(itemId)?.units ?? [])],
      })),
    })),
    now: Math.max(0, current),
    dates: datesOf(loaded, workDate, BACK_DAYS)
      .filter(({ day }) => day <= addDays(workDate, AHEAD_DAYS))
      .slice(0, MOST_DATES)
      .map(({ day, shipDay, why, said }) => {
        const order = orders.find((each) => each.id === said?.orderId) ?? null;
        return {
          day,
          shipDay,
          why: said?.why || why,
          state: said?.state ?? (shipDay === null ? ('skipped' as const) : ('waits' as const)),
          order: order && { kind: 'SO' as const, id: order.id, number: order.number },
          draft: order?.state === 'draft',
        };
      }),
  };
}

/** Standing orders, newest first. */
export async function listStanding(
  sql: Sql,
  companyId: number,
  query: z.output<typeof contract.listStanding.query>,
): Promise<z.infer<typeof contract.listStanding.out>> {
  const like = query.q?.trim() ? likeOf(query.q) : null;
  return pageById(
    (before, most) =>
      sql.rows<{
        id: number;
        number: string;
        state: 'active' | 'paused' | 'ended';
        partyId: number;
        partyNumber: string;
        partyName: string;
        rule: string;
        firstDay: Day;
        lastDay: Day | null;
        dueOn: Day | null;
        what: string | null;
        made: number;
        needs: number;
      }>(
        `SELECT s.id, s.number, s.state, c.id AS party_id, c.number AS party_number, c.name AS party_name, s.first_day, s.last_day, s.due_on,
                (SELECT t.rule FROM standing_term t WHERE t.company_id = s.company_id AND t.standing_order_id = s.id ORDER BY t.from_day DESC LIMIT 1) AS rule,
                (SELECT GROUP_CONCAT(CONCAT(TRIM(TRAILING '.' FROM TRIM(TRAILING '0' FROM l.quantity)), ' ', i.number) ORDER BY l.line_no SEPARATOR ', ')
                   FROM standing_term t JOIN standing_line l ON l.company_id = t.company_id AND l.term_id = t.id
                   JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id
                  WHERE t.company_id = s.company_id AND t.id = (SELECT f.id FROM standing_term f
                    WHERE f.company_id = s.company_id AND f.standing_order_id = s.id ORDER BY f.from_day DESC LIMIT 1)) AS what,
                (SELECT COUNT(*) FROM standing_date d WHERE d.company_id = s.company_id AND d.standing_order_id = s.id AND d.state = 'made') AS made,
                (SELECT COUNT(*) FROM standing_date d LEFT JOIN sales_order o ON o.company_id = d.company_id AND o.id = d.order_id
                  WHERE d.company_id = s.company_id AND d.standing_order_id = s.id AND d.needs = TRUE AND (o.id IS NULL OR o.state = 'draft')) AS needs
           FROM standing_order s JOIN customer c ON c.company_id = s.company_id AND c.id = s.customer_id
          WHERE s.company_id = ? AND s.id < ? ${query.state ? 'AND s.state = ?' : ''} ${query.customer ? 'AND s.customer_id = ?' : ''}
            ${like === null ? '' : 'AND (s.number LIKE ? OR c.name LIKE ? OR s.customer_reference LIKE ?)'}
          ORDER BY s.id DESC LIMIT ?`,
        [
          companyId,
          before,
          ...(query.state ? [query.state] : []),
          ...(query.customer ? [query.customer] : []),
          ...(like === null ? [] : [like, like, like]),
          most,
        ],
      ),
    query,
    (row) => ({
      document: { kind: 'ST' as const, id: row.id, number: row.number },
      state: row.state,
      customer: { id: row.partyId, number: row.partyNumber, name: row.partyName },
      rule: row.rule,
      firstDay: row.firstDay,
      lastDay: row.lastDay,
      what: row.what ?? '',
      dueOn: row.dueOn,
      made: row.made,
      needs: row.needs,
    }),
  );
}
