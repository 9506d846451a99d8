import { decideArrival, lineKey, type ArrivalEffects, type ArrivalGround, type LineOfOurs } from '@core/sisters';
import { readUblExchange, ublProblems, type Exchanged, type ExchangedDocument } from '@core/formats';
import { refuse, type Refusal } from '@core/refusals';
import * as contract from '@api/sisters';
import { defineAct } from '../../acts';
import type { Sql, Tx } from '../../db';
import { xmlIn } from '../../formats';
import { pairOf } from '../../catalogue';
import { halfOf } from '../sources';

/** Brings a file of a company elsewhere in: what it tells waits in the tray, each document once. // X2 */
export const bringInExchange = defineAct(contract.bringInExchange, {
  right: 'see-mail',
  says: 'bring in what companies elsewhere send',
  done: 'brought in from elsewhere',
  prepare: (_, { name, content }) => documentIn(name, Buffer.from(content, 'base64')),
  load: (sql, _input, { companyId }, read) => loadArrival(sql, companyId, read),
  decide: ({ read, arrival }) =>
    'code' in read ? { ok: false, refusals: [read] } : decideArrival(arrival!, read.document),
  preview({ does, answers, otherwise }, { read, arrival }) {
    const { number, kind } = (read as { document: ExchangedDocument }).document;
    return { number, kind, sister: arrival!.sister!.name, does, folded: answers !== null && !otherwise };
  },
  async write(tx, effects, ground, { companyId }) {
    const { document } = ground.read as { document: ExchangedDocument };
    await arrive(tx, companyId, ground.arrival!, document, effects);
    return { made: [], touched: [] };
  },
});

/** What a file tells; a refusal where it is none of what companies send each other. */
async function documentIn(name: string, content: Buffer): Promise<{ document: ExchangedDocument } | Refusal> {
  const root = await xmlIn(name, content);
  if ('code' in root) return root;
  const document = readUblExchange(root);
  if (!document) return refuse('not-exchanged', 'file', { root: root.name });
  const [problem] = ublProblems(root);
  return problem ? refuse('not-ubl', 'file', { path: problem.path, what: problem.words }) : { document };
}

interface Arrival extends ArrivalGround {
  sisterId: number;
}

async function loadArrival(
  sql: Sql,
  companyId: number,
  read: { document: ExchangedDocument } | Refusal,
): Promise<{ read: typeof read; arrival: Arrival | null }> {
  if ('code' in read) return { read, arrival: null };
  const { document } = read;
  const [own] = await sql.rows<{ code: string }>('SELECT code FROM company WHERE id = ?', [companyId]);
  // Taken turns at: two bringing in the same file at once.
  const [sister] = await sql.rows<{ id: number; name: string }>(
    `SELECT id, name FROM company WHERE code = ? AND elsewhere = TRUE ${sql.forUpdate}`,
    [document.from.code],
  );
  const sisterId = sister?.id ?? 0;
  const [known] = await sql.rows<{ revision: number; gone: boolean; ended: number | null }>(
    `SELECT f.revision, f.gone, COALESCE(s.id, p.id) AS ended FROM elsewhere_document d
       JOIN offer f ON f.from_id = d.company_id AND f.kind = d.kind AND f.source_id = d.id
       LEFT JOIN sales_order s ON f.kind = 'order' AND s.company_id = f.company_id AND s.id = f.taken_id AND s.state = 'cancelled'
       LEFT JOIN purchase_order p ON f.kind = 'purchase' AND p.company_id = f.company_id AND p.id = f.taken_id AND p.state = 'cancelled'
      WHERE d.company_id = ? AND d.to_id = ? AND d.kind = ? AND d.number = ? ${sql.forUpdate}`,
    [sisterId, companyId, document.kind, document.number],
  );
  const { vendorId } = await halfOf(sql, companyId, sisterId);
  const [entered] =
    document.kind === 'invoice'
      ? await sql.rows<{ id: number }>(
          'SELECT id FROM vendor_invoice WHERE company_id = ? AND vendor_id = ? AND vendor_number = ?',
          [companyId, vendorId ?? 0, document.number],
        )
      : [];
  return {
    read,
    arrival: {
      ours: own!.code,
      sister: sister ?? null,
      sisterId,
      known: known ?? null,
      sent: document.kind === 'answer' ? await sentTo(sql, companyId, sisterId, document) : null,
      entered: entered?.id ?? null,
      ...(await linesOfOurs(sql, companyId, sisterId, document)),
    },
  };
}

/** Ours that an answer is about, as it stands there; locked. */
async function sentTo(sql: Sql, companyId: number, sisterId: number, { number, about }: ExchangedDocument) {
  const [offer] = await sql.rows<{ offerId: number; revision: number; state: string }>(
    `SELECT id AS offer_id, revision, state FROM offer
      WHERE from_id = ? AND company_id = ? AND kind = ? AND number = ? ORDER BY id DESC LIMIT 1 ${sql.forUpdate}`,
    [companyId, sisterId, about ?? '', number],
  );
  return offer ?? null;
}

type NamedLine = LineOfOurs & { number: string; lineNo: number };

/** Lines of ours that a document names by our own numbers: of orders she gave us, or of purchases from her. */
async function linesNamed(
  sql: Sql,
  companyId: number,
  sisterId: number,
  kind: Exchanged,
  numbers: readonly string[],
): Promise<NamedLine[]> {
  const { customerId, vendorId } = await halfOf(sql, companyId, sisterId);
  const pair = pairOf(companyId, sisterId);
  const factor = `(SELECT ${pair.factor} FROM item i ${pair.join} WHERE i.company_id = ? AND o.id = l.item_id LIMIT 1)`;
  const told = `l.item_id, t.unit, ${factor} AS factor`;
  const rows = await sql.rows<Omit<NamedLine, 'paired' | 'factor'> & { factor: string | null }>(
    kind === 'order'
      ? `SELECT l.id, l.order_id AS document_id, p.number, l.line_no, l.quantity - l.cancelled AS quantity, l.ship_date AS day, ${told}
           FROM sales_order p JOIN sales_order_line l ON l.company_id = p.company_id AND l.order_id = p.id
           JOIN item t ON t.company_id = l.company_id AND t.id = l.item_id
          WHERE p.company_id = ? AND p.customer_id = ? AND p.number IN (?) AND l.quantity > l.cancelled`
      : `SELECT l.id, l.purchase_order_id AS document_id, p.number, l.line_no, l.quantity, l.due_date AS day, ${told}
           FROM purchase_order p JOIN purchase_order_line l ON l.company_id = p.company_id AND l.purchase_order_id = p.id
           JOIN item t ON t.company_id = l.company_id AND t.id = l.item_id
          WHERE p.company_id = ? AND p.vendor_id = ? AND p.number IN (?) AND l.quantity > 0`,
    [...pair.values, sisterId, companyId, (kind === 'order' ? customerId : vendorId) ?? 0, numbers],
  );
  return rows.map((row) => ({ ...row, paired: row.factor !== null, factor: row.factor ?? '1' }));
}

/** What a document says of ours: by our numbers, and goods and invoices by hers of what we took. */
async function linesOfOurs(
  sql: Sql,
  companyId: number,
  sisterId: number,
  { lines, kind }: ExchangedDocument,
): Promise<Pick<Arrival, 'lines' | 'counts'>> {
  const named = (reference: 'ordered' | 'sold') => [...new Set(lines.flatMap((line) => line[reference]?.number ?? []))];
  const rows = await linesNamed(sql, companyId, sisterId, kind, named(kind === 'order' ? 'sold' : 'ordered'));
  const counts = new Map<number, number>();
  for (const { documentId } of rows) counts.set(documentId, (counts.get(documentId) ?? 0) + 1);
  const found = new Map(
    rows.map(({ number, lineNo, ...line }) => [lineKey({ number, line: lineNo }), line as LineOfOurs]),
  );
  if (kind === 'receipt' || kind === 'invoice') {
    const taken = await sql.rows<Omit<NamedLine, 'paired'>>(
      `SELECT e.line_id AS id, l.purchase_order_id AS document_id, d.number, e.line_no, l.quantity, l.due_date AS day, l.item_id, '' AS unit, '1' AS factor
         FROM elsewhere_document d
         JOIN elsewhere_line e ON e.company_id = d.company_id AND e.document_id = d.id
         JOIN purchase_order_line l ON l.company_id = d.to_id AND l.id = e.line_id
        WHERE d.company_id = ? AND d.to_id = ? AND d.kind = 'purchase' AND d.number IN (?)`,
      [sisterId, companyId, named('sold')],
    );
    for (const { number, lineNo, ...line } of taken)
      found.set(lineKey({ number, line: lineNo }), { ...line, paired: true });
  }
  return { lines: found, counts };
}

async function arrive(
  tx: Tx,
  companyId: number,
  { sisterId, sent }: Pick<Arrival, 'sisterId' | 'sent'>,
  document: ExchangedDocument,
  { does, answers, otherwise, lines, pairs }: ArrivalEffects,
): Promise<void> {
  if (does === 'nothing') return;
  if (does === 'returned') {
    await tx.run("UPDATE offer SET state = 'returned', reason = ? WHERE id = ?", [
      document.reason.slice(0, 200),
      sent!.offerId,
    ]);
    return;
  }
  const documentId = await documentKept(tx, companyId, sisterId, document);
  if (!document.gone) await linesKept(tx, companyId, sisterId, documentId, document.kind, { lines, pairs });
  const { revision, gone, kind, number } = document;
  // What answers ours as we have it is known; otherwise it is to be looked at.
  await tx.run(
    `INSERT INTO offer (company_id, from_id, kind, source_id, number, revision, gone, state, taken_id, taken_revision)
       VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
     ON DUPLICATE KEY UPDATE
       taken_revision = IF(? AND state IN ('taken', 'folded'), VALUES(revision), taken_revision),
       taken_gone = IF(? AND state IN ('taken', 'folded'), VALUES(gone), taken_gone),
       revision = VALUES(revision), gone = VALUES(gone),
       state = CASE WHEN gone AND state IN ('open', 'aside', 'returned') THEN 'dropped'
                    WHEN NOT gone AND state IN ('returned', 'dropped') THEN 'open' ELSE state END`,
    [
      ...[companyId, sisterId, kind as 'order', documentId, number, revision, gone],
      ...[gone ? 'dropped' : answers === null ? 'open' : 'folded', answers],
      otherwise ? revision + 1 : revision,
      ...[answers !== null && !otherwise, answers !== null && !otherwise],
    ],
  );
  // She took ours: it waits there no more.
  if ((kind === 'purchase' || kind === 'order') && answers !== null) {
    await tx.run(
      "UPDATE offer SET state = 'taken', taken_revision = revision, taken_gone = gone WHERE from_id = ? AND kind = ? AND source_id = ? AND state IN ('open', 'aside', 'returned')",
      [companyId, kind === 'purchase' ? 'order' : 'purchase', answers],
    );
  }
}

async function documentKept(
  tx: Tx,
  companyId: number,
  sisterId: number,
  { kind, number, currency, day, place, total }: ExchangedDocument,
): Promise<number> {
  const clipped = (text: string | undefined, most: number) => (text ?? '').slice(0, most);
  await tx.run(
    `INSERT INTO elsewhere_document (company_id, to_id, kind, number, currency, day, label, street, postcode, town, country, total)
       VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
     ON DUPLICATE KEY UPDATE currency = IF(VALUES(currency) = '', currency, VALUES(currency)), day = VALUES(day),
       label = VALUES(label), street = VALUES(street), postcode = VALUES(postcode), town = VALUES(town),
       country = VALUES(country), total = VALUES(total)`,
    [
      ...[sisterId, companyId, kind, number, currency, day],
      ...[clipped(place?.label, 60), clipped(place?.street, 120), clipped(place?.postcode, 12)],
      ...[clipped(place?.town, 60), place?.country.length === 2 ? place.country : '', total || '0'],
    ],
  );
  const [row] = await tx.rows<{ id: number }>(
    'SELECT id FROM elsewhere_document WHERE company_id = ? AND to_id = ? AND kind = ? AND number = ?',
    [sisterId, companyId, kind, number],
  );
  return row!.id;
}

/** Her lines as they are by now; those that are gone stay, at nothing. */
async function linesKept(
  tx: Tx,
  companyId: number,
  sisterId: number,
  documentId: number,
  kind: Exchanged,
  { lines, pairs }: Pick<ArrivalEffects, 'lines' | 'pairs'>,
): Promise<void> {
  const items = await itemsKept(tx, sisterId, lines);
  const low = companyId < sisterId;
  for (const { item, itemId } of pairs) {
    const theirs = items.get(item)!;
    // One that is paired with another already stays so.
    await tx.run(
      'INSERT IGNORE INTO sister_item (low_id, high_id, low_item_id, high_item_id) VALUES (?, ?, ?, ?)',
      low ? [companyId, sisterId, itemId, theirs] : [sisterId, companyId, theirs, itemId],
    );
  }
  await tx.run('UPDATE elsewhere_line SET quantity = 0 WHERE company_id = ? AND document_id = ?', [
    sisterId,
    documentId,
  ]);
  await Promise.all(
    lines.map(({ line, lineId }) =>
      tx.run(
        `INSERT INTO elsewhere_line (company_id, document_id, line_no, item_id, quantity, day, price, line_id, despatch, numbers)
           VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
         ON DUPLICATE KEY UPDATE item_id = VALUES(item_id), quantity = VALUES(quantity), day = VALUES(day), price = VALUES(price),
           line_id = COALESCE(line_id, VALUES(line_id)), despatch = VALUES(despatch), numbers = VALUES(numbers)`,
        [
          ...[sisterId, documentId, line.number, items.get(line.item)!, line.quantity],
          ...[kind === 'order' || kind === 'purchase' ? line.day : null, line.price || '0', lineId],
          ...[line.despatch, line.numbers.join('\n')],
        ],
      ),
    ),
  );
}

/** Her items by their numbers, as the database compares them; those that were never heard of are kept. */
async function itemsKept(tx: Tx, sisterId: number, lines: ArrivalEffects['lines']): Promise<Map<string, number>> {
  const found = await Promise.all(
    lines.map(async ({ line }) => {
      const kept = tx.run(
        `INSERT IGNORE INTO item (company_id, number, name, unit, list_price, tax_code_id, route, stocked, promise_method)
           SELECT ?, ?, ?, ?, 0, t.id, 'stock', TRUE, 'none' FROM tax_code t WHERE t.company_id = ? ORDER BY t.id LIMIT 1`,
        [sisterId, line.item, (line.name || line.item).slice(0, 120), line.unit || 'piece', sisterId],
      );
      const read = tx.rows<{ id: number }>('SELECT id FROM item WHERE company_id = ? AND number = ?', [
        sisterId,
        line.item,
      ]);
      const [, rows] = await Promise.all([kept, read]);
      return [line.item, rows[0]!.id] as const;
    }),
  );
  return new Map(found);
}
