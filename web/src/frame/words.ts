/** What was typed, word by word, in small letters. */
export const wordsOf = (typed: string): string[] => typed.toLowerCase().split(/\s+/).filter(Boolean);

/** Whether each typed word begins a word of the name, in whatever order. */
export function fitsWords(name: string, words: readonly string[]): boolean {
  const own = wordsOf(name.replace(/[^\p{L}\p{N}]+/gu, ' '));
  return words.every((word) => own.some((each) => each.startsWith(word)));
}

/** An act on a customer who is found: what it is called before the name, and where it leads. */
export interface CustomerAct {
  name: string;
  path: (customer: { id: number; number: string }) => string;
}

export const CUSTOMER_ACTS: readonly CustomerAct[] = [
  { name: 'New order for', path: ({ number }) => `/orders/new?customer=${encodeURIComponent(number)}` },
  { name: 'To go out to', path: ({ id }) => `/to-go-out?days=all&customer=${id}` },
];

/**
 * What is looked for once the words of an act are taken off: `new order teratai` looks for `teratai`, to have an order made
 * for whom it finds. Null where no act is meant, or nobody is named.
 */
export function meantFor(words: readonly string[]): { act: CustomerAct; words: string[] } | null {
  for (const act of CUSTOMER_ACTS) {
    const own = wordsOf(act.name).filter((word) => word !== 'for' && word !== 'to');
    const taken = words.filter((word) => own.some((each) => each.startsWith(word)));
    const rest = words.filter((word) => !taken.includes(word) && word !== 'for' && word !== 'to');
    // All words of the act are begun, whatever stands between them.
    if (own.every((each) => taken.some((word) => each.startsWith(word))) && rest.length > 0)
      return { act, words: rest };
  }
  return null;
}
