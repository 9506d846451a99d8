import { dec, ZERO, type Dec } from '@core/kernel';

interface Going {
  lineId: number;
  lineNo: number;
  order: { number: string };
  customer: { name: string };
  location: { id: number; name: string };
  item: { id: number; number: string; name: string; unit: string };
  now: string;
}

/** An item that is to be picked at a place: how many in all, and for whom. */
export interface Pick<Row> {
  item: Going['item'];
  quantity: string;
  rows: Row[];
}

/**
 * What is to be picked for lines that go out: place by place, item by item in the order of their numbers, only of what can
 * go now. O(n log n). // S9
 */
export function toPick<Row extends Going>(rows: readonly Row[]): { location: Row['location']; items: Pick<Row>[] }[] {
  const places = new Map<number, { location: Row['location']; items: Map<number, Pick<Row> & { total: Dec }> }>();
  for (const row of rows.filter(({ now }) => now !== '0')) {
    const place = places.get(row.location.id) ?? { location: row.location, items: new Map() };
    places.set(row.location.id, place);
    const pick = place.items.get(row.item.id) ?? { item: row.item, quantity: '0', total: ZERO, rows: [] };
    place.items.set(row.item.id, pick);
    pick.total = pick.total.plus(dec(row.now));
    pick.rows.push(row);
  }
  return [...places.values()]
    .sort((a, b) => a.location.id - b.location.id)
    .map(({ location, items }) => ({
      location,
      items: [...items.values()]
        .sort((a, b) => a.item.number.localeCompare(b.item.number, 'en'))
        .map(({ total, ...pick }) => ({ ...pick, quantity: total.toFixed() })),
    }));
}
