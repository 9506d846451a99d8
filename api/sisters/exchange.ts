import * as z from 'zod';
import { EXCHANGED } from '@core/formats';
import { act, Day, DocumentRef, Id, read, Text } from '../kit';
import { OfferKind, SisterRef } from './refs';

/** What of ours is still to be sent to a company elsewhere, as a file. // X2 */
export const DueRow = z.object({
  /** The offer's. */
  id: Id,
  kind: OfferKind,
  number: z.string(),
  revision: z.number(),
  gone: z.boolean(),
  /** A document of hers goes back, with why. */
  returned: z.boolean(),
  reason: z.string(),
  sister: SisterRef,
  /** Where her files are sent by mail; empty where by hand only. */
  email: z.string(),
  /** The last day it was sent; null until then. */
  sentOn: Day.nullable(),
  /** Ours that is sent; null of what goes back. */
  document: DocumentRef.nullable(),
});
export type DueRow = z.infer<typeof DueRow>;

export const listDue = read({
  name: 'listDue',
  needs: 'send',
  path: '/exchange/due',
  summary: 'What is still to be sent to companies elsewhere, oldest first, 200 at most; or the 50 that were sent last.',
  query: z.object({ show: z.enum(['due', 'sent']).default('due') }),
  out: z.object({ rows: z.array(DueRow) }),
});

export const sendExchange = act({
  name: 'sendExchange',
  summary: 'Say that a document goes to a company elsewhere as a UBL 2.1 file: by mail, or saved and brought there.',
  input: z.object({ id: Id, revision: z.number().int(), gone: z.boolean(), how: z.enum(['mail', 'file']) }),
  preview: z.object({ recipient: z.string(), attachment: z.string() }),
});

export const bringInExchange = act({
  name: 'bringInExchange',
  summary: 'Bring in a UBL 2.1 file of a company elsewhere: it waits in the tray, once whatever is sent twice.',
  input: z.object({
    name: Text(100),
    /** The file in base64; 3 MB at most. */
    content: z.string().max(4_200_000),
  }),
  preview: z.object({
    number: z.string(),
    kind: z.enum(EXCHANGED),
    sister: z.string(),
    does: z.enum(['new', 'changed', 'nothing', 'returned']),
    /** It answers ours, as we have it. */
    folded: z.boolean(),
  }),
});

export const keepElsewhere = act({
  name: 'keepElsewhere',
  summary: 'Add a company of another installation, or change its name and address.',
  input: z.object({
    /** Null for one that is new. */
    id: Id.nullable(),
    code: Text(20),
    name: Text(120),
    currency: Text(3),
    email: Text(120),
  }),
  preview: z.object({ name: z.string() }),
});
