import type { Row } from '../src/going-out/by-day';

/** A line that goes out, all of it here. */
export const goingRow = (change: Partial<Row> = {}): Row => ({
  lineId: 1,
  order: { kind: 'SO', id: 1, number: 'SO-0001' },
  lineNo: 1,
  reference: '',
  customer: { id: 7, name: 'Kasturi Bottling' },
  shipTo: { id: 3, label: 'Plant', town: 'Ipoh' },
  location: { id: 0, name: 'Main store' },
  item: { id: 9, number: 'SALT-25', name: 'Salt', unit: 'bag' },
  byNumber: false,
  route: 'stock',
  shipDate: '2027-03-09',
  open: '10',
  held: '0',
  free: '10',
  now: '10',
  coming: [],
  late: [],
  short: '0',
  missing: '0',
  ...change,
});
