import { dec, documentTotals, lineAmount, type Dec } from '@core/kernel';
import { inCash } from './cash';

/** An item as a device knows it that sells while the server is away. // C6 */
export interface ShelfItem {
  id: number;
  number: string;
  name: string;
  unit: string;
  price: string;
  taxCode: string;
  taxRate: string;
  /** Needs a permit that nobody can look at meanwhile. */
  permit: boolean;
  /** Goes by number: its pieces are looked at where they are sold. */
  byNumber: boolean;
  /** Its bar codes, each with how many it stands for. */
  codes: readonly { code: string; many: string }[];
}

export interface AwayLine {
  item: ShelfItem;
  quantity: string;
}

/** What lines come to, tax included, and what is paid of that in cash. // C3 P7 */
export function awayDue(lines: readonly AwayLine[], currency: string): { net: Dec; total: Dec; toPay: Dec } {
  const { net, total } = documentTotals(
    lines.map(({ item, quantity }) => ({
      taxCode: item.taxCode,
      taxRate: item.taxRate,
      net: lineAmount(dec(quantity), dec(item.price), currency),
    })),
    currency,
  );
  return { net, total, toPay: inCash(total, currency) };
}

const MOST_FOUND = 6;

/** What is meant on a device by itself: a bar code, an item's number, or part of its number or name. Exact ones first. */
export function findOnShelf(shelf: readonly ShelfItem[], typed: string): { item: ShelfItem; many: string }[] {
  const words = typed.trim().toLowerCase();
  if (words === '') return [];
  for (const item of shelf) {
    const code = item.codes.find((each) => each.code === words || each.code === words.padStart(14, '0'));
    if (code) return [{ item, many: code.many }];
  }
  const rank = ({ number, name }: ShelfItem) =>
    number.toLowerCase() === words
      ? 0
      : number.toLowerCase().startsWith(words)
        ? 1
        : `${number} ${name}`.toLowerCase().includes(words)
          ? 2
          : 3;
  return shelf
    .map((item) => ({ item, many: '1', rank: rank(item) }))
    .filter(({ rank: at }) => at < 3)
    .sort((a, b) => a.rank - b.rank || (a.item.number < b.item.number ? -1 : 1))
    .slice(0, MOST_FOUND)
    .map(({ item, many }) => ({ item, many }));
}

/** What could not be looked at while the server was away, of one line. */
export const awayWords = ({ permit }: ShelfItem): string[] =>
  permit ? ['the permit is looked at when it is sent'] : [];
