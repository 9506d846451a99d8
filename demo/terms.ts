import type { LimitPolicy, TypedTerm } from '@core/agreements';

/** A committed item at a fixed price; `change` for all else. */
export function fixedTerm(
  itemId: number,
  committed: string,
  price: string,
  change: Partial<TypedTerm> = {},
): TypedTerm {
  return {
    itemId,
    committed,
    priceKind: 'fixed',
    priceValue: price,
    breaks: [],
    leastRelease: '0',
    releaseMultiple: '0',
    notes: '',
    ...change,
  };
}

/** What every agreement's head carries, as most have it. */
export const PLAIN_HEAD = {
  id: null,
  version: null,
  title: '',
  signedOn: null,
  limitPolicy: 'refuse' as LimitPolicy,
  tolerancePercent: '0',
  probabilityPercent: '100',
  priority: '5',
  notes: '',
};
