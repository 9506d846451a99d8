import {
  NO_REBATE,
  type Basis,
  type LimitPolicy,
  type Reminder,
  type RestPlan,
  type Side,
  type TypedTerm,
} from '@core/agreements';

/** A committed item at a fixed price; `change` for all else. */
export function fixedTerm(
  itemId: number,
  committed: string,
  price: string,
  change: Partial<TypedTerm> = {},
): TypedTerm {
  return {
    itemId,
    groupId: null,
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
  side: 'selling' as Side,
  basis: 'quantity' as Basis,
  vendorId: null as number | null,
  salesOrganisationId: null as number | null,
  title: '',
  signedOn: null,
  limitPolicy: 'refuse' as LimitPolicy,
  tolerancePercent: '0',
  wholeLimit: '',
  probabilityPercent: '100',
  restPlan: 'spread' as RestPlan,
  priority: '5',
  notes: '',
  rebate: NO_REBATE,
  reminders: [] as readonly Reminder[],
  releaseAhead: '',
};
