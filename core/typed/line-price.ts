import { readTypedDecimal } from '@core/kernel';

/** What a person typed about the price of an order line; empty texts where nothing was typed. */
export interface TypedLinePrice {
  price: string;
  discount: string;
  reason: string;
}

/**
 * A line's price as people type it: `4.10` a price, `5 %` or `-5 %` a discount, `0 under warranty` nothing and why,
 * `found` or nothing the price that is found. What cannot be read stays as typed, so that the refusal can name it. // R4 S2
 */
export function readTypedLinePrice(typed: string): TypedLinePrice {
  const text = typed.trim();
  const none = { price: '', discount: '', reason: '' };
  if (text === '' || text.toLowerCase() === 'found') return none;
  const percent = /^[-−]?\s*(.*?)\s*%$/.exec(text);
  if (percent) {
    const value = percent[1]!;
    return { ...none, discount: (readTypedDecimal(value, 'percent') ?? value) || '%' };
  }
  const nothing = /^0(?:\.0+)?[\s,;:]+(\D.*)$/.exec(text);
  if (nothing) return { price: '0', discount: '', reason: nothing[1]!.trim().slice(0, 120) };
  return { ...none, price: readTypedDecimal(text, 'price') ?? text };
}

/** A line's price as it is typed: the inverse of `readTypedLinePrice`. */
export function typedLinePriceOf({ price, discount, reason }: TypedLinePrice): string {
  if (price !== '') return [price, reason].filter((each) => each !== '').join(' ');
  return discount === '' || discount === '0' ? '' : `-${discount} %`;
}
