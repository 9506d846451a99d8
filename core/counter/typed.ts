import { currencyPlaces, isDecimalText } from '@core/kernel';
import { readGs1, readGtin, type Gs1Told } from '@core/catalogue';

/** What was typed or scanned into the one field of the counter. */
export type CounterTyped =
  | { kind: 'nothing' }
  /** How many of the line that was written last. */
  | { kind: 'quantity'; quantity: string }
  /** Money that was given. */
  | { kind: 'money'; amount: string }
  /** A bar code of the GS1 system, with how many of it. */
  | { kind: 'code'; told: Gs1Told & { gtin: string }; quantity: string | null }
  /** A number, name or phone to be looked for, with how many of it. */
  | { kind: 'words'; words: string; quantity: string | null };

/** `3 x …`, `3 * …`: how many, and what. */
const MANY = /^(\d+(?:\.\d+)?)\s*[x×*]\s*(.+)$/i;
/** Longer than this, digits are a code or a phone number. */
const MOST_QUANTITY_DIGITS = 5;

/**
 * What somebody means who types at the counter: digits alone are how many, with the currency's places money, with a check
 * digit that fits a bar code; anything else is looked for. `3 x salt` is three of it. // C1 C7
 */
export function understand(typed: string, currency: string): CounterTyped {
  const text = typed.trim();
  if (text === '') return { kind: 'nothing' };
  const many = MANY.exec(text);
  const what = many ? many[2]!.trim() : text;
  const quantity = many ? many[1]! : null;
  const gtin = readGtin(what);
  const told = gtin === null ? readGs1(what) : { gtin };
  if (told?.gtin !== undefined) {
    return { kind: 'code', told: { ...told, gtin: told.gtin }, quantity: quantity ?? told.count ?? null };
  }
  if (quantity === null && isDecimalText(text, 'price') && !text.startsWith('-')) {
    const [whole, places] = text.split('.') as [string, string?];
    if (places !== undefined && places.length === currencyPlaces(currency)) return { kind: 'money', amount: text };
    if (whole.length <= MOST_QUANTITY_DIGITS && !/^0\d/.test(whole)) return { kind: 'quantity', quantity: text };
  }
  return { kind: 'words', words: what, quantity };
}
