import { dec, isDay, isDecimalText, type Day } from '@core/kernel';
import { refuse, type Decision, type Refusal } from '@core/refusals';
import { isUnpaired, type LineTax } from './taxes';

/** What a sister's document would be here. */
export const OFFER_KINDS = ['order', 'purchase', 'receipt', 'invoice'] as const;
export type OfferKind = (typeof OFFER_KINDS)[number];

export const OFFER_STATES = ['open', 'aside', 'returned', 'taken', 'folded', 'dropped'] as const;
export type OfferState = (typeof OFFER_STATES)[number];

/** An offer as it stands: the sister's document, and what became of it here. // X2 */
export interface OfferNow {
  kind: OfferKind;
  state: OfferState;
  number: string;
  /** The sister's name. */
  sister: string;
  revision: number;
  /** The revision that was taken, or is known to be the same here. */
  takenRevision: number;
  gone: boolean;
  takenGone: boolean;
}

/** A line of the sister's document, with what it is here. */
export interface OfferLine {
  id: number;
  lineNo: number;
  theirs: { id: number; number: string; name: string; unit: string };
  /** Our item; null where nobody said which it is. // X1 */
  ours: { id: number; number: string; unit: string } | null;
  /** Our line that is the same thing; null where there is none yet. */
  lineId: number | null;
  /** How many of our units are one of theirs. */
  factor: string;
  /** In their unit, at their price for one. */
  quantity: string;
  day: Day | null;
  price: string;
}

export interface TakeGround {
  offer: OfferNow;
  lines: readonly OfferLine[];
  /** Who the sister is among our customers (an order) or vendors; null where nobody said. */
  party: { id: number; currency: string } | null;
  /** What the source is in. */
  currency: string;
  /** Of an invoice: how each of its lines is taxed. */
  taxes?: ReadonlyMap<number, LineTax>;
}

export interface TakeTyped {
  revision: number;
  /** Another quantity (in our unit) or day than theirs, by their line; what is not named is taken as it is. */
  lines: readonly { lineId: number; quantity?: string | undefined; day?: string | undefined }[];
}

/** A line as it is taken: in our unit, at the price for one of it. */
export interface TakenLine {
  source: OfferLine;
  itemId: number;
  quantity: string;
  day: Day;
  price: string;
  /** Which of our taxes an invoice's line is at, where that was said. */
  taxCodeId?: number;
}

export interface TakeEffects {
  /** A document is made; what was made is changed; what was made is cancelled or taken back. */
  does: 'make' | 'change' | 'end';
  lines: TakenLine[];
  /** Something is taken otherwise than it was offered: the sister is to hear of it. */
  otherwise: boolean;
}

/**
 * Takes what a sister offers, as it is or with other quantities and days, once: what waits no more, is another by now or
 * names what nobody paired is refused at its place. Quantities of lines left at 0 are not taken. // X1 X2
 */
export function decideTake(ground: TakeGround, typed: TakeTyped, workDate: Day): Decision<TakeEffects> {
  const { offer, lines, party, currency } = ground;
  const facts = { number: offer.number, sister: offer.sister };
  const stands = standsAgainst(offer, typed.revision);
  if (stands) return { ok: false, refusals: [stands] };
  const does = offer.state === 'open' || offer.state === 'aside' ? 'make' : offer.gone ? 'end' : 'change';
  if (does === 'end') return { ok: true, effects: { does, lines: [], otherwise: false }, warnings: [] };
  const refusals: Refusal[] = [];
  const side = offer.kind === 'order' ? 'customers' : 'vendors';
  if (party === null) refusals.push(refuse('sister-unnamed', '', { sister: offer.sister, side }));
  else if (offer.kind !== 'order' && offer.kind !== 'receipt' && party.currency !== currency) {
    refusals.push(refuse('sister-currency', '', { ...facts, theirs: currency, ours: party.currency }));
  }
  const taken: TakenLine[] = [];
  let otherwise = false;
  for (const source of lines) {
    const at = typed.lines.findIndex(({ lineId }) => lineId === source.id);
    const asked = typed.lines[at];
    const field = (name: string) => (at < 0 ? '' : `lines.${at}.${name}`);
    const whole = dec(source.quantity).times(source.factor);
    const quantity = asked?.quantity?.trim() ?? whole.toFixed();
    const day = asked?.day ?? source.day ?? workDate;
    if (!isDecimalText(quantity, 'quantity')) {
      refusals.push(refuse('not-a-number', field('quantity'), { what: 'The quantity' }));
      continue;
    }
    if (dec(quantity).lt(0)) refusals.push(refuse('below-zero', field('quantity'), { what: 'The quantity' }));
    if (!dec(quantity).eq(whole) || (source.day !== null && day !== source.day)) otherwise = true;
    if (dec(quantity).lte(0)) continue;
    if (!isDay(day)) refusals.push(refuse('not-a-day', field('day'), { what: 'The date' }));
    if ((offer.kind === 'receipt' || offer.kind === 'invoice') && source.lineId === null) {
      refusals.push(refuse('offer-before-order', field('quantity'), { ...facts, line: String(source.lineNo) }));
      continue;
    }
    if (source.ours === null) {
      refusals.push(refuse('item-unpaired', field('quantity'), { item: source.theirs.number, sister: offer.sister }));
      continue;
    }
    const tax = ground.taxes?.get(source.id);
    if (tax && isUnpaired(tax)) {
      const { code, rate } = tax;
      refusals.push(
        refuse('tax-unpaired', field('quantity'), {
          tax: code,
          rate,
          sister: offer.sister,
          line: String(source.lineNo),
        }),
      );
      continue;
    }
    const price = dec(source.price).div(source.factor).toFixed(4);
    taken.push({
      source,
      itemId: source.ours.id,
      quantity: dec(quantity).toFixed(),
      day,
      price: dec(price).toFixed(),
      ...(tax && tax.ours !== null ? { taxCodeId: tax.ours } : {}),
    });
  }
  if (refusals.length === 0 && taken.length === 0)
    refusals.push(refuse('nothing-asked', 'lines', { what: 'a quantity' }));
  if (refusals.length > 0) return { ok: false, refusals, effects: { does, lines: taken, otherwise } };
  return { ok: true, effects: { does, lines: taken, otherwise }, warnings: [] };
}

/** What stands against anything being done with an offer: it waits no more, or is not what was seen. */
export function standsAgainst(offer: OfferNow, revision: number): Refusal | null {
  const facts = { number: offer.number, sister: offer.sister };
  if (offer.state === 'dropped') return refuse('offer-gone', '', facts);
  if (offer.state === 'returned') return refuse('offer-returned', '', facts);
  const known = offer.state === 'taken' || offer.state === 'folded';
  if (known && offer.revision === offer.takenRevision && offer.gone === offer.takenGone) {
    return refuse('offer-taken', '', facts);
  }
  return offer.revision === revision ? null : refuse('offer-moved', '', facts);
}
