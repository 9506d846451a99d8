import { decided, refuse, type Decision, type Refusal } from '@core/refusals';

export interface Message {
  recipient: string;
  subject: string;
  body: string;
}

/** One address of a mailbox, as far as it can be told from outside: `name@place.tld`, without spaces. (RFC 5321) */
export function isAddress(text: string): boolean {
  return text.length <= 120 && /^[^\s@<>,;"]{1,64}@[^\s@<>,;"]+\.[^\s@<>,;".]{2,}$/.test(text);
}

/** Decides a message to a party: an address, a subject and some words, each said at its field. // G3 */
export function decideMessage(typed: Message): Decision<Message> {
  const refusals: Refusal[] = [];
  const recipient = typed.recipient.trim();
  if (recipient === '') refusals.push(refuse('required', 'recipient', { what: 'The address' }));
  else if (!isAddress(recipient)) refusals.push(refuse('not-an-address', 'recipient', {}));
  const subject = typed.subject.replace(/\s+/g, ' ').trim();
  if (subject === '') refusals.push(refuse('required', 'subject', { what: 'The subject' }));
  const body = typed.body.trim();
  if (body === '') refusals.push(refuse('required', 'body', { what: 'The text' }));
  return decided(refusals, () => ({ recipient, subject, body }));
}
