import { sameText } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import { NUMBER_LENGTH } from './pattern';
import { manyFault } from './many';
import type { SerialGround } from './serial';

/** A number on a count sheet: it is here as it should be, is not, or is though nobody knew. */
export interface CountedNumber {
  number: string;
  says: 'here' | 'missing' | 'found';
}

/**
 * What the numbers that were counted of an item at a place say: of those that should be here which are and which are not,
 * and which are here though nobody knew. Refused where a number is told twice, is elsewhere, or as many are not told as
 * were counted. // W6 P6
 */
export function numbersCounted(
  { kept, serials, lines, places }: SerialGround,
  counted: { itemId: number; locationId: number; quantity: string; typed: readonly string[]; field: string },
): Decision<CountedNumber[]> {
  const { itemId, locationId, field } = counted;
  const { item } = kept.find((each) => each.itemId === itemId)!;
  const fault = manyFault(item, counted);
  if (fault) return { ok: false, refusals: [fault] };
  const own = serials.filter((serial) => serial.itemId === itemId);
  const isHere = (serial: (typeof own)[number]) => serial.place === 'ours' && serial.locationId === locationId;
  const named = new Map(own.map((serial) => [sameText(serial.number), serial]));
  const refusals: Refusal[] = [];
  const told = counted.typed.map((text): CountedNumber => {
    const number = text.trim();
    const found = named.get(sameText(number));
    if (number === '' || number.length > NUMBER_LENGTH) {
      refusals.push(refuse('not-a-serial', field, { most: String(NUMBER_LENGTH) }));
    } else if (found && found.place !== 'out' && !isHere(found)) {
      const order = found.lineId === null ? '' : (lines.get(found.lineId)?.words ?? '');
      const at = places.get(found.locationId) ?? '';
      refusals.push(refuse('number-exists', field, { number: found.number, item, is: found.place, at, order }));
    }
    return { number: found?.number ?? number, says: found && isHere(found) ? 'here' : 'found' };
  });
  const there = new Set(counted.typed.map((text) => sameText(text.trim())));
  const missing = own.filter((serial) => isHere(serial) && !there.has(sameText(serial.number)));
  return decided(refusals, () => [
    ...told,
    ...missing.map(({ number }): CountedNumber => ({ number, says: 'missing' })),
  ]);
}
