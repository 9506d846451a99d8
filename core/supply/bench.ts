import { dec, most, roundUpTo, type Dec } from '@core/kernel';
import { refuse, type Refusal } from '@core/refusals';

/** A vendor who sells an item to us. */
export interface Offer {
  vendorId: number;
  vendor: string;
  /** Their price for one base unit, in their currency. */
  unitPrice: string;
  currency: string;
  /** The same in our currency, to 4 places, by which vendors are compared; null where no rate is known. // P8 */
  ownPrice: string | null;
  leadDays: number;
  preferred: boolean;
  /** The least they sell at once and the steps above it; `0` for any. */
  minimum: string;
  multiple: string;
  /** Whether we may buy the item from them today: approved, or an item that needs no approval. // L9 */
  approved: boolean;
}

export type ProposalReason = 'preferred' | 'cheapest' | 'fastest' | 'only';

export interface Proposal {
  offer: Offer;
  reason: ProposalReason;
}

/**
 * The vendor to buy from: the item's preferred one, else the cheapest in our currency, else (equal prices) the
 * fastest; whose price is not known in it comes last. // L8 L9 P8
 * Null where nobody approved sells the item. Ties end at the vendor's name, so the answer does not depend on row order.
 */
export function proposeVendor(all: readonly Offer[]): Proposal | null {
  const offers = all.filter((offer) => offer.approved);
  if (offers.length === 0) return null;
  if (offers.length === 1) return { offer: offers[0]!, reason: 'only' };
  const preferred = offers.filter((offer) => offer.preferred).sort(byName)[0];
  if (preferred) return { offer: preferred, reason: 'preferred' };
  const ranked = [...offers].sort((a, b) => byPrice(a.ownPrice, b.ownPrice) || a.leadDays - b.leadDays || byName(a, b));
  const equalPrices = byPrice(ranked[0]!.ownPrice, ranked[1]!.ownPrice) === 0;
  return { offer: ranked[0]!, reason: equalPrices ? 'fastest' : 'cheapest' };
}

function byPrice(a: string | null, b: string | null): number {
  if (a === null || b === null) return Number(a === null) - Number(b === null);
  return dec(a).cmp(dec(b));
}

function byName(a: Offer, b: Offer): number {
  return a.vendor.localeCompare(b.vendor) || a.vendorId - b.vendorId;
}

/** Why an item may not be bought from a vendor, with who may be asked instead; null where it may. // L9 */
export function vendorRefusal(
  offers: readonly Offer[],
  vendor: { id: number; name: string },
  item: string,
  field: string,
): Refusal | null {
  const others = offers.filter((offer) => offer.approved).map((offer) => offer.vendor);
  const offer = offers.find((each) => each.vendorId === vendor.id);
  if (offer?.approved) return null;
  if (offer) {
    return refuse('vendor-not-approved', field, { vendor: offer.vendor, item, approved: others.join(' or ') });
  }
  return refuse('vendor-not-selling', field, {
    vendor: vendor.name,
    item,
    others: others.join(' or ') || 'another item',
  });
}

/** A word where no rate of a vendor's currency is kept: what comes could not be received. // P8 */
export const unrated = ({ vendor, currency, ownPrice }: Offer, field: string): Refusal[] =>
  ownPrice === null ? [refuse('no-rate-yet', field, { vendor, currency })] : [];

/** The least a vendor sells that covers a need: their minimum, and whole multiples. // L8 */
export function vendorQuantity(need: Dec, { minimum, multiple }: Pick<Offer, 'minimum' | 'multiple'>): Dec {
  return roundUpTo(most(need, dec(minimum)), dec(multiple));
}
