import { refusal, Stage } from '../../test/stage';
import { PlaceSheet } from './place-sheet';
import type { BenchRow } from './service';

const offer = (vendorId: number, vendor: string, unitPrice: string, leadDays: number) => ({
  vendorId,
  vendor,
  unitPrice,
  currency: 'MYR',
  ownPrice: unitPrice,
  leadDays,
  approved: true,
});
const row = (change: Partial<BenchRow> = {}) =>
  ({
    key: 'line 5',
    orderLineId: 5,
    lineNo: 1,
    order: { kind: 'SO', id: 3, number: 'SO-0003' },
    planned: null,
    customer: { id: 7, number: 'C-201', name: 'Teratai Bay Resort' },
    item: { id: 2, number: 'VA-50A', name: 'Valve', unit: 'piece' },
    quantity: '4',
    route: 'special',
    shipDate: '2027-03-20',
    orderBy: null,
    offers: [offer(1, 'Injap Timur Valves', '905', 12), offer(2, 'Logam Setia Castings', '940', 7)],
    proposal: { vendorId: 1, reason: 'cheapest', due: '2027-03-17' },
    ...change,
  }) as unknown as BenchRow;
const effects = {
  purchases: [{ vendor: 'Injap Timur Valves', shipTo: 'our place', currency: 'MYR', net: '3620', lines: [] }],
};
const staged = (change = {}, rows = [row()]) =>
  Stage.of(PlaceSheet, { data: { rows }, previews: () => effects, ...change });
const line = (stage: Stage) => (stage.previewed.at(-1)!.input['lines'] as object[])[0];

describe('placing what the bench needs', () => {
  it('begins with who is proposed, what they ask, how long they take and why', async () => {
    const stage = await staged();
    expect(line(stage)).toEqual({ orderLineId: 5, vendorId: 1 });
    expect(stage.text('tbody')).toContain('12 days, the cheapest');
    expect(stage.field('Price of VA-50A for SO-0003 line 1').getAttribute('placeholder')).toBe('905.00');
    await stage.choose('Vendor of VA-50A for SO-0003 line 1', 'Logam Setia Castings, MYR 940.00, 7 days');
    expect(line(stage)).toEqual({ orderLineId: 5, vendorId: 2 });
    expect(stage.text('tbody')).toContain('7 days');
    expect(stage.text('tbody')).not.toContain('the cheapest');
  });

  it('asks why for another price, and for more than is needed, and not else', async () => {
    const stage = await staged();
    const asks = () => stage.element.querySelector('input.why') !== null;
    expect(asks()).toBe(false);
    await stage.type('Place of VA-50A for SO-0003 line 1', '3');
    expect(asks()).toBe(false);
    await stage.type('Place of VA-50A for SO-0003 line 1', '6');
    expect(asks()).toBe(true);
    await stage.type('Place of VA-50A for SO-0003 line 1', '4');
    await stage.type('Price of VA-50A for SO-0003 line 1', '890');
    expect(asks()).toBe(true);
    await stage.type('Why, for VA-50A of SO-0003 line 1', 'by phone');
    expect(line(stage)).toEqual({ orderLineId: 5, vendorId: 1, quantity: '4', price: '890', reason: 'by phone' });
  });

  it('says at its row what is refused', async () => {
    const stage = await staged({ refused: [refusal('required', 'lines.0.reason', 'Why is needed.')] });
    await stage.type('Price of VA-50A for SO-0003 line 1', '890');
    await stage.press('Place the purchase order');
    expect(stage.text('tbody')).toContain('Why is needed.');
  });

  it('leaves out what nobody may bring', async () => {
    const none = row({ key: 'line 6', proposal: null, offers: [] });
    const stage = await staged({}, [row(), none]);
    expect(stage.text('tbody')).toContain('nobody sells it to us');
    expect(stage.previewed.at(-1)!.input['lines']).toHaveLength(1);
  });
});
