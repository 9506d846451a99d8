import type * as z from 'zod';
import { dec, type DocumentKind, type DocumentRef } from '@core/kernel';
import type * as contract from '@api/ledger';
import { saysOf, orNotFound } from '../acts';
import { ownCurrency } from '../catalogue';
import { TABLE_OF, type Sql, type Columns } from '../db';
import type { Journal } from './tables';
import type { StockEntry } from '../stock/tables';
import type { OpenItem } from '../billing/tables';

type Trail = z.infer<typeof contract.openTrail.out>;

/** The journals, stock entries, open items and changes of one document; for a journal, itself and its source. */
export async function openTrail(sql: Sql, companyId: number, kind: DocumentKind, id: number): Promise<Trail> {
  const [found] = await sql.rows<{ number: string; currency: string }>(
    `SELECT d.number, c.currency FROM ${TABLE_OF[kind]} d JOIN company c ON c.id = d.company_id WHERE d.company_id = ? AND d.id = ?`,
    [companyId, id],
  );
  const document: DocumentRef = { kind, id, number: orNotFound(found, 'This document').number };
  const [journals, stockEntries, openItems, changes, adjustment] = await Promise.all([
    journalsOf(sql, companyId, document),
    stockEntriesOf(sql, companyId, kind, id),
    openItemsOf(sql, companyId, kind, id),
    changesOf(sql, companyId, kind, id),
    kind === 'JR' ? adjustmentOf(sql, companyId, id) : null,
  ]);
  return { document, currency: found!.currency, adjustment, journals, stockEntries, openItems, changes };
}

async function journalsOf(sql: Sql, companyId: number, document: DocumentRef): Promise<Trail['journals']> {
  const where = document.kind === 'JR' ? 'j.id = ?' : 'j.document_kind = ? AND j.document_id = ?';
  const values = document.kind === 'JR' ? [document.id] : [document.kind, document.id];
  const rows = await sql.rows<
    Columns<Journal, 'id number postedOn documentDay documentId'> & {
      documentKind: DocumentKind;
      code: string;
      name: string;
      amount: string;
      currency: string | null;
      foreignAmount: string | null;
    }
  >(
    `SELECT j.id, j.number, j.posted_on, j.document_day, j.document_kind, j.document_id, a.code, a.name, e.amount, e.currency, e.foreign_amount
       FROM journal j
       JOIN journal_entry e ON e.company_id = j.company_id AND e.journal_id = j.id
       JOIN account a ON a.company_id = e.company_id AND a.id = e.account_id
      WHERE j.company_id = ? AND ${where} ORDER BY j.id, e.id`,
    [companyId, ...values],
  );
  const sources = new Map<number, DocumentRef>();
  const journals = new Map<number, Trail['journals'][number]>();
  for (const row of rows) {
    let source = sources.get(row.id);
    if (!source) {
      const posted = document.kind === 'JR' && row.documentKind !== 'JR';
      source = posted ? await refOf(sql, companyId, row.documentKind, row.documentId) : document;
      sources.set(row.id, source);
    }
    const journal = journals.get(row.id) ?? {
      document: { kind: 'JR' as const, id: row.id, number: row.number },
      source,
      postedOn: row.postedOn,
      documentDay: row.documentDay,
      entries: [],
    };
    const amount = dec(row.amount);
    journal.entries.push({
      account: row.code,
      name: row.name,
      debit: amount.gt(0) ? amount.toFixed() : null,
      credit: amount.lt(0) ? amount.neg().toFixed() : null,
      foreign: row.currency === null ? null : { currency: row.currency, amount: row.foreignAmount! },
    });
    journals.set(row.id, journal);
  }
  return [...journals.values()];
}

/** Journal `j` carried goods from one place to another: what left, and what came. */
const CARRIES = `EXISTS (SELECT 1 FROM stock_entry f JOIN stock_entry t ON t.company_id = f.company_id AND t.document_kind = 'JR'
    AND t.document_id = f.document_id AND t.item_id = f.item_id AND t.location_id <> f.location_id AND t.quantity = -f.quantity
   WHERE f.company_id = j.company_id AND f.document_kind = 'JR' AND f.document_id = j.id)`;

/** Why a journal put stock right, or that it carried goods; null for one that did neither. */
async function adjustmentOf(sql: Sql, companyId: number, id: number): Promise<Trail['adjustment']> {
  const [row] = await sql.rows<
    Columns<Journal, 'reason reversesId'> & {
      carried: number;
      reverses: string | null;
      reversedById: number | null;
      reversedBy: string | null;
    }
  >(
    `SELECT j.reason, ${CARRIES} AS carried, j.reverses_id, x.number AS reverses, b.id AS reversed_by_id, b.number AS reversed_by
       FROM journal j
       LEFT JOIN journal x ON x.company_id = j.company_id AND x.id = j.reverses_id
       LEFT JOIN journal b ON b.company_id = j.company_id AND b.reverses_id = j.id
      WHERE j.company_id = ? AND j.id = ? AND (j.reason <> '' OR ${CARRIES})`,
    [companyId, id],
  );
  if (!row) return null;
  const journal = (of: number | null, number: string | null): DocumentRef | null =>
    of === null ? null : { kind: 'JR', id: of, number: number! };
  return {
    carried: row.carried > 0,
    reason: row.reason,
    reverses: journal(row.reversesId, row.reverses),
    reversedBy: journal(row.reversedById, row.reversedBy),
  };
}

async function refOf(sql: Sql, companyId: number, kind: DocumentKind, id: number): Promise<DocumentRef> {
  const [row] = await sql.rows<{ number: string }>(
    `SELECT number FROM ${TABLE_OF[kind]} WHERE company_id = ? AND id = ?`,
    [companyId, id],
  );
  return { kind, id, number: orNotFound(row, 'The source document').number };
}

async function stockEntriesOf(
  sql: Sql,
  companyId: number,
  kind: DocumentKind,
  id: number,
): Promise<Trail['stockEntries']> {
  const rows = await sql.rows<
    Columns<StockEntry, 'id itemId place quantity cost postedOn'> & {
      number: string;
      name: string;
      unit: string;
      location: string;
    }
  >(
    `SELECT s.id, s.item_id, i.number, i.name, i.unit, s.place, l.name AS location, s.quantity, s.cost, s.posted_on
       FROM stock_entry s JOIN item i ON i.company_id = s.company_id AND i.id = s.item_id
       JOIN location l ON l.company_id = s.company_id AND l.id = s.location_id
      WHERE s.company_id = ? AND s.document_kind = ? AND s.document_id = ? ORDER BY s.id`,
    [companyId, kind, id],
  );
  return rows.map((row) => ({
    id: row.id,
    item: { id: row.itemId, number: row.number, name: row.name, unit: row.unit },
    place: row.place,
    location: row.place === 'ours' ? row.location : '',
    quantity: row.quantity,
    cost: row.cost,
    postedOn: row.postedOn,
  }));
}

/** How a document is found among open items: what it left owed, or (a payment) what it settled. */
const OPEN_ITEM_OF: Partial<Record<DocumentKind, string>> = {
  CI: 'oi.customer_invoice_id = ?',
  VI: 'oi.vendor_invoice_id = ?',
  CN: 'oi.credit_note_id = ?',
  PY: 'oi.id = (SELECT y.open_item_id FROM payment y WHERE y.company_id = oi.company_id AND y.id = ?)',
};

/** The document an open item is of, in SQL. */
const OF_ITEM = (item: string) => `COALESCE(
    (SELECT CONCAT('CI ', i.id, ' ', i.number) FROM customer_invoice i WHERE i.company_id = ${item}.company_id AND i.id = ${item}.customer_invoice_id),
    (SELECT CONCAT('VI ', i.id, ' ', i.number) FROM vendor_invoice i WHERE i.company_id = ${item}.company_id AND i.id = ${item}.vendor_invoice_id),
    (SELECT CONCAT('CN ', n.id, ' ', n.number) FROM credit_note n WHERE n.company_id = ${item}.company_id AND n.id = ${item}.credit_note_id))`;

/** `CI 12 CI-0012` as a reference. */
function refFrom(text: string): DocumentRef {
  const [kind, id, number] = text.split(' ') as [DocumentKind, string, string];
  return { kind, id: Number(id), number };
}

async function openItemsOf(sql: Sql, companyId: number, kind: DocumentKind, id: number): Promise<Trail['openItems']> {
  const where = OPEN_ITEM_OF[kind];
  if (!where) return [];
  const [item] = await sql.rows<
    Columns<OpenItem, 'id currency dueDate amount settled ownAmount ownSettled'> & { ofDocument: string; own: string }
  >(
    `SELECT oi.id, ${OF_ITEM('oi')} AS of_document, oi.currency, oi.due_date, oi.amount, oi.settled,
            oi.own_amount, oi.own_settled, ${ownCurrency('oi.company_id')} AS own
       FROM open_item oi WHERE oi.company_id = ? AND ${where}`,
    [companyId, id],
  );
  if (!item) return [];
  const moves = await sql.rows<{
    document: string;
    day: string;
    amount: string;
    difference: string;
    how: 'paid' | 'set off' | 'drawn';
  }>(
    `SELECT CONCAT('PY ', y.id, ' ', y.number) AS document, y.paid_on AS day, y.amount, y.own_amount - y.own_settled AS difference, 'paid' AS how
       FROM payment y WHERE y.company_id = ? AND y.open_item_id = ?
     UNION ALL SELECT ${OF_ITEM('other')}, s.set_on, s.amount, s.own_credit - s.own_invoice, 'set off'
       FROM set_off s
       JOIN open_item other ON other.company_id = s.company_id
        AND other.id = IF(s.credit_item_id = ?, s.invoice_item_id, s.credit_item_id)
      WHERE s.company_id = ? AND (s.credit_item_id = ? OR s.invoice_item_id = ?)
     UNION ALL SELECT CONCAT('PP ', p.id, ' ', p.number), m.moved_on, SUM(m.amount), SUM(m.own_amount - m.own_worth), 'drawn'
       FROM open_item oi
       JOIN prepayment_move m ON m.company_id = oi.company_id AND m.customer_invoice_id = oi.customer_invoice_id
       JOIN prepayment p ON p.company_id = m.company_id AND p.id = m.prepayment_id
      WHERE oi.company_id = ? AND oi.id = ? GROUP BY p.id, m.moved_on
      ORDER BY day, document`,
    [companyId, item.id, item.id, companyId, item.id, item.id, companyId, item.id],
  );
  return [
    {
      of: refFrom(item.ofDocument),
      currency: item.currency,
      dueDate: item.dueDate,
      amount: item.amount,
      owed: dec(item.amount).minus(item.settled).toFixed(),
      own:
        item.currency === item.own
          ? null
          : {
              currency: item.own,
              amount: item.ownAmount,
              owed: dec(item.ownAmount).minus(item.ownSettled).toFixed(),
            },
      moves: moves.map((row) => ({
        document: refFrom(row.document),
        day: row.day,
        amount: row.amount,
        difference: row.difference,
        how: row.how,
      })),
    },
  ];
}

/** What of a document an act made another, as the act kept it. */
function changedBy(
  documents: string,
  kind: DocumentKind,
  id: number,
): Pick<Trail['changes'][number], 'reason' | 'fields'> {
  const all = JSON.parse(documents) as (DocumentRef & Partial<Pick<Trail['changes'][number], 'reason' | 'fields'>>)[];
  const { reason = '', fields = [] } = all.find((each) => each.kind === kind && each.id === id) ?? {};
  return { reason, fields };
}

async function changesOf(sql: Sql, companyId: number, kind: DocumentKind, id: number): Promise<Trail['changes']> {
  const rows = await sql.rows<{ at: string; name: string; act: string; documents: string }>(
    `SELECT a.at, p.name, a.act, a.documents
       FROM audit_document d
       JOIN audit a ON a.company_id = d.company_id AND a.id = d.audit_id
       JOIN person p ON p.id = a.person_id
      WHERE d.company_id = ? AND d.kind = ? AND d.document_id = ?
      ORDER BY d.audit_id DESC LIMIT 200`,
    [companyId, kind, id],
  );
  return rows.map((row) => ({
    at: `${row.at.slice(0, 19).replace(' ', 'T')}Z`,
    person: row.name,
    act: saysOf(row.act),
    ...changedBy(row.documents, kind, id),
  }));
}
