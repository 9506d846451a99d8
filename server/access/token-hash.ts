import { createHash } from 'node:crypto';

/** SHA-256 of a word or token: all that is ever kept of it. */
export const hashOf = (token: string) => createHash('sha256').update(token).digest();
