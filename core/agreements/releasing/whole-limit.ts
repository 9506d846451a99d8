import { dec, isDecimalText, lineAmount, most, priceText, roundHalfAway, sum, ZERO, type Dec } from '@core/kernel';
import { refuse, type Refusal } from '@core/refusals';
import { leftUnderLimit } from '../ending/progress';

/** A limit on the whole of an agreement besides those of its lines: an amount, or a quantity in a unit the lines share. // A5 */
export interface WholeLimit {
  limit: string;
  /** Empty where it is by value. */
  unit: string;
  /** What all lines have released so far: value, or quantity in the unit. */
  released: string;
  /** Of each line, how many of the unit one of its own is; not read where it is by value. */
  factors: ReadonlyMap<number, string>;
}

/**
 * A limit as it is typed: `50000` an amount, `1,000 kg` a quantity in a unit; empty for none. Null where it cannot be
 * read, or is not above zero.
 */
export function readWholeLimit(typed: string): { limit: string; unit: string } | null {
  const text = typed.trim();
  if (text === '') return { limit: '0', unit: '' };
  const [, number = '', unit = ''] = /^([\d.,]+)\s*(\S.*)?$/.exec(text) ?? [];
  const limit = number.replaceAll(',', '');
  if (!isDecimalText(limit, unit === '' ? 'price' : 'quantity') || dec(limit).lte(0) || unit.length > 20) return null;
  return { limit: dec(limit).toFixed(), unit };
}

/** The same written back: what typing it would be. */
export const wholeLimitText = ({ limit, unit }: { limit: string; unit: string }): string =>
  dec(limit).eq(0) ? '' : unit === '' ? dec(limit).toFixed() : `${dec(limit).toFixed()} ${unit}`;

/** What is left under the limit on the whole, widened by the tolerance; below zero once passed. // A5 */
export const leftOnWhole = (whole: WholeLimit, tolerancePercent: string): Dec =>
  leftUnderLimit(whole.limit, whole.released, tolerancePercent);

/** An agreement as far as its limit on the whole sees it. */
interface Limited {
  id: number;
  number: string;
  currency: string;
  limitPolicy: string;
  tolerancePercent: string;
  whole?: WholeLimit | null;
}

interface Grown {
  agreementLineId: number;
  quantity: string;
  value: string;
}

/**
 * What goes beyond the limits on the whole of agreements, of all that an act releases on their lines together: refused,
 * or only warned of as the agreement says. Where lines are split at their own limits, nothing splits at the one on the
 * whole: it is refused, and what is left told. // A5
 */
export function overWholes(
  agreements: ReadonlyMap<number, Limited>,
  released: readonly Grown[],
  field: string,
): { refused: Refusal[]; warned: Refusal[] } {
  const found = { refused: [] as Refusal[], warned: [] as Refusal[] };
  for (const agreement of new Set(agreements.values())) {
    const { whole, limitPolicy, tolerancePercent } = agreement;
    if (!whole || limitPolicy === 'keep') continue;
    const own = released.filter((each) => agreements.get(each.agreementLineId) === agreement);
    const asked = countedOn(whole, own);
    const left = leftOnWhole(whole, tolerancePercent);
    if (asked.lte(0) || asked.lte(left)) continue;
    const word = wordOf(agreement, whole, asked, left, field);
    (limitPolicy === 'warn' ? found.warned : found.refused).push(word);
  }
  return found;
}

/** What releases count for on the whole, to five places: twelve twelfths of a box are one. // A5 */
export const countedOn = (whole: WholeLimit, released: readonly Grown[]): Dec =>
  roundHalfAway(
    sum(
      released.map(({ agreementLineId, quantity, value }) =>
        whole.unit === '' ? dec(value) : inUnitOf(whole, agreementLineId, dec(quantity)),
      ),
    ),
    5,
  );

/** What every item that weighs something can be counted in. */
const BY_WEIGHT = 'kg';

/** The units an item can be counted in, and how many of each one of its own is: its own, those it is sold in, its weight. // A5 */
export const unitsOf = (item: { unit: string; weight: string; sold: readonly { unit: string; factor: string }[] }) =>
  new Map<string, string>([
    ...(dec(item.weight).gt(0) ? ([[BY_WEIGHT, item.weight]] as const) : []),
    ...item.sold.map(({ unit, factor }) => [unit, dec(1).div(factor).toFixed()] as const),
    [item.unit, '1'],
  ]);

/** A quantity of a line in the unit of the limit; of an item that no longer has the unit, nothing. // A5 */
const inUnitOf = ({ factors }: WholeLimit, agreementLineId: number, quantity: Dec): Dec =>
  quantity.times(factors.get(agreementLineId) ?? '0');

function wordOf({ number, currency }: Limited, { unit }: WholeLimit, asked: Dec, left: Dec, field: string): Refusal {
  const room = most(ZERO, left);
  const text = (amount: Dec) =>
    unit === ''
      ? `${currency} ${priceText(lineAmount(amount, dec(1), currency), currency)}`
      : `${amount.toFixed()} ${unit}`;
  return refuse('above-whole', field, { agreement: number, asked: text(asked), left: text(room) });
}

/** The agreements of offers by their lines. */
export const agreementsByLine = (
  offers: readonly { agreement: Limited; line: { id: number } }[],
): Map<number, Limited> => {
  const byId = new Map<number, Limited>();
  return new Map(
    offers.map(({ agreement, line }) => {
      const own = byId.get(agreement.id) ?? agreement;
      byId.set(agreement.id, own);
      return [line.id, own];
    }),
  );
};
