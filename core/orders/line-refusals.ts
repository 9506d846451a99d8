import { dec, isDay, isDecimalText, type Day } from '@core/kernel';
import { refuse, type Refusal } from '@core/refusals';
import { optionRefusals, optionsName, routeFits, routeIsBought, routeIsMade, ROUTE_NAMES } from '@core/catalogue';
import type { OrderGround, OrderLineNow, TypedLine } from './ground';

/** What is chosen for a typed line: as it says, else what it has while its item stays. // W2 */
export const chosenFor = (line: TypedLine, now: OrderLineNow | null): readonly number[] =>
  line.optionIds ?? (now?.itemId === line.itemId ? now.optionIds : []);

/** What stands against one typed line by itself, each at its field. // S1 G3 */
export function lineRefusals(ground: OrderGround, line: TypedLine, index: number, workDate: Day): Refusal[] {
  const at = (field: string) => `lines.${index}.${field}`;
  const refusals: Refusal[] = [];
  const now = ground.current?.lines.find((each) => each.id === line.id) ?? null;
  const item = line.itemId === null ? undefined : ground.items.get(line.itemId);
  if (line.itemId === null) refusals.push(refuse('required', at('itemId'), { what: 'The item' }));
  else if (!item) refusals.push(refuse('unknown', at('itemId'), { what: 'This item' }));
  if (line.id !== null && !ground.current?.lines.some((now) => now.id === line.id)) {
    refusals.push(refuse('unknown', at('id'), { what: 'This line' }));
  }
  const factor = item && line.unit !== undefined ? item.pricing.units.get(line.unit) : '1';
  if (item && factor === undefined) {
    refusals.push(
      refuse('unit-unknown', at('unit'), { item: item.number, units: [...item.pricing.units.keys()].join(', ') }),
    );
  }
  if (line.quantity.trim() === '') {
    refusals.push(refuse('required', at('quantity'), { what: 'The quantity' }));
  } else if (!isDecimalText(line.quantity, 'quantity')) {
    refusals.push(refuse('not-a-number', at('quantity'), { what: 'The quantity' }));
  } else if (dec(line.quantity).lte(0)) {
    refusals.push(refuse('not-above-zero', at('quantity'), { what: 'The quantity' }));
  } else if (factor !== undefined && !isDecimalText(dec(line.quantity).times(factor).toFixed(), 'quantity')) {
    refusals.push(refuse('not-a-number', at('quantity'), { what: `The quantity in ${item?.unit ?? 'its own unit'}` }));
  }
  if (line.price && (!isDecimalText(line.price, 'price') || dec(line.price).lt(0))) {
    refusals.push(refuse('not-a-number', at('price'), { what: 'The price' }));
  }
  if (
    line.discount &&
    (!isDecimalText(line.discount, 'percent') || dec(line.discount).lt(0) || dec(line.discount).gte(100))
  ) {
    refusals.push(refuse('not-a-discount', at('price'), {}));
  }
  if (line.shipDate === null) {
    refusals.push(refuse('required', at('shipDate'), { what: 'The ship date' }));
  } else if (!isDay(line.shipDate)) {
    refusals.push(refuse('not-a-day', at('shipDate'), { what: 'The ship date' }));
  } else if (line.shipDate < workDate && !(ground.current?.state === 'confirmed' && now?.shipDate === line.shipDate)) {
    // What was confirmed for a day that is past stays as it is. // S8
    refusals.push(refuse('ship-date-past', at('shipDate'), { day: line.shipDate, workDate }));
  }
  if (line.locationId !== undefined && !ground.locationIds.includes(line.locationId)) {
    refusals.push(refuse('unknown', at('locationId'), { what: 'This location' }));
  }
  if (item?.outOfUse && now?.itemId !== line.itemId) {
    refusals.push(refuse('item-out-of-use', at('itemId'), { item: item.number }));
  }
  const chosen = chosenFor(line, now);
  if (item && chosen.length > 0) {
    const { options } = item.pricing;
    const names = optionsName(options, chosen);
    refusals.push(
      ...(routeIsMade(line.route)
        ? optionRefusals(item.number, options, chosen, at('optionIds'))
        : [refuse('options-not-made', at('route'), { item: item.number, options: names })]),
    );
  }
  if (item && !routeFits(line.route, item)) {
    refusals.push(
      routeIsBought(line.route)
        ? refuse('no-vendor', at('route'), { item: item.number })
        : refuse('route-not-kept', at('route'), {
            item: item.number,
            route: ROUTE_NAMES[line.route],
          }),
    );
  }
  return refusals;
}
