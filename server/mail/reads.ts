import type * as z from 'zod';
import type { Day, DocumentKind } from '@core/kernel';
import { LETTER_WORDS } from '@core/mail';
import type * as contract from '@api/mail';
import { orNotFound } from '../acts';
import { likeOf, pageById, type Bound, type Sql } from '../db';
import { agreementPdf, printedDocument, type PrintedFile } from '../formats';

type Row = z.infer<typeof contract.MessageRow>;
type DraftRow = z.infer<typeof contract.DraftRow>;

/** A document as it is printed; null for a kind that is not. */
export async function fileOf(
  sql: Sql,
  companyId: number,
  document: { kind: DocumentKind; id: number },
): Promise<PrintedFile | null> {
  if (document.kind !== 'AG') return printedDocument(sql, companyId, document);
  const { name, party, side, content } = await agreementPdf(sql, companyId, document.id);
  return {
    name,
    title: 'Blanket agreement',
    number: name.replace(/\.pdf$/, ''),
    party: { ...party, side: side === 'selling' ? 'customer' : 'vendor' },
    // Agreements are drawn up in English.
    language: 'en',
    content,
  };
}

/** A message with a document, as it would be sent: to whom, and in which words. */
export async function draftMessage(
  sql: Sql,
  companyId: number,
  personId: number,
  document: { kind: DocumentKind; id: number },
): Promise<z.infer<typeof contract.Draft>> {
  const file = orNotFound((await fileOf(sql, companyId, document)) ?? undefined, 'This document');
  const { party } = file;
  const [to] = await sql.rows<{ email: string; company: string; person: string }>(
    `SELECT x.email, co.name AS company, p.name AS person FROM ${party.side} x
       JOIN company co ON co.id = x.company_id JOIN person p ON p.id = ?
      WHERE x.company_id = ? AND x.id = ?`,
    [personId, companyId, party.id],
  );
  const [last] = await sql.rows<{ sentOn: Day | null }>(
    'SELECT MAX(sent_on) AS sent_on FROM message WHERE company_id = ? AND document_kind = ? AND document_id = ?',
    [companyId, document.kind, document.id],
  );
  const words = LETTER_WORDS[file.language];
  return {
    party: party.name,
    recipient: to?.email ?? '',
    subject: `${file.title} ${file.number}`,
    body: [
      words.dear(party.name),
      words.attached(file.title, file.number),
      words.regards({ person: to?.person ?? '', company: to?.company ?? '' }),
    ].join('\n\n'),
    attachment: file.name,
    sentOn: last?.sentOn ?? null,
  };
}

interface MessageColumns {
  id: number;
  sentAt: Date | string;
  sentOn: Day;
  person: string;
  recipient: string;
  party: string;
  subject: string;
  documentKind: Row['document']['kind'];
  documentId: number;
  documentNumber: string;
}

const COLUMNS = `m.id, m.sent_at, m.sent_on, p.name AS person, m.recipient, m.party, m.subject, m.document_kind, m.document_id,
    m.document_number`;

/** What was sent, newest first; `q` looks in the party, the address, the subject and the document's number. */
export function listMessages(sql: Sql, companyId: number, query: z.infer<typeof contract.listMessages.query>) {
  const where = ['m.company_id = ?', 'm.id < ?'];
  const values: Bound[] = [];
  const words = query.q?.trim();
  if (words) {
    where.push('(m.party LIKE ? OR m.recipient LIKE ? OR m.subject LIKE ? OR m.document_number LIKE ?)');
    values.push(...Array<string>(4).fill(likeOf(words)));
  }
  return pageById<MessageColumns, Row>(
    (before, most) =>
      sql.rows(
        `SELECT STRAIGHT_JOIN ${COLUMNS} FROM message m FORCE INDEX (PRIMARY) JOIN person p ON p.id = m.person_id
          WHERE ${where.join(' AND ')} ORDER BY m.id DESC LIMIT ?`,
        [companyId, before, ...values, most],
      ),
    query,
    rowOf,
  );
}

function rowOf(row: MessageColumns): Row {
  return {
    id: row.id,
    sentAt: new Date(row.sentAt).toISOString(),
    sentOn: row.sentOn,
    person: row.person,
    recipient: row.recipient,
    party: row.party,
    subject: row.subject,
    document: { kind: row.documentKind, id: row.documentId, number: row.documentNumber },
  };
}

export async function openMessage(
  sql: Sql,
  companyId: number,
  id: number,
): Promise<z.infer<typeof contract.openMessage.out>> {
  const [row] = await sql.rows<MessageColumns & { body: string; attachmentName: string; bytes: number }>(
    `SELECT ${COLUMNS}, m.body, m.attachment_name, LENGTH(m.attachment) AS bytes FROM message m
       JOIN person p ON p.id = m.person_id WHERE m.company_id = ? AND m.id = ?`,
    [companyId, id],
  );
  const found = orNotFound(row, 'This message');
  return { ...rowOf(found), body: found.body, attachment: found.attachmentName, bytes: Number(found.bytes) };
}

/** A message's attachment, as it was sent. */
export async function messageFile(sql: Sql, companyId: number, id: number): Promise<{ name: string; content: Buffer }> {
  const [row] = await sql.rows<{ attachmentName: string; attachment: Buffer }>(
    'SELECT attachment_name, attachment FROM message WHERE company_id = ? AND id = ?',
    [companyId, id],
  );
  const found = orNotFound(row, 'This message');
  return { name: found.attachmentName, content: found.attachment };
}

/** What was drafted and not sent yet, newest first; `q` looks in the party, the address and the subject. */
export function listDrafts(sql: Sql, companyId: number, query: z.infer<typeof contract.listDrafts.query>) {
  const words = query.q?.trim();
  const like = words ? 'AND (m.party LIKE ? OR m.recipient LIKE ? OR m.subject LIKE ?)' : '';
  const values = words ? Array<string>(3).fill(likeOf(words)) : [];
  return pageById<Omit<MessageColumns, 'sentAt' | 'sentOn'> & { writtenOn: Day; body: string }, DraftRow>(
    (before, most) =>
      sql.rows(
        `SELECT STRAIGHT_JOIN m.id, m.written_on, p.name AS person, m.recipient, m.party, m.subject, m.body, m.document_kind,
                m.document_id, m.document_number
           FROM message_draft m JOIN person p ON p.id = m.person_id
          WHERE m.company_id = ? AND m.id < ? ${like} ORDER BY m.id DESC LIMIT ?`,
        [companyId, before, ...values, most],
      ),
    query,
    (row) => ({
      id: row.id,
      writtenOn: row.writtenOn,
      person: row.person,
      recipient: row.recipient,
      party: row.party,
      subject: row.subject,
      body: row.body,
      document: { kind: row.documentKind, id: row.documentId, number: row.documentNumber },
    }),
  );
}
