import * as z from 'zod';
import { act, Day, DocumentParams, DocumentRef, Id, IdParam, ListQuery, namedOnce, page, read, Text } from './kit';

/** The kinds of document that are sent to parties. */
export const SENDABLE = ['AG', 'SO', 'PO', 'SH', 'CI', 'CN'] as const;

export const Draft = z.object({
  party: z.string(),
  recipient: z.string(),
  subject: z.string(),
  body: z.string(),
  /** The attachment's name; what it will be is at the document's own `pdf` address. */
  attachment: z.string(),
  /** When it was sent last; null where it was not. */
  sentOn: Day.nullable(),
});

export const draftMessage = read({
  name: 'draftMessage',
  path: '/documents/:kind/:id/message',
  summary: 'A message with a document, ready to be sent.',
  params: DocumentParams,
  out: Draft,
});

export const sendDocument = act({
  name: 'sendDocument',
  summary: 'Send a document as PDF to its party.',
  input: z.object({
    kind: z.enum(SENDABLE),
    id: Id,
    recipient: Text(120),
    subject: Text(200),
    body: Text(4000),
    /** The draft it comes from, which goes with it. */
    draftId: Id.optional(),
  }),
  preview: z.object({ recipient: z.string(), attachment: z.string() }),
});

export const MessageRow = z.object({
  id: Id,
  sentAt: z.string(),
  sentOn: Day,
  person: z.string(),
  recipient: z.string(),
  party: z.string(),
  subject: z.string(),
  document: DocumentRef,
});

export const listMessages = read({
  name: 'listMessages',
  needs: 'see-mail',
  path: '/messages',
  summary: 'What was sent, newest first.',
  query: ListQuery,
  out: page(MessageRow),
});

export const openMessage = read({
  name: 'openMessage',
  needs: 'see-mail',
  path: '/messages/:id',
  summary: 'One message with its text and the name of its attachment.',
  params: IdParam,
  out: MessageRow.extend({ body: z.string(), attachment: z.string(), bytes: z.number() }),
});

export const DraftRow = z.object({
  id: Id,
  writtenOn: Day,
  person: z.string(),
  recipient: z.string(),
  party: z.string(),
  subject: z.string(),
  body: z.string(),
  document: DocumentRef,
});

export const listDrafts = read({
  name: 'listDrafts',
  needs: 'see-mail',
  path: '/message-drafts',
  summary: 'Messages that were drafted and wait to be sent, newest first.',
  query: ListQuery,
  out: page(DraftRow),
});

export const dropDraft = act({
  name: 'dropDraft',
  summary: 'Drop a message that was drafted; it is not sent.',
  input: z.object({ id: Id }),
  preview: z.object({}),
});

export const draftReminders = act({
  name: 'draftReminders',
  summary:
    'Draft a reminder for each customer and currency with something past due; they are read and sent from the mail room.',
  input: z.object({ customerIds: namedOnce(z.array(Id).min(1).max(200)) }),
  preview: z.object({
    rows: z.array(z.object({ customer: z.string(), subject: z.string(), recipient: z.string() })),
  }),
});
