import type * as z from 'zod';
import { itemAt, type Day } from '@core/kernel';
import { pegging } from '@core/promise';
import type * as contract from '@api/promise';
import { orNotFound } from '../../acts';
import type { Columns, Sql } from '../../db';
import { itemsAt, KIND_OF_PLANNED, pointBy } from '../ground/moves';
import type { PlannedOrder } from '../tables';
import { familyOf, groundOfPlanning } from '../ground/planning-ground';

type Out = z.infer<typeof contract.openPegging.out>;
type Row = Out['up'][number];

/** A document, what is on hand, or what is wanting. */
type Node = Pick<Row, 'kind' | 'id' | 'number' | 'party'>;

/** So much of one serves the other: held for it, or next in line. */
interface Edge {
  supply: Node;
  demand: Node;
  itemId: number;
  quantity: string;
  day: Day | null;
  held: boolean;
}

/** Rows shown of one side. */
const MOST_ROWS = 200;

const keyOf = ({ kind, id }: Node) => `${kind} ${id}`;

/**
 * Whom a document serves, up to the customer, and what serves it, all the way down: what is held by its tie or its plan,
 * and the rest as planning matches it, in the order of days. // T11
 */
export async function openPegging(
  sql: Sql,
  companyId: number,
  workDate: Day,
  asked: { kind: 'PR' | 'AS' | 'PL' | 'PO' | 'SO'; id: number },
): Promise<Out> {
  const about = await itemsOf(sql, companyId, asked);
  const family = await familyOf(sql, companyId, about);
  const { rows, forecast } = await groundOfPlanning(sql, companyId, workDate, family);
  const ids = itemsAt(rows.items.map((item) => item.id));
  const edges = await heldEdges(sql, companyId, ids);
  if (asked.kind === 'PO') edges.push(...(await hereFor(sql, companyId, asked.id)));
  const { pegs, missing } = pegging(rows, forecast);
  for (const peg of pegs) {
    const supply = peg.supply ?? { kind: 'stock', id: peg.itemId, number: '', party: '' };
    const { itemId, demand, quantity, comes } = peg;
    edges.push({ supply, demand, itemId, quantity, day: comes ?? peg.day, held: false });
  }
  for (const { itemId, demand, quantity, day } of missing) {
    const supply = { kind: 'missing', id: itemId, number: '', party: '' };
    edges.push({ supply, demand, itemId, quantity, day, held: false });
  }
  const itemOf = new Map(rows.items.map(({ id, number }) => [id, { id: itemAt(id), number }]));
  const walk = (from: Edge[], to: 'supply' | 'demand') => {
    const byKey = new Map<string, Edge[]>();
    for (const edge of from) {
      const key = keyOf(edge[to === 'demand' ? 'supply' : 'demand']);
      const of = byKey.get(key);
      if (of) of.push(edge);
      else byKey.set(key, [edge]);
    }
    const found: Row[] = [];
    const visit = (key: string, depth: number, seen: ReadonlySet<string>) => {
      for (const edge of byKey.get(key) ?? []) {
        if (found.length >= MOST_ROWS) return;
        const { kind, id, number, party } = edge[to];
        const { quantity, day, held, itemId } = edge;
        const item = itemOf.get(itemId) ?? null;
        found.push({ depth, kind, id, number, party, item, quantity, day, held, work: null });
        const next = keyOf(edge[to]);
        if (!seen.has(next)) visit(next, depth + 1, new Set([...seen, next]));
      }
    };
    const own = keyOf({ ...asked, number: '', party: '' });
    visit(own, 0, new Set([own]));
    return found;
  };
  const [up, down] = [walk(edges, 'demand'), walk(edges, 'supply')];
  const made = [...up, ...down].filter(isMade).map(({ id }) => id);
  const works = await stepsOf(sql, companyId, made);
  const withSteps = (row: Row): Row => (isMade(row) ? { ...row, work: works.get(row.id) ?? null } : row);
  return { up: up.map(withSteps), down: down.map(withSteps) };
}

const isMade = ({ kind }: Pick<Row, 'kind'>) => kind === 'PR' || kind === 'AS';

/** How far orders that make something are. One query, none where there are none. // W3 */
async function stepsOf(sql: Sql, companyId: number, ids: readonly number[]): Promise<Map<number, Row['work']>> {
  if (ids.length === 0) return new Map();
  const rows = await sql.rows<
    Columns<PlannedOrder, 'id state quantity finished'> & { operation: string | null; done: string | null }
  >(
    `SELECT p.id, p.state, p.quantity, p.finished, o.name AS operation, o.done FROM planned_order p
       LEFT JOIN planned_operation o ON o.company_id = p.company_id AND o.planned_order_id = p.id
        AND o.no = (SELECT MIN(n.no) FROM planned_operation n WHERE n.company_id = p.company_id AND n.planned_order_id = p.id
          AND n.done < p.quantity - p.scrapped)
      WHERE p.company_id = ? AND p.id IN (?)`,
    [companyId, [...new Set(ids)]],
  );
  return new Map(
    rows.map(({ id, operation, done, ...row }) => [
      id,
      { ...row, operation: operation === null ? null : { name: operation, done: done ?? '0' } },
    ]),
  );
}

/** Of a purchase what came and is held for the lines it is tied to, until it goes out. // L3 */
async function hereFor(sql: Sql, companyId: number, purchaseId: number): Promise<Edge[]> {
  const rows = await sql.rows<{
    itemId: number;
    quantity: string;
    purchase: string;
    vendor: string;
    id: number;
    number: string;
    party: string;
  }>(
    `SELECT ${pointBy('pl.item_id', 'b.location_id')} AS item_id, LEAST(t.received, l.reserved) AS quantity, b.number AS purchase,
            v.name AS vendor, o.id, o.number, c.name AS party
       FROM purchase_order b
       JOIN vendor v ON v.company_id = b.company_id AND v.id = b.vendor_id
       JOIN purchase_order_line pl ON pl.company_id = b.company_id AND pl.purchase_order_id = b.id
       JOIN tie t ON t.company_id = pl.company_id AND t.purchase_line_id = pl.id AND t.received > 0
       JOIN sales_order_line l ON l.company_id = t.company_id AND l.id = t.order_line_id AND l.reserved > 0
       JOIN sales_order o ON o.company_id = l.company_id AND o.id = l.order_id
       JOIN customer c ON c.company_id = o.company_id AND c.id = o.customer_id
      WHERE b.company_id = ? AND b.id = ? ORDER BY t.id`,
    [companyId, purchaseId],
  );
  return rows.map((row) => ({
    supply: { kind: 'PO', id: purchaseId, number: row.purchase, party: row.vendor },
    demand: { kind: 'SO', id: row.id, number: row.number, party: row.party },
    itemId: row.itemId,
    quantity: row.quantity,
    day: null,
    held: true,
  }));
}

async function itemsOf(sql: Sql, companyId: number, { kind, id }: { kind: string; id: number }): Promise<number[]> {
  const [from, table, document] =
    kind === 'SO'
      ? ['sales_order_line', 'sales_order', 'order_id']
      : kind === 'PO'
        ? ['purchase_order_line', 'purchase_order', 'purchase_order_id']
        : ['planned_order', 'planned_order', 'id'];
  const [head] = await sql.rows<{ id: number }>(`SELECT id FROM ${table} WHERE company_id = ? AND id = ?`, [
    companyId,
    id,
  ]);
  orNotFound(head, 'This document');
  const rows = await sql.rows<{ itemId: number }>(
    `SELECT DISTINCT item_id FROM ${from} WHERE company_id = ? AND ${document} = ?`,
    [companyId, id],
  );
  return rows.map((row) => row.itemId);
}

/** What is held for somebody: planned orders for lines and for each other, purchases by their ties, goods that are here. */
async function heldEdges(sql: Sql, companyId: number, ids: readonly number[]): Promise<Edge[]> {
  const rows = await sql.rows<{
    kind: string;
    id: number;
    number: string;
    party: string;
    itemId: number;
    quantity: string;
    day: Day | null;
    forKind: string;
    forId: number;
    forNumber: string;
    forParty: string;
  }>(
    `SELECT ${KIND_OF_PLANNED} AS kind, p.id, p.number, COALESCE(v.name, '') AS party, ${pointBy('p.item_id', 'p.location_id')} AS item_id, t.quantity - t.made AS quantity, p.due_date AS day,
            'SO' AS for_kind, o.id AS for_id, o.number AS for_number, c.name AS for_party
       FROM planned_order p
       JOIN planned_tie t ON t.company_id = p.company_id AND t.planned_order_id = p.id AND t.quantity > t.made
       JOIN sales_order_line l ON l.company_id = t.company_id AND l.id = t.order_line_id
       JOIN sales_order o ON o.company_id = l.company_id AND o.id = l.order_id
       JOIN customer c ON c.company_id = o.company_id AND c.id = o.customer_id
       LEFT JOIN vendor v ON v.company_id = p.company_id AND v.id = p.vendor_id
      WHERE p.company_id = ? AND p.item_id IN (?) AND p.open = TRUE
     UNION ALL
     SELECT ${KIND_OF_PLANNED}, p.id, p.number, COALESCE(v.name, ''), ${pointBy('p.item_id', 'p.location_id')}, p.held, p.due_date,
            CASE u.kind WHEN 'make' THEN 'PR' ELSE 'AS' END, u.id, u.number, ui.number
       FROM planned_order p
       JOIN planned_order u ON u.company_id = p.company_id AND u.id = p.parent_id
       JOIN item ui ON ui.company_id = u.company_id AND ui.id = u.item_id
       LEFT JOIN vendor v ON v.company_id = p.company_id AND v.id = p.vendor_id
      WHERE p.company_id = ? AND p.item_id IN (?) AND p.open = TRUE AND p.held > 0
     UNION ALL
     SELECT 'PO', b.id, b.number, v.name, ${pointBy('pl.item_id', 'b.location_id')}, t.quantity - t.received, pl.due_date, 'SO', o.id, o.number, c.name
       FROM purchase_order_line pl
       JOIN tie t ON t.company_id = pl.company_id AND t.purchase_line_id = pl.id AND t.quantity > t.received
       JOIN purchase_order b ON b.company_id = pl.company_id AND b.id = pl.purchase_order_id
       JOIN vendor v ON v.company_id = b.company_id AND v.id = b.vendor_id
       JOIN sales_order_line l ON l.company_id = t.company_id AND l.id = t.order_line_id
       JOIN sales_order o ON o.company_id = l.company_id AND o.id = l.order_id
       JOIN customer c ON c.company_id = o.company_id AND c.id = o.customer_id
      WHERE pl.company_id = ? AND pl.item_id IN (?)
     UNION ALL
     SELECT 'stock', l.item_id, '', '', ${pointBy('l.item_id', 'l.location_id')}, l.reserved, NULL, 'SO', o.id, o.number, c.name
       FROM sales_order_line l
       JOIN sales_order o ON o.company_id = l.company_id AND o.id = l.order_id
       JOIN customer c ON c.company_id = o.company_id AND c.id = o.customer_id
      WHERE l.company_id = ? AND l.item_id IN (?) AND l.owed AND l.reserved > 0
      ORDER BY day, kind, id`,
    [companyId, ids, companyId, ids, companyId, ids, companyId, ids],
  );
  return rows.map((row) => ({
    supply: { kind: row.kind, id: row.id, number: row.number, party: row.party },
    demand: { kind: row.forKind, id: row.forId, number: row.forNumber, party: row.forParty },
    itemId: row.itemId,
    quantity: row.quantity,
    day: row.day,
    held: true,
  }));
}
