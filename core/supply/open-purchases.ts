import { readTypedDecimal, type Day } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import { readTypedDay } from '@core/typed';
import type { PurchasePlan } from './buying';
import { decidePurchase, type PurchaseGround } from './purchase';

/** What a line of open purchases names, as the company knows it. */
export interface OpenPurchasesGround {
  lines: readonly {
    vendor: PurchaseGround['vendor'];
    itemId: number | null;
    locationId: number | null;
    /** Our purchase that was opened under that vendor's number already. */
    opened: string | null;
  }[];
  /** What any of them may be bought of, from whichever vendor. */
  items: PurchaseGround['items'];
  locationIds: readonly number[];
}

export interface OpenPurchasesTyped {
  lines: readonly {
    vendor: string;
    /** The purchase's number in the books before: lines of one vendor and number are one purchase. */
    number: string;
    item: string;
    /** What is still to come. */
    quantity: string;
    /** What one costs; the vendor's price where it is empty. */
    price: string;
    due: string;
    /** Which of our places it comes to; the first where it is empty. */
    place: string;
  }[];
}

export interface OpenPurchasesEffects {
  purchases: { number: string; plan: PurchasePlan; lines: number }[];
  /** Lines of purchases that were opened already. */
  same: number;
}

/** Letters of such a number at most. */
const MOST = 40;

/** The columns of a file, by the fields of a purchase. */
const COLUMNS: Readonly<Record<string, string>> = {
  itemId: 'item',
  dueDate: 'due',
  vendorId: 'vendor',
  locationId: 'place',
};

/**
 * Purchases that were placed before Kampong, with what is still to come of them: a purchase for each vendor and number,
 * placed as one that is typed by hand. A number that was opened already is left as it is. O(lines). // U3 L4
 */
export function decideOpenPurchases(
  ground: OpenPurchasesGround,
  typed: OpenPurchasesTyped,
  workDate: Day,
): Decision<OpenPurchasesEffects> {
  const refusals: Refusal[] = [];
  const warnings: Refusal[] = [];
  if (typed.lines.length === 0) refusals.push(refuse('no-lines', 'lines', { document: 'What is on order' }));
  const groups = new Map<string, number[]>();
  let same = 0;
  typed.lines.forEach((line, index) => {
    const at = (field: string) => `lines.${index}.${field}`;
    const before = refusals.length;
    const { vendor, itemId, locationId, opened } = ground.lines[index]!;
    const number = line.number.trim();
    const what = 'The number it had';
    if (!vendor) refusals.push(refuse('unknown', at('vendor'), { what: `The vendor ${line.vendor.trim()}` }));
    if (number === '') refusals.push(refuse('required', at('number'), { what }));
    else if (number.length > MOST) refusals.push(refuse('too-long', at('number'), { what, most: String(MOST) }));
    if (vendor && opened !== null) {
      same += 1;
      return;
    }
    if (itemId === null) refusals.push(refuse('unknown', at('item'), { what: `The item ${line.item.trim()}` }));
    if (locationId === null) refusals.push(refuse('unknown', at('place'), { what: `The place ${line.place.trim()}` }));
    if (refusals.length > before) return;
    const key = `${vendor!.id} ${locationId} ${number.toLowerCase()}`;
    groups.set(key, [...(groups.get(key) ?? []), index]);
  });
  const purchases = [...groups.values()].flatMap((indexes) => {
    const [first] = indexes;
    const { vendor, locationId } = ground.lines[first!]!;
    const lines = indexes.map((index) => {
      const line = typed.lines[index]!;
      const due = line.due.trim();
      return {
        itemId: ground.lines[index]!.itemId,
        quantity: readTypedDecimal(line.quantity, 'quantity') ?? line.quantity,
        price: line.price.trim() === '' ? '' : (readTypedDecimal(line.price, 'price') ?? line.price),
        dueDate: due === '' ? null : (readTypedDay(due, workDate) ?? due),
        agreementLineId: null,
      };
    });
    const decision = decidePurchase(
      { vendor, shipToIds: [], locationIds: ground.locationIds, items: ground.items, buying: [] },
      { shipToId: null, locationId: locationId!, lines },
      workDate,
    );
    /** Each at its line of the file. */
    const placed = (refusal: Refusal): Refusal => {
      const [, at = '0', field = refusal.field] = /^lines\.(\d+)\.(\w+)$/.exec(refusal.field) ?? [];
      return { ...refusal, field: `lines.${indexes[Number(at)]!}.${COLUMNS[field] ?? field}` };
    };
    if (!decision.ok) {
      refusals.push(...decision.refusals.map(placed));
      return [];
    }
    warnings.push(...decision.warnings.map(placed));
    return [
      {
        number: typed.lines[first!]!.number.trim(),
        plan: decision.effects.purchase,
        lines: decision.effects.typed.length,
      },
    ];
  });
  return decided(refusals, () => ({ purchases, same }), warnings);
}
