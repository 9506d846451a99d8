import type * as z from 'zod';
import type * as contract from '@api/access';

/** What waits for a second person, what one waits for, what came back. */
export type Asked = z.infer<typeof contract.openAsked.out>;
export type AskedRow = Asked['rows'][number];
