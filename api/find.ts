import * as z from 'zod';
import { DOCUMENT_KINDS } from '@core/kernel';
import { Id, read } from './kit';

export const Found = z.object({
  kind: z.enum([...DOCUMENT_KINDS, 'customer', 'vendor', 'item', 'serial'] as const),
  id: Id,
  number: z.string(),
  name: z.string(),
});

export const find = read({
  name: 'find',
  path: '/find',
  summary: 'Documents, parties and items by number or name.',
  query: z.object({ q: z.string().max(80).default('') }),
  out: z.object({ rows: z.array(Found) }),
});
