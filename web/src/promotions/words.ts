import { dec } from '@core/kernel';
import { money, price, quantity } from '../kit/formats';
import type { PromotionLine } from './service';

/** What a line of a promotion is for. */
export const forWhat = ({ item, group }: Pick<PromotionLine, 'item' | 'group'>): string =>
  item ? `${item.number} ${item.name}` : group ? `the group ${group.name}` : 'everything';

/** What it gives, as people say it: `10 % off from 5`, `for every 10 bought 1 free`. */
export function givesWhat(line: PromotionLine, currency: string): string {
  if (line.kind === 'free') {
    const other = line.freeItem ? ` ${line.freeItem.number}` : '';
    return `for every ${quantity(line.buy)} bought ${quantity(line.free)}${other} free`;
  }
  const from = dec(line.from).gt(0) ? `, from ${quantity(line.from)} on a line` : '';
  if (line.kind === 'percent') return `${quantity(line.value)} % off${from}`;
  return line.kind === 'amount'
    ? `${currency} ${price(line.value, currency)} off each${from}`
    : `at ${currency} ${price(line.value, currency)} each${from}`;
}

/** What a budget has left: `MYR 120.00 left of 1,500.00`. */
export const leftWords = (budget: string | null, used: string, currency: string): string =>
  budget === null
    ? `${currency} ${money(used, currency)} given, no budget`
    : `${currency} ${money(dec(budget).minus(used).toFixed(), currency)} left of ${money(budget, currency)}`;
