import { decided, refuse, type Decision, type Refusal } from '@core/refusals';

/** A document that goes to a company elsewhere, as it stands. */
export interface SendingGround {
  number: string;
  revision: number;
  gone: boolean;
  /** One of hers that goes back. */
  returned: boolean;
  name: string;
  email: string;
}

/**
 * Sends a document to a company elsewhere as it was seen: by mail where she has an address, else as a file. What goes back
 * is about no document of ours, and mail is kept by those: it goes as a file. // X2
 */
export function decideSending(
  { number, revision, gone, returned, name, email }: SendingGround,
  typed: { revision: number; gone: boolean; how: 'mail' | 'file' },
): Decision<{ how: 'mail' | 'file' }> {
  const refusals: Refusal[] = [];
  if (revision !== typed.revision || gone !== typed.gone) refusals.push(refuse('due-moved', '', { number }));
  else if (typed.how === 'mail' && (email === '' || returned))
    refusals.push(refuse('no-mail-address', 'how', { sister: name }));
  return decided(refusals, () => ({ how: typed.how }));
}
