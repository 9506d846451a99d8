import type { DocumentKind, Language } from '@core/kernel';
import { decideMessage, promiseMessage, type MovedPromise } from '@core/mail';
import * as contract from '@api/mail';
import { defineAct, orNotFound, type Doer } from '../acts';
import type { Sql, Tx } from '../db';
import type { PrintedFile } from '../formats';
import { fileOf } from './reads';
import { messageDraftTable, messageTable } from './tables';

/** The party's own mail address. */
async function addressOf(sql: Sql, companyId: number, { side, id }: PrintedFile['party']): Promise<string> {
  const [row] = await sql.rows<{ email: string }>(`SELECT email FROM ${side} WHERE company_id = ? AND id = ?`, [
    companyId,
    id,
  ]);
  return row!.email;
}

/**
 * Sends a document to its party as PDF. The mail room stands in for the post: what was sent, with its attachment, is
 * kept there and can be read.
 */
export const sendDocument = defineAct(contract.sendDocument, {
  right: 'send',
  says: 'send documents',
  done: 'sent',
  async load(tx, input, doer) {
    const file = orNotFound((await fileOf(tx, doer.companyId, input)) ?? undefined, 'This document');
    return {
      draft: input.draftId === undefined ? null : await loadDraft(tx, doer.companyId, input.draftId),
      file,
      own: await addressOf(tx, doer.companyId, file.party),
    };
  },
  decide: (_ground, input) => decideMessage(input),
  also: ({ recipient }, { own }) =>
    recipient.toLowerCase() === own.toLowerCase()
      ? []
      : [{ right: 'write-to-others', says: "send to an address that is not the party's own" }],
  preview: ({ recipient }, { file }) => ({ recipient, attachment: file.name }),
  async write(tx, message, { file, draft }, doer, input) {
    if (draft) await tx.run(DROP, [doer.companyId, draft.id]);
    await tx.insert(messageTable, [
      {
        companyId: doer.companyId,
        sentOn: doer.workDate,
        personId: doer.personId,
        recipient: message.recipient,
        subject: message.subject,
        body: message.body,
        party: file.party.name,
        documentKind: input.kind,
        documentId: input.id,
        documentNumber: file.number,
        attachmentName: file.name,
        attachment: await file.content({ person: doer.personId, signal: AbortSignal.timeout(MOST_MS) }),
      },
    ]);
    return { made: [], touched: [{ kind: input.kind, id: input.id, number: file.number }] };
  },
});

/** How long an attachment may take to be made. */
const MOST_MS = 60_000;

/** A message that was drafted is not sent, and goes. */
export const dropDraft = defineAct(contract.dropDraft, {
  right: 'send',
  says: 'drop drafted messages',
  done: 'drafted message dropped',
  load: (tx, input, doer) => loadDraft(tx, doer.companyId, input.id),
  decide: () => ({ ok: true, warnings: [], effects: {} }),
  preview: () => ({}),
  async write(tx, _effects, draft, doer) {
    await tx.run(DROP, [doer.companyId, draft.id]);
    return {
      made: [],
      touched: [{ kind: draft.documentKind, id: draft.documentId, number: draft.documentNumber }],
    };
  },
});

const DROP = 'DELETE FROM message_draft WHERE company_id = ? AND id = ?';

/** A draft, locked; one that was sent or dropped meanwhile is not there. */
async function loadDraft(sql: Sql, companyId: number, id: number) {
  const [draft] = await sql.rows<{
    id: number;
    documentKind: DocumentKind;
    documentId: number;
    documentNumber: string;
  }>(
    `SELECT id, document_kind, document_id, document_number FROM message_draft
      WHERE company_id = ? AND id = ? ${sql.forUpdate}`,
    [companyId, id],
  );
  return orNotFound(draft, 'This draft');
}

/** Messages about promises that moved, one for each customer, to be read and sent by somebody. // T9 */
export async function draftMoved(
  tx: Tx,
  doer: Doer,
  moved: ReadonlyMap<number, readonly MovedPromise[]>,
): Promise<void> {
  if (moved.size === 0) return;
  const customers = await tx.rows<{
    id: number;
    name: string;
    email: string;
    language: Language;
    company: string;
    person: string;
  }>(
    `SELECT c.id, c.name, c.email, c.language, co.name AS company, p.name AS person FROM customer c
       JOIN company co ON co.id = c.company_id JOIN person p ON p.id = ?
      WHERE c.company_id = ? AND c.id IN (?) ORDER BY c.id`,
    [doer.personId, doer.companyId, [...moved.keys()]],
  );
  await tx.insert(
    messageDraftTable,
    customers.map((customer) => {
      const lines = moved.get(customer.id)!;
      const { order } = lines[0]!;
      return {
        companyId: doer.companyId,
        writtenOn: doer.workDate,
        personId: doer.personId,
        recipient: customer.email,
        party: customer.name,
        ...promiseMessage(customer.name, customer, lines, doer.workDate, customer.language),
        documentKind: 'SO',
        documentId: order.id,
        documentNumber: order.number,
      };
    }),
  );
}
