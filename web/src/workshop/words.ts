import { dec } from '@core/kernel';
import { quantity } from '../kit/formats';
import type { WorkRow } from './service';

type Told = Pick<WorkRow, 'for' | 'above'>;

/** Whom an order is for, as a cell says it: the first line to ship, and how many more. */
export function forWhom({ for: lines, above }: Told): string {
  const [first] = lines;
  if (!first) return above ? above.number : 'our own stock';
  const more = lines.length > 1 ? ` and ${lines.length - 1} more` : '';
  return `${first.order.number}, ${first.party}${more}`;
}

/** What an order waits for: `3 UV-LAMP`, and of how many items besides. */
export function lacking({ lacks }: Pick<WorkRow, 'lacks'>): string {
  const [first] = lacks;
  if (!first) return '';
  const more = lacks.length > 1 ? ` and ${lacks.length - 1} more` : '';
  return `${quantity(dec(first.quantity).minus(first.free).toFixed())} ${first.item.number}${more}`;
}

/** `1 of 3 made, 1 lost`. */
export function madeOf({
  quantity: all,
  finished,
  scrapped,
}: Pick<WorkRow, 'quantity' | 'finished' | 'scrapped'>): string {
  const lost = scrapped === '0' ? '' : `, ${quantity(scrapped)} lost`;
  return `${quantity(finished)} of ${quantity(all)} made${lost}`;
}

/** The share of an order that is made. */
export const madeShare = ({ quantity: all, finished }: Pick<WorkRow, 'quantity' | 'finished'>): number =>
  Number(finished) / Number(all);
