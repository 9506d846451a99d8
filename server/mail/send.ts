import type { DocumentKind } from '@core/kernel';
import { decideMessage, promiseMessage, type MovedPromise } from '@core/mail';
import * as contract from '@api/mail';
import { defineAct, there, type Doer } from '../acts';
import type { Sql, Tx } from '../db/database';
import { fileOf } from './reads';

/**
 * Sends a document to its party as PDF. The mail room stands in for the post: what was sent, with its attachment, is
 * kept there and can be read.
 */
export const sendDocument = defineAct(contract.sendDocument, {
  right: 'send',
  says: 'send documents',
  load: async (tx, input, doer) => ({
    draft: input.draftId === undefined ? null : await lockDraft(tx, doer.companyId, input.draftId),
    file: there((await fileOf(tx, doer.companyId, input)) ?? undefined, 'This document'),
  }),
  decide: (_ground, input) => decideMessage(input),
  show: ({ recipient }, { file }) => ({ recipient, attachment: file.name }),
  async write(tx, message, { file, draft }, doer, input) {
    if (draft) await tx.run(DROP, [doer.companyId, draft.id]);
    await tx.insert('message', [
      {
        company_id: doer.companyId,
        sent_on: doer.workDate,
        person_id: doer.personId,
        recipient: message.recipient,
        party: file.party.name,
        subject: message.subject,
        body: message.body,
        document_kind: input.kind,
        document_id: input.id,
        document_number: file.number,
        attachment_name: file.name,
        attachment: file.content,
      },
    ]);
    return { made: [], touched: [{ kind: input.kind, id: input.id, number: file.number }] };
  },
});

/** A message that was drafted is not sent, and goes. */
export const dropDraft = defineAct(contract.dropDraft, {
  right: 'send',
  says: 'drop drafted messages',
  load: (tx, input, doer) => lockDraft(tx, doer.companyId, input.id),
  decide: () => ({ ok: true, warnings: [], effects: {} }),
  show: () => ({}),
  async write(tx, _effects, draft, doer) {
    await tx.run(DROP, [doer.companyId, draft.id]);
    return {
      made: [],
      touched: [{ kind: draft.document_kind, id: draft.document_id, number: draft.document_number }],
    };
  },
});

const DROP = 'DELETE FROM message_draft WHERE company_id = ? AND id = ?';

/** A draft, locked; one that was sent or dropped meanwhile is not there. */
async function lockDraft(sql: Sql, companyId: number, id: number) {
  const [draft] = await sql.rows<{
    id: number;
    document_kind: DocumentKind;
    document_id: number;
    document_number: string;
  }>(
    `SELECT id, document_kind, document_id, document_number FROM message_draft
      WHERE company_id = ? AND id = ? FOR UPDATE`,
    [companyId, id],
  );
  return there(draft, 'This draft');
}

/** Messages about promises that moved, one for each customer, to be read and sent by somebody. // T9 */
export async function draftMoved(
  tx: Tx,
  doer: Doer,
  moved: ReadonlyMap<number, readonly MovedPromise[]>,
): Promise<void> {
  if (moved.size === 0) return;
  const customers = await tx.rows<{ id: number; name: string; email: string; company: string; person: string }>(
    `SELECT c.id, c.name, c.email, co.name AS company, p.name AS person FROM customer c
       JOIN company co ON co.id = c.company_id JOIN person p ON p.id = ?
      WHERE c.company_id = ? AND c.id IN (?) ORDER BY c.id`,
    [doer.personId, doer.companyId, [...moved.keys()]],
  );
  await tx.insert(
    'message_draft',
    customers.map((customer) => {
      const lines = moved.get(customer.id)!;
      const { order } = lines[0]!;
      return {
        company_id: doer.companyId,
        written_on: doer.workDate,
        person_id: doer.personId,
        recipient: customer.email,
        party: customer.name,
        ...promiseMessage(customer.name, customer, lines, doer.workDate),
        document_kind: 'SO',
        document_id: order.id,
        document_number: order.number,
      };
    }),
  );
}
