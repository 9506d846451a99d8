import { day } from '../kit/formats';
import type { OfferRow } from './service';

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
