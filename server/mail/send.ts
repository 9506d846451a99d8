import { decideMessage } from '@core/mail';
import * as contract from '@api/mail';
import { defineAct, there } from '../acts';
import { fileOf } from './reads';

/**
 * Sends a document to its party as PDF. The mail room stands in for the post: what was sent, with its attachment, is
 * kept there and can be read.
 */
export const sendDocument = defineAct(contract.sendDocument, {
  right: 'send',
  says: 'send documents',
  load: async (tx, input, doer) => ({
    file: there((await fileOf(tx, doer.companyId, input)) ?? undefined, 'This document'),
  }),
  decide: (_ground, input) => decideMessage(input),
  show: ({ recipient }, { file }) => ({ recipient, attachment: file.name }),
  async write(tx, message, { file }, doer, input) {
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
