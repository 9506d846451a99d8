import * as z from 'zod';
import { act, read, Text } from './kit';

const Problems = z.array(z.object({ line: z.number(), column: z.string(), sentence: z.string() }));

export const bringInOrders = act({
  name: 'bringInOrders',
  summary: 'Bring orders in from a CSV or XLSX file or a UBL 2.1 order, all of it or its good lines, each as a draft.',
  input: z.object({
    name: Text(100),
    /** The file in base64; 3 MB at most. */
    content: z.string().max(4_200_000),
    goodOnly: z.boolean(),
    /** Only look: what is wrong is told, nothing is refused for it. For previews. */
    look: z.boolean().optional(),
  }),
  preview: z.object({
    orders: z.number(),
    rows: z.number(),
    good: z.number(),
    problems: Problems,
    /** Worth a word, and no hindrance. */
    words: Problems,
  }),
});

export const bringInAgreements = act({
  name: 'bringInAgreements',
  summary: 'Bring agreements in from a CSV or XLSX file, all of it or its good lines, each as a draft.',
  input: z.object({
    name: Text(200),
    /** The file in base64; 3 MB at most. */
    content: z.string().max(4_200_000),
    goodOnly: z.boolean(),
    /** Only look: what is wrong is told, nothing is refused for it. For previews. */
    look: z.boolean().optional(),
  }),
  preview: z.object({
    agreements: z.number(),
    rows: z.number(),
    good: z.number(),
    problems: Problems,
    words: Problems,
  }),
});

export const openLetterhead = read({
  name: 'openLetterhead',
  path: '/letterhead',
  summary: 'What stands on our paper of us.',
  out: z.object({
    name: z.string(),
    street: z.string(),
    postcode: z.string(),
    town: z.string(),
    country: z.string(),
    registration: z.string(),
    taxNumber: z.string(),
    phone: z.string(),
    email: z.string(),
    bank: z.string(),
    bankAccount: z.string(),
    /** As a data URL; null for none. */
    logo: z.string().nullable(),
  }),
});

export const keepLogo = act({
  name: 'keepLogo',
  summary: 'Put a logo on our paper, or take it off.',
  /** A PNG or JPEG as base64; empty to take it off. */
  input: z.object({ image: Text(400_000) }),
  preview: z.object({ bytes: z.number() }),
});
