import type * as z from 'zod';
import type { Day } from '@core/kernel';
import type { PromotionKind, PromotionState } from '@core/promotions';
import type * as contract from '@api/promotions';
import { orNotFound } from '../acts';
import { ownCurrency } from '../catalogue';
import { likeOf, pageById, type Sql } from '../db';

type Out<E extends { out: z.ZodType }> = z.infer<E['out']>;

/** Orders shown of a promotion at most. */
const SHOWN = 20;

/** The lines of orders a promotion gave something on, with what it gave in the company's currency. */
const GIVEN = `sales_order_line l
  JOIN promotion_line pl ON pl.company_id = l.company_id AND pl.id = l.promotion_line_id
  JOIN sales_order o ON o.company_id = l.company_id AND o.id = l.order_id
  JOIN customer c ON c.company_id = o.company_id AND c.id = o.customer_id
 WHERE l.company_id = ? AND l.promotion_line_id IN (SELECT id FROM promotion_line WHERE company_id = ? AND promotion_id = ?)
   AND l.quantity > l.cancelled AND o.state <> 'cancelled'`;

/** The lines it is paid by: those it took something off, and those that earned what it gave for nothing. */
const EARNED = `promotion_line pl
  JOIN sales_order_line g ON g.company_id = pl.company_id AND g.promotion_line_id = pl.id AND g.quantity > g.cancelled
  JOIN sales_order_line l ON l.company_id = g.company_id AND l.order_id = g.order_id AND l.quantity > l.cancelled
   AND (l.id = g.id OR pl.kind = 'free' AND l.promotion_line_id IS NULL)
  JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id
   AND (l.id = g.id OR COALESCE(pl.item_id = i.id, pl.item_group_id = i.item_group_id, TRUE))
 WHERE pl.company_id = ? AND pl.promotion_id = ?`;

/** What of a line is invoiced, as a share. */
const INVOICED = '(l.invoiced / (l.quantity - l.cancelled))';

/** One promotion with what it brought. Cost: the order lines that have something of it. // S13 */
export async function openPromotion(
  sql: Sql,
  companyId: number,
  id: number,
): Promise<Out<typeof contract.openPromotion>> {
  const [found] = await sql.rows<{
    number: string;
    version: number;
    state: PromotionState;
    reason: string;
    name: string;
    firstDay: Day;
    lastDay: Day;
    budget: string | null;
    used: string;
    currency: string;
    customerId: number | null;
    customerNumber: string | null;
    customerName: string | null;
    priceGroupId: number | null;
    priceGroup: string | null;
  }>(
    `SELECT p.number, p.version, p.state, p.reason, p.name, p.first_day, p.last_day, p.budget, p.used, ${ownCurrency('p.company_id')} AS currency,
            p.customer_id, c.number AS customer_number, c.name AS customer_name, p.price_group_id, g.name AS price_group
       FROM promotion p
       LEFT JOIN customer c ON c.company_id = p.company_id AND c.id = p.customer_id
       LEFT JOIN price_group g ON g.company_id = p.company_id AND g.id = p.price_group_id
      WHERE p.company_id = ? AND p.id = ?`,
    [companyId, id],
  );
  const head = orNotFound(found, 'This promotion');
  const of = [companyId, companyId, id];
  const [lines, brought, nets, orders, [count]] = await Promise.all([
    linesOf(sql, companyId, id),
    sql.rows<{
      id: number;
      number: string;
      name: string;
      orders: number;
      gave: string;
      gaveInvoiced: string;
    }>(
      `SELECT c.id, c.number, c.name, COUNT(DISTINCT o.id) AS orders,
              SUM(ROUND(l.promotion_unit * (l.quantity - l.cancelled), 2)) AS gave,
              SUM(ROUND(l.promotion_unit * l.invoiced, 2)) AS gave_invoiced
         FROM ${GIVEN} GROUP BY c.id ORDER BY gave DESC, c.id LIMIT 100`,
      of,
    ),
    sql.rows<{ customerId: number; net: string; netInvoiced: string }>(
      `SELECT o.customer_id, ROUND(SUM(${OWN_NET}), 2) AS net, ROUND(SUM(${OWN_NET} * ${INVOICED}), 2) AS net_invoiced
         FROM (SELECT DISTINCT l.id FROM ${EARNED}) e
         JOIN sales_order_line l ON l.company_id = ? AND l.id = e.id
         JOIN sales_order o ON o.company_id = l.company_id AND o.id = l.order_id
        GROUP BY o.customer_id`,
      [companyId, id, companyId],
    ),
    sql.rows<{
      id: number;
      number: string;
      partyId: number;
      partyNumber: string;
      partyName: string;
      day: Day;
      state: string;
      gave: string;
    }>(
      `SELECT o.id, o.number, c.id AS party_id, c.number AS party_number, c.name AS party_name, o.order_date AS day, o.state,
              SUM(ROUND(l.promotion_unit * (l.quantity - l.cancelled), 2)) AS gave
         FROM ${GIVEN} GROUP BY o.id ORDER BY o.id DESC LIMIT ${SHOWN}`,
      of,
    ),
    sql.rows<{ count: number }>(`SELECT COUNT(DISTINCT o.id) AS count FROM ${GIVEN}`, of),
  ]);
  return {
    document: { kind: 'PM', id, number: head.number },
    version: head.version,
    state: head.state,
    reason: head.reason,
    name: head.name,
    customer:
      head.customerId === null ? null : { id: head.customerId, number: head.customerNumber!, name: head.customerName! },
    priceGroup: head.priceGroupId === null ? null : { id: head.priceGroupId, name: head.priceGroup! },
    firstDay: head.firstDay,
    lastDay: head.lastDay,
    currency: head.currency,
    budget: head.budget,
    used: head.used,
    lines,
    brought: brought.map(({ id: customerId, number, name, ...rest }) => {
      const { net = '0', netInvoiced = '0' } = nets.find((each) => each.customerId === customerId) ?? {};
      return { customer: { id: customerId, number, name }, ...rest, net, netInvoiced };
    }),
    orders: orders.map((row) => ({
      document: { kind: 'SO' as const, id: row.id, number: row.number },
      customer: { id: row.partyId, number: row.partyNumber, name: row.partyName },
      day: row.day,
      state: row.state,
      gave: row.gave,
    })),
    orderCount: count!.count,
  };
}

/** A line's amount in the company's currency, by what one of the order's is worth on its day. */
const OWN_NET = `l.amount * COALESCE((SELECT IF(co.currency = o.currency, 1, (SELECT r.rate FROM exchange_rate r
  WHERE r.company_id = co.id AND r.currency = o.currency AND r.day <= o.order_date ORDER BY r.day DESC LIMIT 1)) FROM company co WHERE co.id = o.company_id), 0)`;

async function linesOf(sql: Sql, companyId: number, id: number): Promise<Out<typeof contract.openPromotion>['lines']> {
  const rows = await sql.rows<{
    id: number;
    lineNo: number;
    itemId: number | null;
    itemNumber: string | null;
    itemName: string | null;
    unit: string | null;
    groupId: number | null;
    groupName: string | null;
    kind: PromotionKind;
    value: string;
    from: string;
    buy: string;
    free: string;
    freeItemId: number | null;
    freeNumber: string | null;
    freeName: string | null;
    freeUnit: string | null;
    given: string;
    worth: string;
  }>(
    `SELECT p.id, p.line_no, p.item_id, i.number AS item_number, i.name AS item_name, i.unit, p.item_group_id AS group_id, g.name AS group_name,
            p.kind, p.value, p.from_quantity AS \`from\`, p.buy, p.free, p.free_item_id, f.number AS free_number, f.name AS free_name, f.unit AS free_unit,
            COALESCE((SELECT SUM(l.quantity - l.cancelled) FROM sales_order_line l
                       WHERE l.company_id = p.company_id AND l.promotion_line_id = p.id), 0) AS given,
            COALESCE((SELECT SUM(ROUND(l.promotion_unit * (l.quantity - l.cancelled), 2)) FROM sales_order_line l
                       WHERE l.company_id = p.company_id AND l.promotion_line_id = p.id), 0) AS worth
       FROM promotion_line p
       LEFT JOIN item i ON i.company_id = p.company_id AND i.id = p.item_id
       LEFT JOIN item_group g ON g.company_id = p.company_id AND g.id = p.item_group_id
       LEFT JOIN item f ON f.company_id = p.company_id AND f.id = p.free_item_id
      WHERE p.company_id = ? AND p.promotion_id = ? ORDER BY p.line_no`,
    [companyId, id],
  );
  return rows.map((row) => ({
    id: row.id,
    lineNo: row.lineNo,
    item:
      row.itemId === null ? null : { id: row.itemId, number: row.itemNumber!, name: row.itemName!, unit: row.unit! },
    group: row.groupId === null ? null : { id: row.groupId, name: row.groupName! },
    kind: row.kind,
    value: row.value,
    from: row.from,
    buy: row.buy,
    free: row.free,
    freeItem:
      row.freeItemId === null
        ? null
        : { id: row.freeItemId, number: row.freeNumber!, name: row.freeName!, unit: row.freeUnit! },
    given: row.given,
    worth: row.worth,
  }));
}

/** How a promotion stands on the work date (four placeholders). */
const STANDS = `CASE WHEN p.state = 'stopped' THEN 'stopped' WHEN p.last_day < ? THEN 'over' WHEN p.first_day > ? THEN 'to come'
  WHEN p.budget <= p.used THEN 'used up' ELSE 'running' END`;

/** Promotions, newest first. */
export async function listPromotions(
  sql: Sql,
  companyId: number,
  query: z.output<typeof contract.listPromotions.query>,
  workDate: Day,
): Promise<Out<typeof contract.listPromotions>> {
  const like = query.q?.trim() ? likeOf(query.q) : null;
  const states = query.state === 'running' ? ['running', 'used up'] : query.state ? [query.state] : null;
  return pageById(
    (before, most) =>
      sql.rows<{
        id: number;
        number: string;
        name: string;
        state: 'to come' | 'running' | 'over' | 'stopped' | 'used up';
        who: string | null;
        what: string | null;
        firstDay: Day;
        lastDay: Day;
        budget: string | null;
        used: string;
        currency: string;
      }>(
        `SELECT p.id, p.number, p.name, ${STANDS} AS state, COALESCE(c.name, g.name, 'everybody') AS who,
                (SELECT GROUP_CONCAT(COALESCE(i.number, ig.name, 'everything') ORDER BY l.line_no SEPARATOR ', ') FROM promotion_line l
                   LEFT JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id
                   LEFT JOIN item_group ig ON ig.company_id = l.company_id AND ig.id = l.item_group_id
                  WHERE l.company_id = p.company_id AND l.promotion_id = p.id) AS what,
                p.first_day, p.last_day, p.budget, p.used, ${ownCurrency('p.company_id')} AS currency
           FROM promotion p
           LEFT JOIN customer c ON c.company_id = p.company_id AND c.id = p.customer_id
           LEFT JOIN price_group g ON g.company_id = p.company_id AND g.id = p.price_group_id
          WHERE p.company_id = ? AND p.id < ? ${states ? `AND ${STANDS} IN (?)` : ''}
            ${like === null ? '' : 'AND (p.number LIKE ? OR p.name LIKE ? OR c.name LIKE ?)'}
          ORDER BY p.id DESC LIMIT ?`,
        [
          workDate,
          workDate,
          companyId,
          before,
          ...(states ? [workDate, workDate, states] : []),
          ...(like === null ? [] : [like, like, like]),
          most,
        ],
      ),
    query,
    ({ id, number, who, what, ...row }) => ({
      document: { kind: 'PM' as const, id, number },
      who: who ?? '',
      what: what ?? '',
      ...row,
    }),
  );
}

/** What a promotion may be for besides customers and items. */
export async function promotionChoices(sql: Sql, companyId: number): Promise<Out<typeof contract.promotionChoices>> {
  const [priceGroups, itemGroups] = await Promise.all([
    sql.rows<{ id: number; name: string }>('SELECT id, name FROM price_group WHERE company_id = ? ORDER BY name', [
      companyId,
    ]),
    sql.rows<{ id: number; name: string }>('SELECT id, name FROM item_group WHERE company_id = ? ORDER BY name', [
      companyId,
    ]),
  ]);
  return { priceGroups, itemGroups };
}
