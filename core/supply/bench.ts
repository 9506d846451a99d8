import { dec, most, roundUpTo, type Dec } from '@core/kernel';
import { refuse, type Refusal } from '@core/refusals';

/** A vendor who sells an item to us. */
export interface Offer {
  vendorId: number;
  vendor: string;
  /** Vendor's price in our currency for one base unit. */
  unitPrice: string;
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
 * The vendor to buy from: the item's preferred one, else the cheapest, else (equal prices) the fastest. // L8 L9
 * Null where nobody approved sells the item. Ties end at the vendor's name, so the answer does not depend on row order.
 */
export function proposeVendor(all: readonly Offer[]): Proposal | null {
  const offers = all.filter((offer) => offer.approved);
  if (offers.length === 0) return null;
  if (offers.length === 1) return { offer: offers[0]!, reason: 'only' };
  const preferred = offers.filter((offer) => offer.preferred).sort(byName)[0];
  if (preferred) return { offer: preferred, reason: 'preferred' };
  const ranked = [...offers].sort(
    (a, b) => dec(a.unitPrice).cmp(dec(b.unitPrice)) || a.leadDays - b.leadDays || byName(a, b),
  );
  const equalPrices = dec(ranked[0]!.unitPrice).eq(dec(ranked[1]!.unitPrice));
  return { offer: ranked[0]!, reason: equalPrices ? 'fastest' : 'cheapest' };
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

/** The least a vendor sells that covers a need: their minimum, and whole multiples. // L8 */
export function vendorQuantity(need: Dec, { minimum, multiple }: Pick<Offer, 'minimum' | 'multiple'>): Dec {
  return roundUpTo(most(need, dec(minimum)), dec(multiple));
}
