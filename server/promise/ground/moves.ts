import { itemAt, UNDER_WAY, type Day } from '@core/kernel';
import type { MoveRow } from '@core/promise';
import type { Bound, Database, Sql } from '../../db';
import { plannedForAll } from '../asking/planned-for';

/** An item at a location as `pointOf` makes it. */
export const pointBy = (item: string, location: string) => `${item} + ${location} * 4294967296`;

/** What planned orders in some of their states hold for an order line `l`. */
const heldFor = (states: string) => `COALESCE((SELECT SUM(pt.quantity - pt.made) FROM planned_tie pt
              JOIN planned_order p ON p.company_id = pt.company_id AND p.id = pt.planned_order_id AND p.open AND p.state ${states}
             WHERE pt.company_id = l.company_id AND pt.order_line_id = l.id), 0)`;

/**
 * What is open of an order line `l`, but for what is held for it, and what comes for it on a tie or of an order that is
 * firm. // T1 T12
 */
export const OPEN_UNHELD = `l.quantity - l.cancelled - l.shipped - l.reserved - COALESCE((SELECT SUM(t.quantity - t.received) FROM tie t
              WHERE t.company_id = l.company_id AND t.order_line_id = l.id), 0) - ${heldFor("<> 'planned'")}`;

/** An open line `l` of item `i` that is asked anew with all others: how it was promised, or how its item is. // T10 */
export const ASKED_ANEW = "(l.promised_by IS NOT NULL OR i.promise_method <> 'none')";

interface MoveRead {
  itemId: number;
  day: Day;
  quantity: string;
  kind: string;
  id: number;
  number: string;
  /** As text where a union made it one. */
  lineId: number | string | null;
  party: string;
  /** Held in part, begun, or not an order: planning leaves it as it is. */
  fixed?: number;
}

const moveOf = (row: MoveRead): MoveRow => ({
  itemId: row.itemId,
  day: row.day,
  quantity: row.quantity,
  source: {
    kind: row.kind,
    id: row.id,
    number: row.number,
    ...(row.lineId === null ? {} : { lineId: Number(row.lineId) }),
    party: row.party,
  },
  ...(row.fixed ? { fixed: true } : {}),
});

export const KIND_OF_PLANNED = "CASE p.kind WHEN 'make' THEN 'PR' WHEN 'assemble' THEN 'AS' ELSE 'PL' END";

/**
 * What of a planned order `p` is held for somebody still: for a line as far as it is open, for another order while that
 * is. What was shipped from elsewhere, or is cancelled above, leaves it free.
 */
const HELD = `(IF(p.parent_id IS NOT NULL AND (SELECT u.open FROM planned_order u WHERE u.company_id = p.company_id AND u.id = p.parent_id),
      p.held - COALESCE((SELECT SUM(pt.quantity - pt.made) FROM planned_tie pt
        WHERE pt.company_id = p.company_id AND pt.planned_order_id = p.id), 0), 0)
    + COALESCE((SELECT SUM(LEAST(pt.quantity - pt.made, GREATEST(0, sl.quantity - sl.cancelled - sl.shipped - sl.reserved)))
        FROM planned_tie pt JOIN sales_order_line sl ON sl.company_id = pt.company_id AND sl.id = pt.order_line_id
       WHERE pt.company_id = p.company_id AND pt.planned_order_id = p.id), 0))`;

/** What is coming to our place for nobody yet: of purchases what is not tied, of planned orders what is not held, what is under way. */
const SUPPLIES = {
  purchased: `l.quantity - l.received - IF(l.tied = 0, 0, COALESCE((SELECT SUM(t.quantity - t.received) FROM tie t
              WHERE t.company_id = l.company_id AND t.purchase_line_id = l.id), 0))`,
  ofPurchases: `purchase_order_line l
       JOIN purchase_order p ON p.company_id = l.company_id AND p.id = l.purchase_order_id
        AND p.state = 'placed' AND p.ship_to_id IS NULL`,
  planned: `p.quantity - p.finished - p.scrapped - ${HELD}`,
};

/** What comes of items at locations (points). */
export async function suppliesOf(sql: Sql, companyId: number, points: readonly number[], leftOut: readonly number[]) {
  const all = await supplies(sql, companyId, [(alias) => `${alias}.item_id IN (?)`, [itemsAt(points)]], leftOut);
  return among(points, all);
}

/** The items of points. */
export const itemsAt = (points: readonly number[]): number[] => [...new Set(points.map(itemAt))];

function among(points: readonly number[], moves: readonly MoveRow[]): MoveRow[] {
  const wanted = new Set(points);
  return moves.filter((move) => wanted.has(move.itemId));
}

async function supplies(
  sql: Sql,
  companyId: number,
  [which, values]: readonly [(alias: string) => string, (Bound | readonly Bound[])[]],
  leftOut: readonly number[],
): Promise<MoveRow[]> {
  const rows = await sql.rows<MoveRead>(
    `SELECT ${pointBy('l.item_id', 'p.location_id')} AS item_id, l.due_date AS day, ${SUPPLIES.purchased} AS quantity,
            'PO' AS kind, p.id, p.number, l.id AS line_id, v.name AS party,
            EXISTS (SELECT 1 FROM tie t WHERE t.company_id = l.company_id AND t.purchase_line_id = l.id
              AND t.quantity > t.received) AS fixed
       FROM ${SUPPLIES.ofPurchases}
       JOIN vendor v ON v.company_id = p.company_id AND v.id = p.vendor_id
      WHERE l.company_id = ? AND (${which('l')}) AND l.untied = TRUE
     HAVING quantity > 0
     UNION ALL
     SELECT ${pointBy('p.item_id', 'p.location_id')}, p.due_date, ${SUPPLIES.planned} AS quantity, ${KIND_OF_PLANNED}, p.id, p.number, NULL, COALESCE(v.name, ''),
            ${HELD} > 0 OR p.finished > 0 OR p.state <> 'planned'
       FROM planned_order p LEFT JOIN vendor v ON v.company_id = p.company_id AND v.id = p.vendor_id
      WHERE p.company_id = ? AND (${which('p')}) AND p.open = TRUE AND p.id NOT IN (?)
     HAVING quantity > 0
     UNION ALL
     SELECT ${pointBy('w.item_id', 'w.to_id')}, w.due_date, w.quantity - w.arrived, 'JR', j.id, j.number, NULL, lo.name, 1
       FROM carriage w JOIN journal j ON j.company_id = w.company_id AND j.id = w.journal_id
       JOIN location lo ON lo.company_id = w.company_id AND lo.id = w.from_id
      WHERE w.company_id = ? AND (${which('w')}) AND w.open = TRUE
      ORDER BY day, kind, id, line_id`,
    [companyId, ...values, companyId, ...values, leftOut, companyId, ...values],
  );
  return rows.map(moveOf);
}

/** What is owed out of our stock: lines, but for what comes tied or planned for them; and components of what is planned. */
const DEMANDS = {
  owed: `${OPEN_UNHELD} - ${heldFor("= 'planned'")}`,
  counts: "(o.state = 'confirmed' OR (o.state = 'draft' AND l.promised_date IS NOT NULL))",
};

/** What of all that is owed is left out. */
interface DemandsLeftOut {
  /** Lines, or every open line that is promised. */
  lines?: readonly number[] | 'all';
  /** Planned orders whose components do not count. */
  works?: readonly number[];
  /** Special orders that wait on the bench. */
  bench?: boolean;
  /** What is bought or made for its line: it takes nothing that is free. */
  own?: boolean;
  /** What is owed after a day, and on that day lines after one. */
  after?: { day: Day; lineId: number };
}

export async function demandsOf(
  sql: Sql,
  companyId: number,
  points: readonly number[],
  {
    lines = [],
    works: leftOut = [],
    bench: benchLeftOut = false,
    own = false,
    after = { day: '9999-12-31', lineId: 0 },
  }: DemandsLeftOut = {},
) {
  const bench = benchLeftOut ? "- IF(l.route = 'special', GREATEST(0, l.quantity - l.cancelled - l.tied), 0)" : '';
  const [others, values] =
    lines === 'all' ? [`NOT (o.state = 'confirmed' AND ${ASKED_ANEW})`, []] : ['l.id NOT IN (?)', [lines]];
  const ids = itemsAt(points);
  const rows = await sql.rows<MoveRead>(
    `SELECT ${pointBy('l.item_id', 'l.location_id')} AS item_id, l.ship_date AS day, ${DEMANDS.owed} ${bench} AS quantity,
            'SO' AS kind, o.id, o.number, l.id AS line_id, c.name AS party
       FROM sales_order_line l
       JOIN sales_order o ON o.company_id = l.company_id AND o.id = l.order_id
       JOIN customer c ON c.company_id = o.company_id AND c.id = o.customer_id
       JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id
      WHERE l.company_id = ? AND l.item_id IN (?) AND l.owed = TRUE AND l.ship_date <= ? AND (l.ship_date < ? OR l.id <= ?) ${own ? "AND l.route = 'stock'" : ''}
        AND ${others} AND ${DEMANDS.counts}
     HAVING quantity > 0
     UNION ALL
     SELECT k.item_id, k.needed_on, k.quantity - GREATEST(k.covered, k.used), ${KIND_OF_PLANNED}, p.id, p.number, NULL, i.number
       FROM planned_component k
       JOIN planned_order p ON p.company_id = k.company_id AND p.id = k.planned_order_id
       JOIN item i ON i.company_id = p.company_id AND i.id = p.item_id
      WHERE k.company_id = ? AND k.item_id IN (?) AND k.needed_on <= ? AND p.open AND k.quantity > GREATEST(k.covered, k.used) AND p.id NOT IN (?)
      ORDER BY day, kind, id, line_id`,
    [companyId, ids, after.day, after.day, after.lineId, ...values, companyId, ids, after.day, leftOut],
  );
  return among(points, rows.map(moveOf));
}

/** Hears a supply, or a demand below zero: its point, its day and how much. */
export type TakeMove = (point: number, day: Day, quantity: string) => void;

/**
 * All that comes and goes of a company but for what every open line has asked for and what is planned for them, one
 * after the other, without its documents: for runs that ask all of them anew. What is on hand comes first. // T9
 */
export async function eachMove(database: Database, companyId: number, workDate: Day, take: TakeMove): Promise<void> {
  const leftOut = await plannedForAll(database, companyId);
  const all = (sql: string, values: (Bound | readonly Bound[])[]) =>
    database.each(sql, values, ([point, day, quantity]) => take(Number(point), String(day), String(quantity)));
  await all(
    `SELECT i.id, ?, COALESCE(s.on_hand - s.reserved, 0) - i.safety_stock
       FROM item i LEFT JOIN stock s ON s.company_id = i.company_id AND s.item_id = i.id AND s.location_id = 0
      WHERE i.company_id = ?`,
    [workDate, companyId],
  );
  await all(
    `SELECT ${pointBy('item_id', 'location_id')}, ?, on_hand - reserved FROM stock
      WHERE company_id = ? AND location_id > 0 AND location_id <> ${UNDER_WAY}`,
    [workDate, companyId],
  );
  await all(
    `SELECT ${pointBy('l.item_id', 'p.location_id')}, l.due_date, ${SUPPLIES.purchased} AS quantity FROM ${SUPPLIES.ofPurchases}
      WHERE l.company_id = ? AND l.untied = TRUE HAVING quantity > 0`,
    [companyId],
  );
  await all(
    `SELECT ${pointBy('p.item_id', 'p.location_id')}, p.due_date, ${SUPPLIES.planned} AS quantity FROM planned_order p
      WHERE p.company_id = ? AND p.open = TRUE AND p.id NOT IN (?) HAVING quantity > 0`,
    [companyId, leftOut],
  );
  await all(
    `SELECT ${pointBy('w.item_id', 'w.to_id')}, w.due_date, w.quantity - w.arrived FROM carriage w WHERE w.company_id = ? AND w.open = TRUE`,
    [companyId],
  );
  await all(
    `SELECT ${pointBy('l.item_id', 'l.location_id')}, l.ship_date, -(${DEMANDS.owed}) AS quantity
       FROM sales_order_line l
       JOIN sales_order o ON o.company_id = l.company_id AND o.id = l.order_id
       JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id
      WHERE l.company_id = ? AND l.owed = TRUE AND NOT (o.state = 'confirmed' AND ${ASKED_ANEW}) AND ${DEMANDS.counts}
     HAVING quantity < 0`,
    [companyId],
  );
  await all(
    `SELECT k.item_id, k.needed_on, GREATEST(k.covered, k.used) - k.quantity
       FROM planned_component k JOIN planned_order p ON p.company_id = k.company_id AND p.id = k.planned_order_id
      WHERE k.company_id = ? AND p.open AND k.quantity > GREATEST(k.covered, k.used) AND p.id NOT IN (?)`,
    [companyId, leftOut],
  );
}

/** What comes of points on days, at any location of their items, with whose it is: why a day was found. Walks the key of each pair; some hundred at most. */
export async function comingThen(
  sql: Sql,
  companyId: number,
  pairs: readonly (readonly [point: number, day: Day])[],
  leftOut: readonly number[],
): Promise<MoveRow[]> {
  if (pairs.length === 0) return [];
  const which = (alias: string) => pairs.map(() => `${alias}.item_id = ? AND ${alias}.due_date = ?`).join(' OR ');
  const values = pairs.flatMap(([point, day]) => [itemAt(point), day]);
  return supplies(sql, companyId, [which, values], leftOut);
}
