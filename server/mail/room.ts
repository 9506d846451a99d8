import * as mail from '@api/mail';
import { answers, reads, type Room } from '../room';
import { mailFiles } from './files';
import { draftMessage, listDrafts, listMessages, openMessage } from './reads';
import { draftReminders } from './reminders';
import { dropDraft, sendDocument } from './send';

/** What the mail room has. */
export const room: Room = {
  acts: [sendDocument, dropDraft, draftReminders],
  answers: [
    answers(mail.draftMessage, ({ parts, who, params }) =>
      draftMessage(parts.database, who!.companyId, who!.personId, params),
    ),
    reads(mail.listMessages, (sql, companyId, { query }) => listMessages(sql, companyId, query)),
    reads(mail.listDrafts, (sql, companyId, { query }) => listDrafts(sql, companyId, query)),
    reads(mail.openMessage, (sql, companyId, { params }) => openMessage(sql, companyId, params.id)),
  ],
  files: mailFiles,
};
