import * as z from 'zod';
import { IdParam, read } from '../kit';
import { openPegging, PegRow } from '../promise';
import { ThreadOut } from '../supply';
import { SisterRef } from './refs';

export const threadBeyond = read({
  name: 'threadBeyond',
  path: '/threads/:id/sisters',
  summary:
    'Where the thread of an order line goes on at a sister company: whole for who works there too, else at which door it stops.',
  params: IdParam,
  out: z.object({
    ends: z.array(
      z.object({
        company: SisterRef,
        /** Her document: what she sold us the line as, or bought it as. */
        number: z.string(),
        /** Null for who does not work there. */
        thread: ThreadOut.nullable(),
      }),
    ),
  }),
});

export const peggingBeyond = read({
  name: 'peggingBeyond',
  path: '/pegging/:kind/:id/sisters',
  summary:
    'Where what serves a document, or what it serves, goes on at a sister company: all the way for who works there too, else at which door it stops.',
  params: openPegging.params,
  out: z.object({
    ends: z.array(
      z.object({
        company: SisterRef,
        /** Her document: her order that serves ours, or her purchase that ours serves. */
        number: z.string(),
        side: z.enum(['down', 'up']),
        /** Null for who does not work there. */
        rows: z.array(PegRow).nullable(),
      }),
    ),
  }),
});
