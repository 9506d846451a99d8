import { isShort, type Cover } from '@core/going-out';
import type { Day } from '@core/kernel';
import type { Clock } from '../clock';
import type { Database, Sql, Tx } from '../db';
import { coversOf, type OpenLine } from './covers';
import { shortLineTable, type ShortLine } from './tables';

/** Audit rows younger than this are looked at once more: one with a smaller number may still be on its way. */
const SETTLED_SECONDS = 30;
/** Items looked at together: nobody who ships of them waits for a read of all. */
const ITEMS_AT_ONCE = 250;

/**
 * Looks again what is short, of the items of documents that changed since the last look; on a new day of all that is open.
 * How many lines became short, are no more, or are short by another quantity or until another day. // S9
 * O(what changed and the claims on its items); several servers look one after the other, and a look that is broken off is done again.
 */
export function lookForShort(database: Database, clock: Clock, companyId: number, workDate: Day): Promise<number> {
  const turns = TURNS.get(database) ?? new Map<number, Turn>();
  TURNS.set(database, turns);
  const turn = turns.get(companyId) ?? { now: null, next: null };
  turns.set(companyId, turn);
  const look = (): Promise<number> => {
    turn.next = null;
    turn.now = lookOnce(database, clock, companyId, workDate).finally(() => (turn.now = null));
    return turn.now;
  };
  if (turn.now === null) return look();
  // Whoever asks while one is looked for shares the look after it: that one sees what they did.
  turn.next ??= turn.now.then(look, look);
  return turn.next;
}

/** The look that is under way in this process for a company, and the one that waits for it. */
interface Turn {
  now: Promise<number> | null;
  next: Promise<number> | null;
}
const TURNS = new WeakMap<Database, Map<number, Turn>>();

async function lookOnce(database: Database, clock: Clock, companyId: number, workDate: Day): Promise<number> {
  return database.transaction(async (tx) => {
    await tx.run('INSERT IGNORE INTO short_look (company_id, audit_id) VALUES (?, 0)', [companyId]);
    const [look] = await tx.rows<{ auditId: number; lookedOn: Day | null }>(
      `SELECT audit_id, looked_on FROM short_look WHERE company_id = ? ${tx.forUpdate}`,
      [companyId],
    );
    const settled = new Date(clock.now().getTime() - SETTLED_SECONDS * 1000);
    const [last] = await tx.rows<{ settledId: number | null; lastId: number | null }>(
      'SELECT MAX(IF(at < ?, id, NULL)) AS settled_id, MAX(id) AS last_id FROM audit WHERE company_id = ? AND id > ?',
      [settled, companyId, look!.auditId],
    );
    const whole = look!.lookedOn !== workDate;
    if (!whole && last!.lastId === null) return 0;
    const itemIds = whole ? await allItems(tx, companyId) : await itemsChanged(tx, companyId, look!.auditId);
    let changed = 0;
    for (let at = 0; at < itemIds.length; at += ITEMS_AT_ONCE) {
      changed += await lookAt(tx, companyId, workDate, itemIds.slice(at, at + ITEMS_AT_ONCE));
    }
    await tx.run('UPDATE short_look SET audit_id = GREATEST(audit_id, ?), looked_on = ? WHERE company_id = ?', [
      last!.settledId ?? 0,
      workDate,
      companyId,
    ]);
    return changed;
  });
}

/** The items of which something leaves our places, or was short. */
async function allItems(sql: Sql, companyId: number): Promise<number[]> {
  const rows = await sql.rows<{ id: number }>(
    `SELECT DISTINCT item_id AS id FROM sales_order_line FORCE INDEX (sales_order_line_owed) WHERE company_id = ? AND owed = TRUE
      UNION SELECT item_id FROM short_line WHERE company_id = ? ORDER BY id`,
    [companyId, companyId],
  );
  return rows.map(({ id }) => id);
}

/** The items of the documents that changed since an audit row: of their lines, components, and of what they moved. */
async function itemsChanged(sql: Sql, companyId: number, since: number): Promise<number[]> {
  const changed = `(SELECT DISTINCT a.kind, a.document_id FROM audit_document a WHERE a.company_id = ? AND a.audit_id > ?)`;
  const rows = await sql.rows<{ id: number }>(
    `WITH changed AS ${changed}
     SELECT l.item_id AS id FROM changed c JOIN sales_order_line l ON l.company_id = ? AND l.order_id = c.document_id WHERE c.kind = 'SO'
     UNION SELECT l.item_id FROM changed c JOIN purchase_order_line l ON l.company_id = ? AND l.purchase_order_id = c.document_id WHERE c.kind = 'PO'
     UNION SELECT p.item_id FROM changed c JOIN planned_order p ON p.company_id = ? AND p.id = c.document_id WHERE c.kind IN ('PR', 'AS', 'PL')
     UNION SELECT k.item_id FROM changed c JOIN planned_component k ON k.company_id = ? AND k.planned_order_id = c.document_id
       WHERE c.kind IN ('PR', 'AS', 'PL')
     UNION SELECT e.item_id FROM changed c JOIN stock_entry e ON e.company_id = ? AND e.document_kind = c.kind AND e.document_id = c.document_id
     UNION SELECT w.item_id FROM changed c JOIN carriage w ON w.company_id = ? AND w.journal_id = c.document_id WHERE c.kind = 'JR'
     ORDER BY id`,
    [companyId, since, ...Array.from({ length: 6 }, () => companyId)],
  );
  return rows.map(({ id }) => id);
}

/** Writes again what is short of items; how many lines that changed. */
async function lookAt(tx: Tx, companyId: number, workDate: Day, itemIds: readonly number[]): Promise<number> {
  const lines = await tx.rows<OpenLine>(
    `SELECT l.id, l.item_id, l.location_id, l.ship_date, l.route, l.reserved, l.quantity - l.cancelled - l.shipped AS open
       FROM sales_order_line l FORCE INDEX (sales_order_line_owed)
       JOIN sales_order o ON o.company_id = l.company_id AND o.id = l.order_id AND o.state = 'confirmed'
      WHERE l.company_id = ? AND l.item_id IN (?) AND l.owed = TRUE`,
    [companyId, itemIds],
  );
  const covers = await coversOf(tx, companyId, workDate, lines);
  const is = new Map(lines.flatMap((line) => shortOf(companyId, line, covers.get(line.id)!)));
  const rows = await tx.rows<ShortLine>(
    `SELECT company_id, order_line_id, item_id, ship_date, quantity, missing, ends_on, ends_by FROM short_line
      WHERE company_id = ? AND item_id IN (?)`,
    [companyId, itemIds],
  );
  const was = new Map(rows.map((row) => [row.orderLineId, row]));
  const changed = [...new Set([...was.keys(), ...is.keys()])].filter((id) => !same(was.get(id), is.get(id)));
  if (changed.length === 0) return 0;
  await tx.run('DELETE FROM short_line WHERE company_id = ? AND order_line_id IN (?)', [companyId, changed]);
  await tx.insertPlain(
    shortLineTable,
    changed.flatMap((id) => is.get(id) ?? []),
  );
  return changed.length;
}

const same = (one: ShortLine | undefined, other: ShortLine | undefined) =>
  one?.shipDate === other?.shipDate &&
  one?.quantity === other?.quantity &&
  one?.missing === other?.missing &&
  one?.endsOn === other?.endsOn &&
  one?.endsBy === other?.endsBy;

function shortOf(companyId: number, line: OpenLine, cover: Cover): (readonly [number, ShortLine])[] {
  const quantity = isShort(cover);
  if (quantity.lte(0)) return [];
  const last = cover.late.at(-1);
  const row = {
    companyId,
    orderLineId: line.id,
    itemId: line.itemId,
    shipDate: line.shipDate,
    quantity: quantity.toFixed(),
    missing: cover.missing,
    endsOn: last?.day ?? null,
    endsBy: last?.by.number ?? '',
  };
  return [[line.id, row] as const];
}
