import type { Context } from 'koa';
import type { Right } from '@api/access';
import type { Parts, SignedIn } from './parts';

/** What goes out as a file. */
export interface SentFile {
  name: string;
  type: string;
  content: Buffer;
  /** Shown in the browser, or kept. */
  how: 'inline' | 'attachment';
}

/** An address that answers with a file, null where there is none. */
export interface FileAnswer {
  path: string;
  /** For somebody signed in; `open` for whoever knows the address. */
  open?: boolean;
  /** The right it asks for; none where whoever works in the company may have it. */
  needs?: Right;
  /** What is said not to be there where there is none. */
  what: string;
  /** `signal` tells when nobody waits for it any more. */
  read(asked: { ctx: Context; parts: Parts; who: SignedIn | null; signal: AbortSignal }): Promise<SentFile | null>;
}
