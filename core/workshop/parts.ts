import { dec, isDecimalText, sum, type Day } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import { componentCost, labourCost, type WorkComponent, type WorkGround } from './work-order';

/** What goes into an order, as it is changed for this order alone. */
export interface PartsTyped {
  /** All of its components as they are to be: those left out of the list are left out of the order. */
  components: readonly {
    /** Null for one that is added. */
    id: number | null;
    itemId: number | null;
    /** For the whole order. */
    quantity: string;
    operationNo: number | null;
  }[];
}

/** An item that may go into the order. */
export interface PartItem {
  id: number;
  number: string;
  whole: boolean;
  expectedCost: string;
  /** It goes into nothing any more, but where it is in already. */
  outOfUse: boolean;
  /** Weight of one, in kg; empty where none is known. */
  weight: string;
}

export interface PartsGround extends Pick<WorkGround, 'order' | 'components' | 'operations' | 'currency'> {
  items: ReadonlyMap<number, PartItem>;
  /** The day what is added is needed. */
  neededOn: Day;
  /** Items the order makes, or that are made of it: it cannot go into itself. */
  above: ReadonlySet<number>;
}

export interface PartsEffects {
  gone: number[];
  kept: { id: number; itemId: number; quantity: string; operationNo: number | null; cost: string }[];
  added: { itemId: number; quantity: string; operationNo: number | null; neededOn: Day; cost: string }[];
  /** What the whole is reckoned to cost with it, and was before; and what it weighs more or less. */
  cost: string;
  was: string;
  weight: string;
}

/**
 * Changes what goes into an order, for this order alone. What was used of a component
 * stays used: it is not left out, nor replaced, nor lessened below that; nor below what is planned for it. // W1
 */
export function decideParts(ground: PartsGround, typed: PartsTyped): Decision<PartsEffects> {
  const { order, components, operations, items } = ground;
  if (order.state === 'finished' || order.state === 'cancelled') {
    return { ok: false, refusals: [refuse('work-not-open', '', { work: order.number, state: order.state })] };
  }
  const refusals: Refusal[] = [];
  const named = new Set(typed.components.flatMap(({ id }) => id ?? []));
  const gone = components.filter(({ id }) => !named.has(id));
  for (const each of gone) {
    const stays = standing(each);
    if (stays) refusals.push({ ...stays, field: '' });
  }
  typed.components.forEach((row, index) => {
    const at = (field: string) => `components.${index}.${field}`;
    const before = components.find(({ id }) => id === row.id);
    if (row.id !== null && !before) return void refusals.push(refuse('unknown', at('id'), { what: 'This component' }));
    const item = row.itemId === null ? undefined : items.get(row.itemId);
    if (!item) return void refusals.push(refuse('required', at('itemId'), { what: 'The item' }));
    const other = before?.itemId !== item.id;
    if (other && item.outOfUse) refusals.push(refuse('item-out-of-use', at('itemId'), { item: item.number }));
    if (other && ground.above.has(item.id)) {
      refusals.push(refuse('goes-into-itself', at('itemId'), { item: item.number, order: order.number }));
    }
    if (other && before) {
      const stays = standing(before);
      if (stays) refusals.push({ ...stays, field: at('itemId') });
    }
    if (row.operationNo !== null && !operations.some(({ no }) => no === row.operationNo)) {
      refusals.push(refuse('unknown', at('operationNo'), { what: 'This operation' }));
    }
    quantityRefusal({ row, item, before: other ? undefined : before, field: at('quantity') }, refusals);
  });
  return decided(refusals, () => effectsOf(ground, typed, gone));
}

function quantityRefusal(
  {
    row,
    item,
    before,
    field,
  }: { row: PartsTyped['components'][number]; item: PartItem; before: WorkComponent | undefined; field: string },
  refusals: Refusal[],
): void {
  if (!isDecimalText(row.quantity, 'quantity')) {
    return void refusals.push(refuse('not-a-number', field, { what: 'The quantity' }));
  }
  const quantity = dec(row.quantity);
  if (quantity.lte(0)) return void refusals.push(refuse('not-above-zero', field, { what: 'The quantity' }));
  if (item.whole && !quantity.mod(1).eq(0)) {
    return void refusals.push(refuse('whole-pieces', field, { item: item.number }));
  }
  if (before && quantity.lt(before.used)) {
    refusals.push(refuse('below-used', field, { item: item.number, used: before.used }));
  } else if (before && quantity.lt(before.covered)) {
    refusals.push(refuse('below-planned', field, { item: item.number, planned: before.covered }));
  }
}

/** What keeps a component where it is: what was used of it, or is planned for it. */
function standing({ item, used, reported, covered }: WorkComponent): Refusal | null {
  if (dec(used).gt(0)) return refuse('component-used', '', { item, used });
  if (reported) return refuse('component-reported', '', { item });
  return dec(covered).gt(0) ? refuse('component-planned', '', { item, planned: covered }) : null;
}

function effectsOf(ground: PartsGround, typed: PartsTyped, gone: readonly WorkComponent[]): PartsEffects {
  const { components, operations, items, currency } = ground;
  const costOf = (itemId: number, quantity: string) =>
    componentCost(quantity, items.get(itemId)?.expectedCost ?? '0', currency).toFixed();
  const labour = sum(operations.map(({ minutes, hourCost }) => labourCost(minutes, hourCost, currency)));
  const kept = typed.components.flatMap(({ id, itemId, quantity, operationNo }) =>
    id === null
      ? []
      : [{ id, itemId: itemId!, quantity: dec(quantity).toFixed(), operationNo, cost: costOf(itemId!, quantity) }],
  );
  const added = typed.components.flatMap(({ id, itemId, quantity, operationNo }) =>
    id === null
      ? [
          {
            itemId: itemId!,
            quantity: dec(quantity).toFixed(),
            operationNo,
            neededOn: ground.neededOn,
            cost: costOf(itemId!, quantity),
          },
        ]
      : [],
  );
  const total = (all: readonly { cost: string }[]) => sum(all.map(({ cost }) => dec(cost)));
  const was = total(components.map(({ itemId, quantity }) => ({ cost: costOf(itemId, quantity) })));
  const weightOf = (all: readonly { itemId: number; quantity: string }[]) =>
    sum(all.map(({ itemId, quantity }) => dec(items.get(itemId)?.weight || '0').times(quantity)));
  return {
    gone: gone.map(({ id }) => id),
    kept,
    added,
    cost: total([...kept, ...added])
      .plus(labour)
      .toFixed(),
    was: was.plus(labour).toFixed(),
    weight: weightOf([...kept, ...added])
      .minus(weightOf(components))
      .toFixed(),
  };
}
