import type * as z from 'zod';
import { dec, type DocumentKind } from '@core/kernel';
import type * as contract from '@api/ledger';
import { orNotFound } from '../acts';
import { pageById, TABLE_OF, type Sql, type Columns } from '../db';
import type { StockEntry } from '../stock/tables';

/** The stock entries of an item, newest first, with what was on hand after each. Walks stock_entry_item. */
export async function stockEntries(
  sql: Sql,
  companyId: number,
  itemId: number,
  query: { cursor?: string | undefined; rows?: number | undefined },
): Promise<z.infer<typeof contract.stockEntries.out>> {
  const [item] = await sql.rows<{ id: number }>('SELECT id FROM item WHERE company_id = ? AND id = ?', [
    companyId,
    itemId,
  ]);
  orNotFound(item, 'This item');
  const page = await pageById(
    (before, most) =>
      sql.rows<
        Columns<StockEntry, 'id place quantity cost postedOn documentId'> & {
          location: string;
          documentKind: DocumentKind;
        }
      >(
        `SELECT e.id, e.place, l.name AS location, e.quantity, e.cost, e.posted_on, e.document_kind, e.document_id
           FROM stock_entry e FORCE INDEX (stock_entry_item)
           STRAIGHT_JOIN location l ON l.company_id = e.company_id AND l.id = e.location_id
          WHERE e.company_id = ? AND e.item_id = ? AND e.id < ? ORDER BY e.id DESC LIMIT ?`,
        [companyId, itemId, before, most],
      ),
    query,
    (row) => row,
  );
  const [first] = page.rows;
  if (!first) return { rows: [], next: null };
  const [sum] = await sql.rows<{ onHand: string | null }>(
    `SELECT SUM(quantity) AS on_hand FROM stock_entry FORCE INDEX (stock_entry_item)
      WHERE company_id = ? AND item_id = ? AND id <= ? AND place = 'ours'`,
    [companyId, itemId, first.id],
  );
  const numbers = await numbersOf(sql, companyId, page.rows);
  let onHand = dec(sum?.onHand ?? '0');
  const rows = page.rows.map((row) => {
    const after = onHand;
    if (row.place === 'ours') onHand = onHand.minus(row.quantity);
    return {
      id: row.id,
      place: row.place,
      location: row.place === 'ours' ? row.location : '',
      quantity: row.quantity,
      cost: row.cost,
      postedOn: row.postedOn,
      document: {
        kind: row.documentKind,
        id: row.documentId,
        number: numbers.get(`${row.documentKind} ${row.documentId}`) ?? '',
      },
      onHand: after.toFixed(),
    };
  });
  return { rows, next: page.next };
}

/** The numbers of documents, by kind and id: one read for each kind. */
async function numbersOf(
  sql: Sql,
  companyId: number,
  rows: readonly { documentKind: DocumentKind; documentId: number }[],
): Promise<Map<string, string>> {
  const numbers = new Map<string, string>();
  for (const kind of new Set(rows.map((row) => row.documentKind))) {
    const ids = rows.filter((row) => row.documentKind === kind).map((row) => row.documentId);
    const found = await sql.rows<{ id: number; number: string }>(
      `SELECT id, number FROM ${TABLE_OF[kind]} WHERE company_id = ? AND id IN (?)`,
      [companyId, ids],
    );
    for (const { id, number } of found) numbers.set(`${kind} ${id}`, number);
  }
  return numbers;
}
