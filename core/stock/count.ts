import { dec, isDecimalText, isWholeUnit, least } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import { numbersCounted, type CountedNumber, type SerialGround, type SerialNeed } from '@core/serial';
import { costOfChange } from './adjust';

export const COUNT_STATES = ['open', 'posted', 'cancelled'] as const;
export type CountState = (typeof COUNT_STATES)[number];

/** Items to be counted at a place. */
export interface BeginCountGround {
  location: { id: number } | null;
  items: readonly { id: number; number: string; stocked: boolean; counting: string }[];
  /** Whether they were named one by one. */
  named: boolean;
}

/**
 * Begins a count: a line for each item that is kept. One that another sheet counts there already is left out, or refused
 * where it was named. // W6
 */
export function decideBeginCount({ location, items, named }: BeginCountGround): Decision<{ itemIds: number[] }> {
  const refusals: Refusal[] = [];
  if (!location) refusals.push(refuse('unknown', 'locationId', { what: 'This location' }));
  const kept = items.filter((item) => item.stocked && item.counting === '');
  if (named) {
    items.forEach((item, at) => {
      const field = `itemIds.${at}`;
      if (!item.stocked) refusals.push(refuse('not-kept', field, { item: item.number }));
      else if (item.counting)
        refusals.push(refuse('being-counted', field, { item: item.number, count: item.counting }));
    });
  }
  if (refusals.length === 0 && kept.length === 0) refusals.push(refuse('nothing-to-count', '', {}));
  return decided(refusals, () => ({ itemIds: kept.map(({ id }) => id) }));
}

export interface CountLine {
  id: number;
  itemId: number;
  item: string;
  unit: string;
  was: string | null;
  counted: string | null;
  unitCost: string | null;
  /** What was said of the numbers of its pieces when it was counted. */
  numbers: readonly CountedNumber[];
  /** As it is now at the place. */
  stock: { onHand: string; reserved: string; value: string };
}

export interface CountGround {
  sheet: { number: string; state: CountState; locationId: number };
  lines: readonly CountLine[];
  place: string;
  currency: string;
}

/** What is written of a line that was counted. */
export interface EnteredLine {
  id: number;
  was: string | null;
  counted: string | null;
  unitCost: string | null;
  numbers: CountedNumber[];
}

/**
 * How many there are, as they are counted line by line; empty takes back what was typed before. Of an item that is kept by
 * number each piece is told by its own. // W6 P6
 */
export function decideEnterCount(
  { sheet, lines }: CountGround,
  ground: SerialGround,
  typed: readonly { lineId: number; counted: string; unitCost: string; numbers?: readonly string[] | undefined }[],
): Decision<{ lines: EnteredLine[] }> {
  if (sheet.state !== 'open') {
    return { ok: false, refusals: [refuse('count-not-open', '', { count: sheet.number, state: sheet.state })] };
  }
  const refusals: Refusal[] = [];
  const numbers = new Map<number, CountedNumber[]>();
  typed.forEach(({ lineId, counted, unitCost, numbers: told = [] }, at) => {
    const line = lines.find(({ id }) => id === lineId);
    const text = counted.trim();
    if (!line) refusals.push(refuse('unknown', `lines.${at}.lineId`, { what: 'This line' }));
    else if (text !== '' && (!isDecimalText(text, 'quantity') || dec(text).lt(0))) {
      refusals.push(refuse('not-a-number', `lines.${at}.counted`, { what: 'The quantity' }));
    } else if (text !== '' && isWholeUnit(line.unit) && !dec(text).mod(1).eq(0)) {
      refusals.push(refuse('whole-pieces', `lines.${at}.counted`, { item: line.item }));
    } else if (told.length > 0 && !ground.kept.some(({ itemId }) => itemId === line.itemId)) {
      refusals.push(refuse('number-not-kept', `lines.${at}.numbers`, { number: told[0]! }));
    } else if (text !== '' && ground.kept.some(({ itemId }) => itemId === line.itemId)) {
      const point = { itemId: line.itemId, locationId: sheet.locationId };
      const said = numbersCounted(ground, { ...point, quantity: text, typed: told, field: `lines.${at}.numbers` });
      if (said.ok) numbers.set(lineId, said.effects);
      else refusals.push(...said.refusals);
    }
    if (unitCost.trim() !== '' && (!isDecimalText(unitCost.trim(), 'price') || dec(unitCost.trim()).lt(0))) {
      refusals.push(refuse('not-a-number', `lines.${at}.unitCost`, { what: 'The cost' }));
    }
  });
  return decided(refusals, () => ({
    lines: typed.map(({ lineId, counted, unitCost }) => {
      const { stock } = lines.find(({ id }) => id === lineId)!;
      const text = counted.trim();
      const cost = unitCost.trim() === '' ? null : dec(unitCost.trim()).toFixed();
      return text === ''
        ? { id: lineId, was: null, counted: null, unitCost: cost, numbers: [] }
        : {
            id: lineId,
            was: stock.onHand,
            counted: dec(text).toFixed(),
            unitCost: cost,
            numbers: numbers.get(lineId) ?? [],
          };
    }),
  }));
}

export interface CountedLine {
  lineId: number;
  itemId: number;
  item: string;
  difference: string;
  cost: string;
}

export interface PostCountEffects {
  lines: CountedLine[];
  /** What all differences come to; below nothing where goods are missing. */
  cost: string;
  /** What is missing alone, above nothing. */
  missing: string;
  notCounted: number;
}

/**
 * Posts what was counted: of each line the difference to what was known when it was counted, so that what moved since is
 * none. Refused where what is left would be less than what is held. Lines that nobody counted stay as they are, and are
 * worth a word. // W6 P3
 */
export function decidePostCount({ sheet, lines, place, currency }: CountGround): Decision<PostCountEffects> {
  if (sheet.state !== 'open') {
    return { ok: false, refusals: [refuse('count-not-open', '', { count: sheet.number, state: sheet.state })] };
  }
  const refusals: Refusal[] = [];
  const counted = lines.filter((line) => line.counted !== null);
  if (counted.length === 0) refusals.push(refuse('nothing-counted', '', { count: sheet.number }));
  const found: CountedLine[] = [];
  for (const line of counted) {
    const at = `lines.${lines.indexOf(line)}`;
    const change = dec(line.counted!).minus(line.was!);
    const left = change.plus(line.stock.onHand);
    if (change.lt(0) && left.lt(line.stock.reserved)) {
      refusals.push(refuse('below-held', `${at}.counted`, { item: line.item, place, held: line.stock.reserved }));
      continue;
    }
    const cost = costOfChange(line.stock, change, line.unitCost ?? '', currency);
    if (cost === null) {
      refusals.push(refuse('required', `${at}.unitCost`, { what: `What one of ${line.item} costs` }));
      continue;
    }
    found.push({
      lineId: line.id,
      itemId: line.itemId,
      item: line.item,
      difference: change.toFixed(),
      cost: cost.toFixed(),
    });
  }
  const notCounted = lines.length - counted.length;
  const warnings = notCounted > 0 ? [refuse('some-not-counted', '', { lines: String(notCounted) })] : [];
  return decided(
    refusals,
    () => ({
      lines: found,
      cost: found.reduce((sum, { cost }) => sum.plus(cost), dec('0')).toFixed(),
      missing: found
        .filter(({ cost }) => dec(cost).lt(0))
        .reduce((sum, { cost }) => sum.minus(cost), dec('0'))
        .toFixed(),
      notCounted,
    }),
    warnings,
  );
}

/**
 * The pieces a count finds and misses: those that were told when it was counted; of what was counted before it was kept by
 * number, as many as differ. // W6 P6
 */
export const countNeeds = ({ sheet, lines }: CountGround): SerialNeed[] =>
  lines.flatMap(({ itemId, was, counted, numbers }, at) => {
    if (counted === null) return [];
    const told = (says: CountedNumber['says']) =>
      numbers.filter((each) => each.says === says).map(({ number }) => number);
    const [missing, found] = [told('missing'), told('found')];
    const change = dec(counted).minus(was!);
    const bare = numbers.length === 0;
    const need = {
      itemId,
      locationId: sheet.locationId,
      with: { kind: 'CT' as const, at: 0 },
      field: `lines.${at}.counted`,
    };
    const fewer = bare ? (change.lt(0) ? change.neg().toFixed() : '0') : String(missing.length);
    const more = bare ? (change.gt(0) ? change.toFixed() : '0') : String(found.length);
    return [
      ...(fewer === '0'
        ? []
        : [
            {
              ...need,
              way: 'out' as const,
              quantity: fewer,
              typed: missing,
              to: 'out' as const,
              lineId: null,
              workId: null,
            },
          ]),
      ...(more === '0' ? [] : [{ ...need, way: 'in' as const, quantity: more, typed: found, for: [], made: null }]),
    ];
  });

/** A count as it was posted, with what is there of its items by now. */
export interface PostedCountGround {
  sheet: { number: string; state: CountState; reverses: string; reversedBy: string };
  lines: readonly (Pick<CountLine, 'itemId' | 'item' | 'stock'> & { difference: string; cost: string })[];
}

/**
 * Takes a posted count back by one that names it: what was missing is there again at what it left at, what was found
 * leaves at what it came at, or at what the rest is worth where that is less. Refused once it was, and where what was
 * found is no longer here and free. // P1 W6
 */
export function decideTakeBackCount(
  { sheet, lines }: PostedCountGround,
  typed: { reason: string },
): Decision<{ lines: Omit<CountedLine, 'lineId'>[]; reason: string }> {
  const refusals: Refusal[] = [];
  const document = sheet.number;
  if (typed.reason.trim() === '') refusals.push(refuse('required', 'reason', { what: 'The reason' }));
  if (sheet.reversedBy) refusals.push(refuse('reversed-already', '', { document, by: sheet.reversedBy }));
  else if (sheet.reverses) refusals.push(refuse('is-reversal', '', { document, of: sheet.reverses }));
  else if (sheet.state !== 'posted') refusals.push(refuse('count-not-posted', '', { count: document }));
  else {
    for (const { item, difference, stock } of lines) {
      const free = dec(stock.onHand).minus(stock.reserved);
      if (dec(difference).lte(0) || dec(difference).lte(free)) continue;
      const here = (free.gt(0) ? free : dec('0')).toFixed();
      refusals.push(refuse('goods-gone', '', { document, item, quantity: difference, here }));
    }
  }
  return decided(refusals, () => ({
    reason: typed.reason.trim(),
    lines: lines
      .filter(({ difference }) => !dec(difference).eq(0))
      .map(({ itemId, item, difference, cost, stock }) => {
        const came = dec(difference).gt(0);
        const whole = dec(difference).eq(stock.onHand);
        const value = came ? (whole ? dec(stock.value) : least(dec(cost), dec(stock.value))) : dec(cost);
        return { itemId, item, difference: dec(difference).neg().toFixed(), cost: value.neg().toFixed() };
      }),
  }));
}
