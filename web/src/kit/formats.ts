import {
  amountText,
  currencyPlaces,
  dayText,
  dec,
  decimalText,
  isDay,
  isDecimalText,
  fixedText,
  groupedText,
  type Day,
} from '@core/kernel';

export { fixedText as fixed } from '@core/kernel';

/** What stands where an amount is not for this person to see. */
const NOT_TOLD = '–';

/** Money in its currency's places, without the code: `12,345.60`. */
export function money(value: string, currency: string): string {
  return value === '' ? NOT_TOLD : amountText(value, currency);
}

/** A price: at least the currency's places, more where it has them. */
export function price(value: string, currency: string): string {
  if (value === '') return NOT_TOLD;
  const places = decimalText(value).split('.')[1]?.length ?? 0;
  return fixedText(value, Math.max(places, currencyPlaces(currency)));
}

/** Money among amounts of the company's currency: another one is named, `USD 3,975.00`. // P8 */
export function namedMoney(value: string, currency: string, own: string): string {
  return currency === own || value === '' ? money(value, currency) : `${currency} ${money(value, currency)}`;
}

/** An amount in the company's currency, with the rate it was told at: `MYR 3,410.00 at 3.41`. // P8 */
export function ownMoney(value: string, { currency, rate }: { currency: string; rate: string }): string {
  return `${currency} ${money(value, currency)} at ${decimalText(rate)}`;
}

/** What the currency moved, as people say it: `gains 12.50`, `loses 3.00`; empty for nothing. // P8 */
export function exchangeWords(gain: string, currency: string): string {
  const amount = dec(gain);
  if (amount.eq(0)) return '';
  return `the rate ${amount.gt(0) ? 'gains' : 'loses'} ${currency} ${money(amount.abs().toFixed(), currency)}`;
}

/** A quantity without needless zeros: `1,200` or `2.5`. */
export function quantity(value: string): string {
  const [whole, part] = decimalText(value).split('.') as [string, string?];
  return groupedText(whole) + (part ? `.${part}` : '');
}

/** A field as it was or is: a day as people say it, a number with its groups, words as they are; a dash for nothing. */
export function fieldShown(value: string, workDate: Day): string {
  if (value === '') return NOT_TOLD;
  if (isDay(value)) return dayText(value, workDate);
  return isDecimalText(value, 'price') ? quantity(value) : value;
}

export function day(value: Day | null, workDate: Day): string {
  return value === null ? '–' : dayText(value, workDate);
}

/** `+14 %`, `−7 %`. */
export function points(value: number): string {
  const whole = Math.round(value * 100);
  return `${whole > 0 ? '+' : whole < 0 ? '−' : ''}${Math.abs(whole)} %`;
}

export function percent(value: number): string {
  return `${Math.round(value * 100)} %`;
}

/** `1 line`, `3 lines`. */
export function counted(count: number, one: string, many = `${one}s`): string {
  return `${count} ${count === 1 ? one : many}`;
}

/** A moment as people say it, in the browser's zone, with its year where that is not this one. */
export function moment(iso: string, now = new Date()): string {
  const at = new Date(iso);
  return new Intl.DateTimeFormat('en-GB', {
    ...(at.getFullYear() === now.getFullYear() ? {} : { year: 'numeric' }),
    weekday: 'short',
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
  }).format(at);
}

/** `Sales order` of `sales order`. */
export function sentenceCase(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}
