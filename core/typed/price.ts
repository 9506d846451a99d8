import type { PriceBreak, PriceTerm } from '@core/agreements';
import { readTypedDecimal } from '@core/kernel';

/**
 * An agreed price as people type it: `740` a fixed price, `8 %` a discount, `list` or nothing the list price. // A3
 * What cannot be read stays as typed, so that the refusal can name it.
 */
export function readTypedPrice(typed: string): Pick<PriceTerm, 'priceKind' | 'priceValue'> {
  const text = typed.trim();
  if (text === '' || text.toLowerCase() === 'list') return { priceKind: 'none', priceValue: '' };
  const percent = /^-?\s*(.*?)\s*%$/.exec(text);
  if (percent) {
    const value = percent[1]!;
    return { priceKind: 'discount', priceValue: (readTypedDecimal(value, 'percent') ?? value) || '%' };
  }
  return { priceKind: 'fixed', priceValue: readTypedDecimal(text, 'price') ?? text };
}

/** A price term as it is typed: the inverse of `readTypedPrice`. */
export function typedPriceOf({ priceKind, priceValue }: Pick<PriceTerm, 'priceKind' | 'priceValue'>): string {
  if (priceKind === 'none') return 'list';
  return priceKind === 'discount' ? `${priceValue} %` : priceValue;
}

/**
 * Price breaks as people type them: `20: 720; 50: 700`, `500 4.85`, `from 500 at 4.85`, with per cent signs for discounts
 * or without. What cannot be read stays as typed, so that the refusal can name it.
 */
export function readTypedBreaks(typed: string): PriceBreak[] {
  return typed
    .split(/[;\n]/)
    .map((part) => part.trim())
    .filter((part) => part !== '')
    .map((part) => {
      const words = /^(?:from\s+)?([\d.,\s]*\d)\s*(?::|\bat\b|@|\s)\s*([\d.,]+\s*%?)$/i.exec(part);
      const [from = '', value = ''] = words ? [words[1]!, words[2]!] : part.split(':').map((each) => each.trim());
      const bare = value.replace(/\s*%$/, '');
      return {
        from: readTypedDecimal(from, 'quantity') ?? from,
        value: readTypedDecimal(bare, 'price') ?? bare,
      };
    });
}

/** Price breaks as they are typed: the inverse of `readTypedBreaks`. */
export function typedBreaksOf(breaks: readonly PriceBreak[]): string {
  return breaks.map(({ from, value }) => `${from}: ${value}`).join('; ');
}
