import { currencyPlaces, dec, roundHalfAway, ZERO, type Dec } from '@core/kernel';
import type { PriceLevel } from './search';

/** What a step of a price is: where it starts from, what is put on it, and what replaced it. // R4 */
export const STEP_KINDS = [
  'agreement',
  'customer',
  'group',
  'list',
  'cost',
  'promotion',
  'split-pack',
  'freight',
  'options',
  'discount',
  'typed',
] as const;
export type StepKind = (typeof STEP_KINDS)[number];

export interface BuildUpStep {
  kind: StepKind;
  /** What it comes from, as a person reads it. */
  source: string;
  /** What it puts on the line (below zero: takes off), in the currency's places; all together are the line's amount. */
  amount: string;
}

/** The price one line starts from. */
export interface BasePrice {
  kind: Extract<StepKind, 'agreement' | 'cost'> | PriceLevel;
  source: string;
  /** For `per` of the item's own unit. */
  price: string;
  per: string;
}

/** What is put on a base price. */
export interface PriceExtras {
  /** The item's own units in a full pack, and per cent on what is sold below one; no pack where zero. // R2 */
  packSize: string;
  splitCharge: string;
  /** Kilograms of one of the item's own unit. */
  weight: string;
  /** What a kilogram costs to the ship-to's zone, by weight from; in rising order, none where freight is not in it. */
  freight: readonly { zone: string; from: string; perKilogram: string }[];
  /** What was chosen for it, and what that puts on one of the item's own unit, in the line's currency. */
  options: { names: string; price: string };
  /** What a promotion takes off one of the item's own unit, in the line's currency; none where left out. // S13 */
  promotion?: { source: string; off: string } | null;
  /** Per cent off all of it. */
  discount: string;
}

export const NO_OPTIONS: PriceExtras['options'] = { names: '', price: '0' };

export const NO_EXTRAS: PriceExtras = {
  packSize: '0',
  splitCharge: '0',
  weight: '0',
  freight: [],
  options: NO_OPTIONS,
  discount: '0',
};

/** A price that a person typed instead, for one of the unit the line is sold in. */
export interface TypedPrice {
  price: string;
  factor: string;
  who: string;
}

export interface BuiltPrice {
  steps: BuildUpStep[];
  /** The line's amount: the sum of the steps. */
  amount: Dec;
  /** For one of the item's own unit, to 4 places: what parts of the line go by where it makes the amount. */
  unitPrice: Dec;
}

const PRICE_PLACES = 4;

/**
 * The price of a line step by step: the base, what a promotion takes off it, the charge for what is less than a full pack, freight of a delivered price
 * by the line's weight, what was chosen for it, the discount; a typed price replaces them all and keeps them. What was agreed is agreed: nothing
 * but a discount is put on an agreement's price. // R2 R4
 * Steps are exact until they are shown: each is the difference of rounded sums, so that they sum to the amount.
 * `quantity` is in the item's own unit, above zero.
 */
export function buildUp(
  base: BasePrice,
  quantity: Dec,
  extras: PriceExtras,
  typed: TypedPrice | null,
  currency: string,
): BuiltPrice {
  const steps: BuildUpStep[] = [];
  let exact = ZERO;
  let shown = ZERO;
  const step = (kind: StepKind, source: string, by: Dec) => {
    exact = exact.plus(by);
    const reached = roundHalfAway(exact, currencyPlaces(currency));
    steps.push({ kind, source, amount: reached.minus(shown).toFixed() });
    shown = reached;
  };
  const per = (price: string, factor: string) => quantity.times(price).div(factor);
  step(base.kind, base.source, per(base.price, base.per));
  if (base.kind !== 'agreement') {
    if (extras.promotion) step('promotion', extras.promotion.source, ZERO.minus(quantity.times(extras.promotion.off)));
    const loose = looseOf(quantity, extras.packSize);
    const charge = exact.times(extras.splitCharge).div(100).times(loose).div(quantity);
    if (!charge.eq(0)) {
      step('split-pack', `${extras.splitCharge} % on ${loose.toFixed()} of packs of ${extras.packSize}`, charge);
    }
    const weight = quantity.times(extras.weight);
    const band = extras.freight.filter((each) => weight.gte(each.from)).at(-1);
    if (band && weight.gt(0)) {
      step('freight', `${weight.toFixed()} kg to ${band.zone} at ${band.perKilogram}`, weight.times(band.perKilogram));
    }
    const { names, price } = extras.options;
    if (!dec(price).eq(0)) step('options', names, quantity.times(price));
  }
  if (!dec(extras.discount).eq(0)) {
    step('discount', `${extras.discount} %`, ZERO.minus(exact.times(extras.discount).div(100)));
  }
  if (typed) step('typed', typed.who, per(typed.price, typed.factor).minus(exact));
  return { steps, amount: shown, unitPrice: roundHalfAway(exact.div(quantity), PRICE_PLACES) };
}

/**
 * The steps of what an agreement prices, in whole or, where its value ran out, in part; the rest as without it. // R4 A5
 */
export function agreedSteps(
  agreed: Dec,
  amount: Dec,
  agreement: string,
  without: Pick<BuildUpStep, 'kind' | 'source'>,
): BuildUpStep[] {
  const rest = amount.minus(agreed);
  return [
    ...(agreed.eq(0) ? [] : [{ kind: 'agreement' as const, source: agreement, amount: agreed.toFixed() }]),
    ...(rest.eq(0) ? [] : [{ kind: without.kind, source: without.source, amount: rest.toFixed() }]),
  ];
}

/** How many of the item's own unit do not fill a pack. */
function looseOf(quantity: Dec, packSize: string): Dec {
  const pack = dec(packSize);
  return pack.lte(0) ? ZERO : quantity.mod(pack);
}

/**
 * The steps of a price for the amount a line has now: as they were made, or in their shares where the line has become
 * smaller or larger since. They always sum to the amount. // R4
 */
export function stepsFor(steps: readonly BuildUpStep[], amount: string, currency: string): BuildUpStep[] {
  const whole = steps.reduce((total, step) => total.plus(step.amount), ZERO);
  if (whole.eq(amount) || whole.eq(0)) return [...steps];
  let made = ZERO;
  let shown = ZERO;
  return steps.map((step) => {
    made = made.plus(step.amount);
    const reached = roundHalfAway(made.times(amount).div(whole), currencyPlaces(currency));
    const own = reached.minus(shown).toFixed();
    shown = reached;
    return { ...step, amount: own };
  });
}
