import { currencyPlaces, dec, pointOf, readTypedDecimal, roundHalfAway, sum, type Dec } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';

/** What a line of opening stock names, as the company knows it. */
export interface OpenStockGround {
  /** By line: null where nothing goes by that number, or that code. */
  lines: readonly {
    item: { id: number; number: string; stocked: boolean } | null;
    location: { id: number; name: string } | null;
  }[];
  /** Items at places (points) of which something was posted already: what opened them, or moved them since. */
  posted: ReadonlySet<number>;
  /** The company's, in which stock is worth what it is. */
  currency: string;
}

/** Stock as it was before it came here, a line each of an item at a place. */
export interface OpenStockTyped {
  lines: readonly { item: string; location: string; quantity: string; unitCost: string; numbers: readonly string[] }[];
}

export interface OpenStockEffects {
  lines: { index: number; itemId: number; locationId: number; quantity: string; cost: string }[];
  /** All of it together. */
  cost: string;
}

/**
 * Puts the stock a company begins with on hand, at what it cost, against the opening balance. An item is opened at a
 * place once: the same file again is refused line by line, and doubles nothing. O(lines). // U3 P3
 */
export function decideOpenStock(ground: OpenStockGround, typed: OpenStockTyped): Decision<OpenStockEffects> {
  const refusals: Refusal[] = [];
  if (typed.lines.length === 0) refusals.push(refuse('no-lines', 'lines', { document: 'The opening stock' }));
  const first = new Map<number, number>();
  const lines = typed.lines.flatMap((line, index) => {
    const at = (field: string) => `lines.${index}.${field}`;
    const { item, location } = ground.lines[index]!;
    const before = refusals.length;
    const quantity = number(line.quantity, 'quantity', at('quantity'), 'The quantity', refusals);
    const unitCost = number(line.unitCost, 'price', at('unitCost'), 'The cost', refusals);
    if (quantity?.eq(0)) refusals.push(refuse('not-above-zero', at('quantity'), { what: 'The quantity' }));
    if (!item) refusals.push(refuse('unknown', at('item'), { what: `The item ${line.item}` }));
    else if (!item.stocked) refusals.push(refuse('item-not-kept', at('item'), { item: item.number }));
    if (!location) refusals.push(refuse('unknown', at('location'), { what: `The place ${line.location}` }));
    if (item && location) {
      const point = pointOf(item.id, location.id);
      const again = first.get(point);
      if (again !== undefined) refusals.push(refuse('named-again', at('item'), { line: String(again + 1) }));
      else first.set(point, index);
      if (ground.posted.has(point)) {
        refusals.push(refuse('opened-already', at('item'), { item: item.number, place: location.name }));
      }
    }
    if (refusals.length > before) return [];
    const cost = roundHalfAway(quantity!.times(unitCost!), currencyPlaces(ground.currency));
    return [{ index, itemId: item!.id, locationId: location!.id, quantity: quantity!.toFixed(), cost: cost.toFixed() }];
  });
  return decided(refusals, () => ({ lines, cost: sum(lines.map(({ cost }) => dec(cost))).toFixed() }));
}

function number(typed: string, of: 'quantity' | 'price', field: string, what: string, refusals: Refusal[]): Dec | null {
  if (typed.trim() === '') refusals.push(refuse('required', field, { what }));
  else {
    const read = readTypedDecimal(typed, of);
    if (read === null) refusals.push(refuse('not-a-number', field, { what }));
    else if (dec(read).lt(0)) refusals.push(refuse('below-zero', field, { what }));
    else return dec(read);
  }
  return null;
}
