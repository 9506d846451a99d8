import { day } from '../kit/formats';
import type * as z from 'zod';
import type { bringInExchange } from '@api/sisters';
import type { DueRow, OfferRow } from './service';

/** An offer as a sentence with two ends: what it says, from whose side. */
export function sentenceOf(offer: OfferRow): string {
  const { kind, first, lines, sister } = offer;
  const what = lines > 1 ? `${first} and ${lines - 1} more` : first;
  const forWhom = offer.forWhom ? `, straight to ${offer.forWhom}` : '';
  switch (kind) {
    case 'order':
      return `${sister.name} buys ${what} of us${forWhom}`;
    case 'purchase':
      return `${sister.name} sells us ${what}${forWhom}`;
    case 'receipt':
      return `${sister.name} shipped us ${what}`;
    case 'invoice':
      return `${sister.name} invoices us ${what}`;
  }
}

/** An offer of ours that came back, from our side. */
export function sentOf({ kind, first, lines, sister }: OfferRow): string {
  const what = lines > 1 ? `${first} and ${lines - 1} more` : first;
  return {
    order: `We buy ${what} of ${sister.name}`,
    purchase: `We sell ${sister.name} ${what}`,
    receipt: `We shipped ${sister.name} ${what}`,
    invoice: `We invoiced ${sister.name} ${what}`,
  }[kind];
}

/** What stands in the margin: that it was changed or taken back since, that it may be told twice, until when it waits. */
export function marginOf(offer: OfferRow, workDate: string): string {
  if (offer.gone) return 'taken back since';
  if (offer.changed) return 'changed since';
  if (offer.sameAs) return 'told twice?';
  if (offer.state === 'aside') return `aside until ${day(offer.untilDay, workDate)}`;
  return '';
}

/** What its next step does. */
export function stepOf({ kind, gone, changed, document, invoices }: OfferRow): string {
  const number = document?.number ?? '';
  if (gone) return kind === 'receipt' ? `Take ${number} back…` : `Cancel ${number}…`;
  if (changed) return `Change ${number}…`;
  if (kind === 'receipt') return invoices.length > 0 ? 'Receive and enter…' : 'Receive…';
  return { order: 'Take as an order…', purchase: 'Take as a purchase…', invoice: 'Enter…' }[kind];
}

/** What is to be sent, after its number. */
export function dueOf({ kind, sister, revision, gone, returned }: DueRow): string {
  if (returned) return `of ${sister.name} goes back`;
  const what = { order: 'is ordered of', purchase: 'is sold to', receipt: 'was shipped to', invoice: 'invoices' }[kind];
  const so = gone ? ', and is taken back' : revision > 0 ? `, changed for the ${ordinal(revision)} time` : '';
  return `${what} ${sister.name}${so}`;
}

const ordinal = (count: number): string => ['first', 'second', 'third', 'fourth', 'fifth'][count - 1] ?? `${count}th`;

/** What a file tells and what becomes of it here, after its number. */
export function arrivalOf({ kind, sister, does, folded }: z.infer<typeof bringInExchange.preview>): string {
  if (does === 'nothing') return `of ${sister} came before, or a later one did; nothing is made twice.`;
  if (does === 'returned') return `comes back from ${sister}; it will stand under Came back to us.`;
  const what = {
    order: 'an order',
    purchase: 'an order response',
    receipt: 'a despatch advice',
    invoice: 'an invoice',
    answer: 'an answer',
  }[kind];
  if (folded) return `of ${sister} is ${what} that says what we have; nothing is left to do.`;
  return does === 'new'
    ? `of ${sister} is ${what}; it will wait in the tray.`
    : `of ${sister} changed; what is another will stand in the tray.`;
}
