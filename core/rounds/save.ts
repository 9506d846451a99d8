import { dec, isDecimalText } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';

export interface RoundTyped {
  name: string;
  /** Seven of 0 and 1, Monday first. */
  week: string;
  vehicle: string;
  mostWeight: string;
  mostVolume: string;
  stops: readonly number[];
}

export interface RoundGround {
  /** Other rounds by their names, and whose round an address is on already. */
  names: readonly string[];
  addresses: ReadonlyMap<number, { label: string; round: string | null }>;
}

export interface RoundSaved {
  name: string;
  week: string;
  vehicle: string;
  mostWeight: string | null;
  mostVolume: string | null;
  stops: number[];
}

/** A delivery round: its days, its vehicle and the addresses in the order they are driven; an address is on one round. // S11 */
export function decideRound({ names, addresses }: RoundGround, typed: RoundTyped): Decision<RoundSaved> {
  const refusals: Refusal[] = [];
  const name = typed.name.trim();
  if (name === '') refusals.push(refuse('required', 'name', { what: 'The name' }));
  else if (names.some((each) => each.toLowerCase() === name.toLowerCase())) {
    refusals.push(refuse('round-named', 'name', { name }));
  }
  if (!/^[01]{7}$/.test(typed.week) || !typed.week.includes('1')) {
    refusals.push(refuse('required', 'week', { what: 'A day of the week' }));
  }
  const limit = (field: 'mostWeight' | 'mostVolume', what: string) => {
    const text = typed[field].trim();
    if (text === '') return null;
    if (!isDecimalText(text, 'quantity')) refusals.push(refuse('not-a-number', field, { what }));
    else if (dec(text).lte(0)) refusals.push(refuse('not-above-zero', field, { what }));
    return text;
  };
  const mostWeight = limit('mostWeight', 'What the vehicle carries');
  const mostVolume = limit('mostVolume', 'What the vehicle holds');
  if (typed.stops.length === 0) refusals.push(refuse('required', 'stops', { what: 'A stop' }));
  typed.stops.forEach((shipToId, at) => {
    const address = addresses.get(shipToId);
    if (!address) refusals.push(refuse('unknown', `stops.${at}`, { what: 'This address' }));
    else if (address.round !== null) {
      refusals.push(refuse('on-another-round', `stops.${at}`, { address: address.label, round: address.round }));
    }
  });
  return decided(refusals, () => ({
    name,
    week: typed.week,
    vehicle: typed.vehicle.trim(),
    mostWeight,
    mostVolume,
    stops: [...typed.stops],
  }));
}

/** A line on a run, with what can go of it. */
export interface LoadableLine {
  lineId: number;
  item: string;
  now: string;
  /** On another run already. */
  elsewhere: string;
}

/** What is put on the vehicle of a run: no more than can go, and nothing that is on another. // S11 */
export function decideLoad(
  lines: readonly LoadableLine[],
  typed: readonly { lineId: number; quantity: string }[],
): Decision<{ lineId: number; quantity: string }[]> {
  const refusals: Refusal[] = [];
  const loads = typed.flatMap(({ lineId, quantity }, at) => {
    const field = `lines.${at}.quantity`;
    const line = lines.find((each) => each.lineId === lineId);
    const text = quantity.trim() === '' ? '0' : quantity.trim();
    if (!line) refusals.push(refuse('unknown', field, { what: 'This line' }));
    else if (!isDecimalText(text, 'quantity') || text.startsWith('-')) {
      refusals.push(refuse('not-a-number', field, { what: 'The quantity' }));
    } else if (dec(text).gt(line.now)) {
      refusals.push(refuse('not-to-load', field, { item: line.item, now: line.now }));
    } else if (dec(text).gt(0) && line.elsewhere !== '') {
      refusals.push(refuse('loaded-elsewhere', field, { item: line.item, run: line.elsewhere }));
    } else return [{ lineId, quantity: text }];
    return [];
  });
  return decided(refusals, () => loads);
}

/** What is loaded for a stop, to be shipped; pieces by the numbers named. // S11 */
export function decideShipStop(
  lines: readonly { lineId: number; shipToId: number; loaded: string }[],
  stop: { shipToId: number; label: string },
  numbers: readonly { lineId: number; numbers: string[] }[],
): Decision<{ lines: { lineId: number; quantity: string; numbers?: string[] }[] }> {
  const loaded = lines.filter((line) => line.shipToId === stop.shipToId && dec(line.loaded).gt(0));
  const refusals = loaded.length > 0 ? [] : [refuse('nothing-loaded', '', { stop: stop.label })];
  return decided(refusals, () => ({
    lines: loaded.map(({ lineId, loaded: quantity }) => {
      const pieces = numbers.find((each) => each.lineId === lineId)?.numbers;
      return { lineId, quantity, ...(pieces ? { numbers: pieces } : {}) };
    }),
  }));
}
