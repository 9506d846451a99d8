import { ownCurrency } from '../catalogue';
import type { Right } from '@api/access';
import { addDays, share, type Day, type DocumentKind } from '@core/kernel';
import type { TodayRow } from '@api/today';
import { callsOf } from '../agreements';
import type { Bound, Sql } from '../db';

/** Rows of one kind shown at most; the rest is counted. */
const MOST = 40;
/** Short lines that are looked through for them. */
const MOST_SHORT = 400;

interface Row {
  documentKind: DocumentKind;
  documentId: number;
  number: string;
  party: string;
  count: number;
  day: Day | null;
  amount: string | null;
  currency: string;
  done: string | null;
  whole: string | null;
  note?: string;
  orderLineId: number | null;
}

interface Source {
  band: TodayRow['band'];
  kind: TodayRow['kind'];
  sql: string;
  values(companyId: number, workDate: Day): Bound[];
}

/** The customer or vendor of an agreement. */
const PARTIES = `LEFT JOIN customer c ON c.company_id = a.company_id AND c.id = a.customer_id
            LEFT JOIN vendor v ON v.company_id = a.company_id AND v.id = a.vendor_id`;

/** Kinds that are about what only some may see, or concern: any of the rights named. // G7 */
const SEEN_BY: Partial<Record<TodayRow['kind'], Right | readonly Right[]>> = {
  'invoice-owed': 'see-debts',
  'shortfall-draft': 'see-agreements',
  'rebate-owed': 'see-agreements',
  'rebate-to-claim': 'see-agreements',
  'agreement-draft': 'see-agreements',
  'agreement-past': 'see-agreements',
  'agreement-reminder': 'see-agreements',
  'call-due': 'see-agreements',
  'message-draft': 'see-mail',
  'plan-to-place': 'purchases',
  'plan-to-begin': 'plan',
  'work-late': 'work',
  'line-moved': 'orders',
  'component-short': 'work',
  'not-arrived': 'goods',
  'to-go-out': ['goods', 'orders'],
  'line-short': ['goods', 'orders', 'purchases'],
  offer: ['orders', 'purchases', 'goods', 'vendor-invoices'],
  'offer-returned': ['orders', 'purchases', 'goods', 'customer-invoices'],
  'offer-to-send': ['send'],
  'standing-needs': 'orders',
  'card-hanging': 'counter',
  'promotion-low': 'promotions',
};

/** Planned orders `p` of some kinds that must be begun by a day, in words of what they are and whom they are for. // T12 */
const PLANS = (
  kinds: string,
) => `SELECT CASE p.kind WHEN 'make' THEN 'PR' WHEN 'assemble' THEN 'AS' ELSE 'PL' END AS document_kind,
                 p.id AS document_id, p.number, COALESCE(v.name, c.name, '') AS party, 1 AS count, p.start_date AS day, NULL AS amount,
                 '' AS currency, NULL AS done, NULL AS whole, t.order_line_id,
                 CONCAT(TRIM(TRAILING '.' FROM TRIM(TRAILING '0' FROM p.quantity)), ' ', i.number) AS note
            FROM planned_order p
            JOIN item i ON i.company_id = p.company_id AND i.id = p.item_id
            LEFT JOIN planned_tie t ON t.company_id = p.company_id AND t.id = (SELECT MIN(f.id) FROM planned_tie f WHERE f.company_id = p.company_id AND f.planned_order_id = p.id)
            LEFT JOIN sales_order_line l ON l.company_id = t.company_id AND l.id = t.order_line_id
            LEFT JOIN sales_order o ON o.company_id = l.company_id AND o.id = l.order_id
            LEFT JOIN customer c ON c.company_id = o.company_id AND c.id = o.customer_id
            LEFT JOIN vendor v ON v.company_id = p.company_id AND v.id = p.vendor_id
           WHERE p.company_id = ? AND p.waits AND p.kind IN (${kinds}) AND p.start_date <= ?
           ORDER BY p.start_date, p.id LIMIT ?`;
/** What is planned is told so many days before it must be begun. */
const PLAN_DAYS = 3;

/** A line that is short is told among what needs a person so many days before it ships, and before that as coming up. */
const SHORT_DAYS = 14;

/** Orders with short lines that ship on some days: of the first, how much of which item, and what would end it. // S9 */
const SHORT = (
  days: string,
) => `SELECT 'SO' AS document_kind, o.id AS document_id, o.number, c.name AS party, COUNT(*) AS count, MIN(y.ship_date) AS day,
                 NULL AS amount, o.currency, NULL AS done, NULL AS whole, MIN(l.id) AS order_line_id,
                 SUBSTRING_INDEX(GROUP_CONCAT(CONCAT(TRIM(TRAILING '.' FROM TRIM(TRAILING '0' FROM y.quantity)), ' ', i.number, '|',
                   IF(y.missing > 0, '', y.ends_on), '|', IF(y.missing > 0, '', y.ends_by)) ORDER BY y.ship_date, y.order_line_id SEPARATOR '\n'), '\n', 1) AS note
            FROM (SELECT * FROM short_line FORCE INDEX (short_line_day) WHERE company_id = ? AND ship_date ${days}
                   ORDER BY ship_date, order_line_id LIMIT ${MOST_SHORT}) y
            JOIN sales_order_line l FORCE INDEX (PRIMARY) ON l.company_id = y.company_id AND l.id = y.order_line_id AND l.on_bench = FALSE AND l.owed = TRUE
            JOIN sales_order o ON o.company_id = l.company_id AND o.id = l.order_id AND o.state = 'confirmed'
            JOIN customer c ON c.company_id = o.company_id AND c.id = o.customer_id
            JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id
           GROUP BY o.id ORDER BY day, o.id LIMIT ?`;

/** What waits for a person, kind by kind; each reads one index and says in its WHERE what makes it wait. */
const SOURCES: readonly Source[] = [
  {
    band: 'now',
    kind: 'line-without-supply',
    sql: `SELECT 'SO' AS document_kind, o.id AS document_id, o.number, c.name AS party, COUNT(*) AS count,
                 MIN(l.ship_date) AS day, NULL AS amount, o.currency, SUM(l.tied) AS done, SUM(l.quantity) AS whole, MIN(l.id) AS order_line_id
            FROM sales_order_line l
            JOIN sales_order o ON o.company_id = l.company_id AND o.id = l.order_id
            JOIN customer c ON c.company_id = o.company_id AND c.id = o.customer_id
           WHERE l.company_id = ? AND l.on_bench = TRUE GROUP BY o.id ORDER BY day, o.id LIMIT ?`,
    values: (companyId) => [companyId],
  },
  {
    band: 'now',
    kind: 'plan-to-place',
    sql: PLANS("'buy'"),
    values: (companyId, workDate) => [companyId, addDays(workDate, PLAN_DAYS)],
  },
  {
    band: 'now',
    kind: 'plan-to-begin',
    sql: PLANS("'make', 'assemble'"),
    values: (companyId, workDate) => [companyId, addDays(workDate, PLAN_DAYS)],
  },
  {
    band: 'now',
    kind: 'work-late',
    // It runs, and an operation should be over by now: whom it is for, and when that ships. What waits is to be begun. // W3
    sql: `SELECT CASE p.kind WHEN 'make' THEN 'PR' ELSE 'AS' END AS document_kind, p.id AS document_id, p.number, COALESCE(c.name, '') AS party,
                 1 AS count, MIN(COALESCE(w.late_since, w.last_day)) AS day, NULL AS amount, '' AS currency, MIN(w.done + w.scrapped) AS done, p.quantity AS whole,
                 l.id AS order_line_id, CONCAT(MIN(w.no), '|', SUBSTRING_INDEX(GROUP_CONCAT(w.name ORDER BY w.no SEPARATOR '|'), '|', 1), '|',
                   COALESCE(o.number, ''), '|', COALESCE(l.ship_date, '')) AS note
            FROM planned_order p FORCE INDEX (planned_order_open)
            JOIN planned_operation w ON w.company_id = p.company_id AND w.planned_order_id = p.id AND COALESCE(w.late_since, w.last_day) < ?
             AND w.done + w.scrapped < p.quantity - p.scrapped + w.scrapped
            LEFT JOIN planned_tie t ON t.company_id = p.company_id AND t.id = (SELECT MIN(f.id) FROM planned_tie f
              WHERE f.company_id = p.company_id AND f.planned_order_id = p.id AND f.quantity > f.made)
            LEFT JOIN sales_order_line l ON l.company_id = t.company_id AND l.id = t.order_line_id
            LEFT JOIN sales_order o ON o.company_id = l.company_id AND o.id = l.order_id
            LEFT JOIN customer c ON c.company_id = o.company_id AND c.id = o.customer_id
           WHERE p.company_id = ? AND p.open = TRUE AND p.kind <> 'buy' AND p.state = 'running'
           GROUP BY p.id ORDER BY day, p.id LIMIT ?`,
    values: (companyId, workDate) => [workDate, companyId],
  },
  {
    band: 'now',
    kind: 'line-moved',
    // What is made for it is late, and its ship date went with that: its customer is to be told. // W3
    sql: `SELECT 'SO' AS document_kind, o.id AS document_id, o.number, c.name AS party, COUNT(*) AS count, MIN(l.ship_date) AS day,
                 NULL AS amount, '' AS currency, NULL AS done, NULL AS whole, MIN(l.id) AS order_line_id, MIN(l.moved_from) AS note
            FROM sales_order_line l FORCE INDEX (sales_order_line_moved)
            JOIN sales_order o ON o.company_id = l.company_id AND o.id = l.order_id
            JOIN customer c ON c.company_id = o.company_id AND c.id = o.customer_id
           WHERE l.company_id = ? AND l.moved_from > '0000-00-00' AND l.ship_date > l.moved_from
             AND l.quantity - l.cancelled > l.shipped GROUP BY o.id ORDER BY day, o.id LIMIT ?`,
    values: (companyId) => [companyId],
  },
  {
    band: 'now',
    kind: 'component-short',
    // What begins soon needs more of it than is free: all whom that touches. // W3
    sql: `SELECT CASE p.kind WHEN 'make' THEN 'PR' ELSE 'AS' END AS document_kind, p.id AS document_id, p.number,
                 COALESCE((SELECT GROUP_CONCAT(DISTINCT c.name ORDER BY c.name SEPARATOR ', ') FROM planned_component f
                    JOIN planned_order b ON b.company_id = f.company_id AND b.id = f.planned_order_id AND b.open AND b.state IN ('firm', 'running')
                     AND b.start_date <= y.until_day AND b.location_id = y.location_id
                    JOIN planned_tie t ON t.company_id = b.company_id AND t.planned_order_id = b.id AND t.quantity > t.made
                    JOIN sales_order_line l ON l.company_id = t.company_id AND l.id = t.order_line_id
                    JOIN sales_order o ON o.company_id = l.company_id AND o.id = l.order_id
                    JOIN customer c ON c.company_id = o.company_id AND c.id = o.customer_id
                   WHERE f.company_id = y.company_id AND f.item_id = y.item_id AND f.quantity > f.used), '') AS party,
                 y.orders AS count, y.day, NULL AS amount, '' AS currency, NULL AS done, NULL AS whole,
                 (SELECT MIN(t.order_line_id) FROM planned_tie t WHERE t.company_id = p.company_id AND t.planned_order_id = p.id) AS order_line_id,
                 CONCAT(TRIM(TRAILING '.' FROM TRIM(TRAILING '0' FROM y.short)), ' ', i.number) AS note
            FROM (SELECT k.company_id, k.item_id, p.location_id, ? AS until_day, COUNT(DISTINCT p.id) AS orders, MIN(p.id) AS first_id,
                         MIN(p.start_date) AS day, SUM(k.quantity - k.used) - COALESCE(MAX(s.on_hand - s.reserved), 0) AS short
                    FROM planned_order p FORCE INDEX (planned_order_open)
                    JOIN planned_component k ON k.company_id = p.company_id AND k.planned_order_id = p.id AND k.quantity > k.used
                    LEFT JOIN stock s ON s.company_id = k.company_id AND s.item_id = k.item_id AND s.location_id = p.location_id
                   WHERE p.company_id = ? AND p.open = TRUE AND p.kind <> 'buy' AND p.state IN ('firm', 'running') AND p.start_date <= ?
                   GROUP BY k.item_id, p.location_id HAVING short > 0) y
            JOIN planned_order p ON p.company_id = y.company_id AND p.id = y.first_id
            JOIN item i ON i.company_id = y.company_id AND i.id = y.item_id
           ORDER BY y.day, i.number LIMIT ?`,
    values: (companyId, workDate) => [addDays(workDate, PLAN_DAYS), companyId, addDays(workDate, PLAN_DAYS)],
  },
  {
    band: 'now',
    kind: 'purchase-due',
    sql: `SELECT 'PO' AS document_kind, p.id AS document_id, p.number, v.name AS party, COUNT(*) AS count,
                 MIN(l.due_date) AS day, NULL AS amount, p.currency, SUM(l.received) AS done, SUM(l.quantity) AS whole,
                 (SELECT MIN(t.order_line_id) FROM tie t WHERE t.company_id = p.company_id AND t.purchase_line_id = MIN(l.id)) AS order_line_id
            FROM purchase_order p
            JOIN vendor v ON v.company_id = p.company_id AND v.id = p.vendor_id
            JOIN purchase_order_line l ON l.company_id = p.company_id AND l.purchase_order_id = p.id
           WHERE p.company_id = ? AND p.state = 'placed' AND l.received < l.quantity AND l.due_date <= ?
           GROUP BY p.id ORDER BY day, p.id LIMIT ?`,
    values: (companyId, workDate) => [companyId, workDate],
  },
  {
    band: 'now',
    kind: 'not-arrived',
    // Goods between our places that should be there by now. // W6
    sql: `SELECT 'JR' AS document_kind, j.id AS document_id, j.number, lo.name AS party, 1 AS count, w.due_date AS day, NULL AS amount,
                 '' AS currency, w.arrived AS done, w.quantity AS whole, NULL AS order_line_id,
                 CONCAT(TRIM(TRAILING '.' FROM TRIM(TRAILING '0' FROM w.quantity - w.arrived)), ' ', i.number) AS note
            FROM carriage w
            JOIN journal j ON j.company_id = w.company_id AND j.id = w.journal_id
            JOIN item i ON i.company_id = w.company_id AND i.id = w.item_id
            JOIN location lo ON lo.company_id = w.company_id AND lo.id = w.to_id
           WHERE w.company_id = ? AND w.open = TRUE AND w.due_date <= ? ORDER BY w.due_date, w.id LIMIT ?`,
    values: (companyId, workDate) => [companyId, workDate],
  },
  {
    band: 'now',
    kind: 'goods-here',
    // A special order's goods came and wait for their shipment. // L3
    sql: `SELECT 'SO' AS document_kind, o.id AS document_id, o.number, c.name AS party, COUNT(*) AS count,
                 MIN(l.ship_date) AS day, NULL AS amount, o.currency, SUM(l.reserved) AS done, SUM(l.quantity - l.cancelled - l.shipped) AS whole,
                 MIN(l.id) AS order_line_id
            FROM sales_order_line l
            JOIN sales_order o ON o.company_id = l.company_id AND o.id = l.order_id
            JOIN customer c ON c.company_id = o.company_id AND c.id = o.customer_id
           WHERE l.company_id = ? AND l.goods_here = TRUE GROUP BY o.id ORDER BY day, o.id LIMIT ?`,
    values: (companyId) => [companyId],
  },
  {
    band: 'now',
    kind: 'to-go-out',
    // It ships by today, and nothing else is said of it: it is not short, and did not come for its order alone. // S9
    sql: `SELECT 'SO' AS document_kind, o.id AS document_id, o.number, c.name AS party, COUNT(*) AS count, MIN(l.ship_date) AS day,
                 NULL AS amount, o.currency, SUM(l.reserved) AS done, SUM(l.quantity - l.cancelled - l.shipped) AS whole, MIN(l.id) AS order_line_id
            FROM sales_order_line l FORCE INDEX (sales_order_line_going)
            JOIN sales_order o ON o.company_id = l.company_id AND o.id = l.order_id AND o.state = 'confirmed'
            JOIN customer c ON c.company_id = o.company_id AND c.id = o.customer_id
           WHERE l.company_id = ? AND l.owed = TRUE AND l.ship_date <= ? AND l.goods_here = FALSE
             AND NOT EXISTS (SELECT 1 FROM short_line y WHERE y.company_id = l.company_id AND y.order_line_id = l.id)
           GROUP BY o.id ORDER BY day, o.id LIMIT ?`,
    values: (companyId, workDate) => [companyId, workDate],
  },
  {
    band: 'now',
    kind: 'line-short',
    sql: SHORT('<= ?'),
    values: (companyId, workDate) => [companyId, addDays(workDate, SHORT_DAYS)],
  },
  {
    band: 'coming',
    kind: 'line-short',
    sql: SHORT('> ?'),
    values: (companyId, workDate) => [companyId, addDays(workDate, SHORT_DAYS)],
  },
  {
    band: 'now',
    kind: 'offer',
    // What each sister sent: the newest by its number, and how many. What is set aside comes back on its day. // X2
    sql: `SELECT CASE f.kind WHEN 'order' THEN 'PO' WHEN 'purchase' THEN 'SO' WHEN 'receipt' THEN 'SH' ELSE 'CI' END AS document_kind,
                 f.id AS document_id, f.number, c.name AS party, w.count, DATE(f.at) AS day, NULL AS amount, '' AS currency, NULL AS done,
                 NULL AS whole, NULL AS order_line_id
            FROM (SELECT MAX(x.id) AS id, COUNT(*) AS count FROM offer x FORCE INDEX (offer_waits)
                   WHERE x.company_id = ? AND x.waits = TRUE AND (x.state <> 'aside' OR x.until_day <= ?) GROUP BY x.from_id) w
            JOIN offer f ON f.id = w.id
            JOIN company c ON c.id = f.from_id ORDER BY c.name LIMIT ?`,
    values: (companyId, workDate) => [companyId, workDate],
  },
  {
    band: 'now',
    kind: 'offer-returned',
    // It came back from a sister with a reason: changed it is offered anew, cancelled it is over. // X2
    sql: `SELECT CASE f.kind WHEN 'order' THEN 'PO' WHEN 'purchase' THEN 'SO' WHEN 'receipt' THEN 'SH' ELSE 'CI' END AS document_kind,
                 f.source_id AS document_id, f.number, c.name AS party, 1 AS count, NULL AS day, NULL AS amount, '' AS currency, NULL AS done,
                 NULL AS whole, NULL AS order_line_id, f.reason AS note
            FROM offer f FORCE INDEX (offer_from) JOIN company c ON c.id = f.company_id
           WHERE f.from_id = ? AND f.state = 'returned' ORDER BY f.id DESC LIMIT ?`,
    values: (companyId) => [companyId],
  },
  {
    band: 'now',
    kind: 'offer-to-send',
    // What goes to each company elsewhere: the newest by its number, and how many. // X2
    sql: `SELECT CASE f.kind WHEN 'order' THEN 'PO' WHEN 'purchase' THEN 'SO' WHEN 'receipt' THEN 'SH' ELSE 'CI' END AS document_kind,
                 f.id AS document_id, f.number, c.name AS party, w.count, NULL AS day, NULL AS amount, '' AS currency, NULL AS done,
                 NULL AS whole, NULL AS order_line_id
            FROM (SELECT MAX(x.offer_id) AS id, COUNT(*) AS count FROM elsewhere_due x FORCE INDEX (elsewhere_due_company)
                    JOIN offer y ON y.id = x.offer_id WHERE x.company_id = ? AND x.waits = TRUE
                     AND NOT EXISTS (SELECT 1 FROM sales_order o WHERE y.kind = 'purchase' AND o.company_id = y.from_id AND o.id = y.source_id AND o.state = 'draft')
                   GROUP BY IF(y.company_id = x.company_id, y.from_id, y.company_id)) w
            JOIN offer f ON f.id = w.id
            JOIN company c ON c.id IN (f.company_id, f.from_id) AND c.elsewhere = TRUE ORDER BY c.name LIMIT ?`,
    values: (companyId) => [companyId],
  },
  {
    band: 'now',
    kind: 'standing-needs',
    // A date that could not be made, or whose order something stands against: until it is confirmed or given up. // S7
    sql: `SELECT 'ST' AS document_kind, s.id AS document_id, s.number, c.name AS party, COUNT(*) AS count, MIN(d.day) AS day, NULL AS amount,
                 '' AS currency, NULL AS done, NULL AS whole, NULL AS order_line_id,
                 SUBSTRING_INDEX(GROUP_CONCAT(d.why ORDER BY d.day SEPARATOR '\n'), '\n', 1) AS note
            FROM standing_date d FORCE INDEX (standing_date_needs)
            JOIN standing_order s ON s.company_id = d.company_id AND s.id = d.standing_order_id
            JOIN customer c ON c.company_id = s.company_id AND c.id = s.customer_id
            LEFT JOIN sales_order o ON o.company_id = d.company_id AND o.id = d.order_id
           WHERE d.company_id = ? AND d.needs = TRUE AND (IF(o.id IS NULL, s.state <> 'ended', o.state = 'draft')) GROUP BY s.id ORDER BY day, s.id LIMIT ?`,
    values: (companyId) => [companyId],
  },
  {
    band: 'now',
    kind: 'card-hanging',
    // Money a terminal took, or may have taken, that is on no slip. // C2
    sql: `SELECT 'SO' AS document_kind, o.id AS document_id, o.number, c.name AS party, COUNT(*) AS count, NULL AS day, SUM(k.amount) AS amount,
                 k.currency, NULL AS done, NULL AS whole, NULL AS order_line_id, IF(MAX(k.back), 'back', '') AS note
            FROM card_payment k FORCE INDEX (card_payment_hanging)
            JOIN sales_order o ON o.company_id = k.company_id AND o.id = k.order_id
            JOIN customer c ON c.company_id = o.company_id AND c.id = o.customer_id
           WHERE k.company_id = ? AND k.hanging = TRUE GROUP BY o.id ORDER BY o.id LIMIT ?`,
    values: (companyId) => [companyId],
  },
  {
    band: 'coming',
    kind: 'promotion-low',
    // A promotion that has a tenth of its budget left, or nothing, and days to go. // S13
    sql: `SELECT 'PM' AS document_kind, p.id AS document_id, p.number, p.name AS party, 1 AS count, p.last_day AS day, p.budget - p.used AS amount,
                 ${ownCurrency('p.company_id')} AS currency, p.used AS done, p.budget AS whole, NULL AS order_line_id, '' AS note
            FROM promotion p FORCE INDEX (promotion_last)
           WHERE p.company_id = ? AND p.last_day >= ? AND p.first_day <= ? AND p.state = 'running' AND p.used >= p.budget * 0.9
           ORDER BY p.last_day, p.id LIMIT ?`,
    values: (companyId, workDate) => [companyId, workDate, workDate],
  },
  {
    band: 'now',
    kind: 'not-invoiced',
    sql: `SELECT 'SO' AS document_kind, o.id AS document_id, o.number, c.name AS party, COUNT(*) AS count, NULL AS day,
                 SUM((l.shipped - l.invoiced) * l.unit_price) AS amount, o.currency, SUM(l.invoiced) AS done, SUM(l.shipped) AS whole,
                 MIN(l.id) AS order_line_id
            FROM sales_order o
            JOIN sales_order_line l ON l.company_id = o.company_id AND l.order_id = o.id
            JOIN customer c ON c.company_id = o.company_id AND c.id = o.customer_id
           WHERE o.company_id = ? AND o.state = 'confirmed' AND l.shipped > l.invoiced
           GROUP BY o.id ORDER BY o.id LIMIT ?`,
    values: (companyId) => [companyId],
  },
  {
    band: 'now',
    kind: 'order-draft',
    // What is held for a sister waits for her.
    sql: `SELECT 'SO' AS document_kind, o.id AS document_id, o.number, c.name AS party, 1 AS count, o.first_ship_date AS day,
                 o.net AS amount, o.currency, NULL AS done, NULL AS whole,
                 (SELECT MIN(l.id) FROM sales_order_line l WHERE l.company_id = o.company_id AND l.order_id = o.id) AS order_line_id
            FROM sales_order o JOIN customer c ON c.company_id = o.company_id AND c.id = o.customer_id
           WHERE o.company_id = ? AND o.state = 'draft'
             AND NOT EXISTS (SELECT 1 FROM sister_hold h WHERE h.seller_id = o.company_id AND h.order_id = o.id AND h.state = 'held')
           ORDER BY o.first_ship_date, o.id LIMIT ?`,
    values: (companyId) => [companyId],
  },
  {
    band: 'now',
    kind: 'message-draft',
    sql: `SELECT m.document_kind, m.document_id, m.document_number AS number, m.party, 1 AS count, m.written_on AS day,
                 NULL AS amount, '' AS currency, NULL AS done, NULL AS whole, NULL AS order_line_id, m.subject AS note
            FROM message_draft m WHERE m.company_id = ? ORDER BY m.id LIMIT ?`,
    values: (companyId) => [companyId],
  },
  {
    band: 'now',
    kind: 'agreement-draft',
    sql: `SELECT 'AG' AS document_kind, a.id AS document_id, a.number, COALESCE(c.name, v.name) AS party, 1 AS count, a.first_day AS day,
                 a.committed_value AS amount, a.currency, NULL AS done, NULL AS whole, NULL AS order_line_id
            FROM agreement a ${PARTIES}
           WHERE a.company_id = ? AND a.state = 'draft' ORDER BY a.first_day, a.id LIMIT ?`,
    values: (companyId) => [companyId],
  },
  {
    band: 'now',
    kind: 'agreement-past',
    sql: `SELECT 'AG' AS document_kind, a.id AS document_id, a.number, COALESCE(c.name, v.name) AS party, 1 AS count, a.last_day AS day,
                 GREATEST(a.committed_value - a.shipped_value, 0) AS amount, a.currency, a.shipped_value AS done, a.committed_value AS whole,
                 NULL AS order_line_id
            FROM agreement a ${PARTIES}
           WHERE a.company_id = ? AND a.state IN ('in-force', 'paused') AND a.last_day < ?
           ORDER BY a.last_day, a.id LIMIT ?`,
    values: (companyId, workDate) => [companyId, workDate],
  },
  {
    band: 'now',
    kind: 'agreement-reminder',
    sql: `SELECT 'AG' AS document_kind, a.id AS document_id, a.number, COALESCE(c.name, v.name) AS party, 1 AS count, a.last_day AS day,
                 GREATEST(a.committed_value - a.shipped_value, 0) AS amount, a.currency, a.shipped_value AS done, a.committed_value AS whole,
                 NULL AS order_line_id, CONCAT(r.kind, ' ', TRIM(TRAILING '.' FROM TRIM(TRAILING '0' FROM r.at_value))) AS note
            FROM agreement_reminder r JOIN agreement a ON a.company_id = r.company_id AND a.id = r.agreement_id ${PARTIES}
           WHERE r.company_id = ? AND r.handled_on IS NULL AND r.fired_on <= ? ORDER BY r.fired_on, r.id LIMIT ?`,
    values: (companyId, workDate) => [companyId, workDate],
  },
  {
    band: 'now',
    kind: 'call-due',
    // By hand a week ahead; by itself once it should have been released. What releases have used up is left out after.
    sql: `SELECT 'AG' AS document_kind, a.id AS document_id, a.number, COALESCE(c.name, v.name) AS party, COUNT(*) AS count,
                 MIN(k.day) AS day, NULL AS amount, a.currency, NULL AS done, NULL AS whole, NULL AS order_line_id
            FROM agreement a
            JOIN agreement_line l ON l.company_id = a.company_id AND l.agreement_id = a.id
            JOIN agreement_call k ON k.company_id = l.company_id AND k.agreement_line_id = l.id ${PARTIES}
           WHERE a.company_id = ? AND a.state = 'in-force' AND k.skipped = FALSE AND k.made_id IS NULL
             AND k.day <= ? + INTERVAL COALESCE(a.release_ahead_days, 7) DAY
           GROUP BY a.id ORDER BY day, a.id LIMIT ?`,
    values: (companyId, workDate) => [companyId, workDate],
  },
  {
    band: 'now',
    kind: 'shortfall-draft',
    sql: `SELECT 'AG' AS document_kind, a.id AS document_id, a.number, c.name AS party, COUNT(*) AS count, d.made_on AS day,
                 SUM(s.net) AS amount, a.currency, NULL AS done, NULL AS whole, NULL AS order_line_id
            FROM shortfall_draft d
            JOIN shortfall_line s ON s.company_id = d.company_id AND s.shortfall_draft_id = d.id
            JOIN agreement a ON a.company_id = d.company_id AND a.id = d.agreement_id
            JOIN customer c ON c.company_id = a.company_id AND c.id = a.customer_id
           WHERE d.company_id = ? AND d.state = 'draft' GROUP BY d.id ORDER BY d.id LIMIT ?`,
    values: (companyId) => [companyId],
  },
  {
    band: 'now',
    kind: 'rebate-owed',
    sql: `SELECT 'AG' AS document_kind, a.id AS document_id, a.number, c.name AS party, 1 AS count, a.last_day AS day,
                 a.rebate_accrued - a.rebate_settled AS amount, a.currency, a.rebate_settled AS done, a.rebate_accrued AS whole,
                 NULL AS order_line_id
            FROM agreement a JOIN customer c ON c.company_id = a.company_id AND c.id = a.customer_id
           WHERE a.company_id = ? AND a.state IN ('in-force', 'paused', 'ended') AND a.last_day < ? AND a.rebate_accrued > a.rebate_settled
           ORDER BY a.last_day, a.id LIMIT ?`,
    values: (companyId, workDate) => [companyId, workDate],
  },
  {
    band: 'now',
    kind: 'rebate-to-claim',
    // Settled, and then goods came back. // A10
    sql: `SELECT 'AG' AS document_kind, a.id AS document_id, a.number, c.name AS party, 1 AS count, NULL AS day,
                 a.rebate_settled - a.rebate_accrued AS amount, a.currency, NULL AS done, NULL AS whole, NULL AS order_line_id
            FROM agreement a JOIN customer c ON c.company_id = a.company_id AND c.id = a.customer_id
           WHERE a.company_id = ? AND a.rebate_settled > a.rebate_accrued ORDER BY a.id LIMIT ?`,
    values: (companyId) => [companyId],
  },
  {
    band: 'coming',
    kind: 'purchase-coming',
    sql: `SELECT 'PO' AS document_kind, p.id AS document_id, p.number, v.name AS party, COUNT(*) AS count,
                 MIN(l.due_date) AS day, NULL AS amount, p.currency, SUM(l.received) AS done, SUM(l.quantity) AS whole,
                 (SELECT MIN(t.order_line_id) FROM tie t WHERE t.company_id = p.company_id AND t.purchase_line_id = MIN(l.id)) AS order_line_id
            FROM purchase_order p
            JOIN vendor v ON v.company_id = p.company_id AND v.id = p.vendor_id
            JOIN purchase_order_line l ON l.company_id = p.company_id AND l.purchase_order_id = p.id
           WHERE p.company_id = ? AND p.state = 'placed' AND l.received < l.quantity AND l.due_date > ?
           GROUP BY p.id ORDER BY day, p.id LIMIT ?`,
    values: (companyId, workDate) => [companyId, workDate],
  },
  {
    band: 'waiting',
    kind: 'vendor-not-invoiced',
    sql: `SELECT 'PO' AS document_kind, p.id AS document_id, p.number, v.name AS party, COUNT(*) AS count, NULL AS day,
                 SUM((l.received - l.invoiced) * l.unit_price) AS amount, p.currency, SUM(l.invoiced) AS done, SUM(l.received) AS whole,
                 (SELECT MIN(t.order_line_id) FROM tie t WHERE t.company_id = p.company_id AND t.purchase_line_id = MIN(l.id)) AS order_line_id
            FROM purchase_order p
            JOIN vendor v ON v.company_id = p.company_id AND v.id = p.vendor_id
            JOIN purchase_order_line l ON l.company_id = p.company_id AND l.purchase_order_id = p.id
           WHERE p.company_id = ? AND p.state = 'placed' AND l.received > l.invoiced
           GROUP BY p.id ORDER BY p.id LIMIT ?`,
    values: (companyId) => [companyId],
  },
  {
    band: 'waiting',
    kind: 'invoice-owed',
    sql: `SELECT 'CI' AS document_kind, i.id AS document_id, i.number, c.name AS party, 1 AS count, oi.due_date AS day,
                 oi.amount - oi.settled AS amount, oi.currency, oi.settled AS done, oi.amount AS whole,
                 (SELECT MIN(l.order_line_id) FROM customer_invoice_line l WHERE l.company_id = i.company_id AND l.invoice_id = i.id) AS order_line_id
            FROM open_item oi
            JOIN customer_invoice i ON i.company_id = oi.company_id AND i.id = oi.customer_invoice_id
            JOIN customer c ON c.company_id = oi.company_id AND c.id = oi.customer_id
           WHERE oi.company_id = ? AND oi.settled < oi.amount ORDER BY oi.due_date, oi.id LIMIT ?`,
    values: (companyId) => [companyId],
  },
];

/** What needs a person now, what comes up, what waits for others; soonest first within a kind. */
export async function today(sql: Sql, companyId: number, workDate: Day, rights: readonly Right[]) {
  const found = await Promise.all(
    SOURCES.filter(({ kind }) => mayKnow(kind, rights)).map(async (source) => {
      const read = await sql.rows<Row>(source.sql, [...source.values(companyId, workDate), MOST + 1]);
      const rows = source.kind === 'call-due' ? await stillDue(sql, companyId, workDate, read) : read;
      return { rows: rows.slice(0, MOST).map((row) => rowOf(source, row)), more: rows.length > MOST };
    }),
  );
  return {
    rows: found.flatMap((each) => each.rows),
    /** Kinds that have more rows than are shown. */
    more: found.filter((each) => each.more).length,
  };
}

function mayKnow(kind: TodayRow['kind'], rights: readonly Right[]): boolean {
  const seenBy = SEEN_BY[kind];
  return seenBy === undefined || [seenBy].flat().some((right) => rights.includes(right));
}

/** Agreements whose due calls are not used up by what was really released. // A7 */
async function stillDue(sql: Sql, companyId: number, workDate: Day, rows: readonly Row[]): Promise<Row[]> {
  const checked = await Promise.all(
    rows.map(async (row) => {
      const calls = [...(await callsOf(sql, companyId, row.documentId)).values()].flat();
      const due = calls.filter((call) => call.day <= addDays(workDate, 7) && call.rest !== '0' && call.made === null);
      return due.length === 0 ? null : { ...row, count: due.length, day: due.map((call) => call.day).sort()[0]! };
    }),
  );
  return checked.filter((row) => row !== null);
}

function rowOf({ band, kind }: Source, row: Row): TodayRow {
  return {
    band,
    kind,
    document: { kind: row.documentKind, id: row.documentId, number: row.number },
    party: row.party,
    count: row.count,
    day: row.day,
    amount: row.amount,
    currency: row.currency,
    share: share(row.done ?? '0', row.whole ?? '1'),
    note: row.note ?? '',
    orderLineId: row.orderLineId,
  };
}
