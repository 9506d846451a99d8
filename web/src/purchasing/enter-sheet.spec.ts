import { refusal, Stage } from '../../test/stage';
import { EnterSheet } from './enter-sheet';
import { MakeOrderSheet } from './make-order-sheet';

const effects = {
  currency: 'MYR',
  net: '3720',
  lines: [{ itemId: 10, quantity: '6', unitPrice: '620', amount: '3720', agreement: null }],
};

describe('a purchase order typed by hand', () => {
  it('S1 comes to the place that is chosen, where there are several', async () => {
    const places = [
      { id: 0, code: 'MAIN', name: 'Main store' },
      { id: 3, code: 'EAST', name: 'East coast store' },
    ];
    const stage = await Stage.of(EnterSheet, { reads: ({ name }) => ({ rows: name === 'locations' ? places : [] }) });
    await stage.choose('Comes to', 'East coast store');
    expect(stage.previewed.at(-1)!.input).toMatchObject({ shipToId: null, locationId: 3 });
  });

  it('begins for our place with one line due in a week', async () => {
    const stage = await Stage.of(EnterSheet, { reads: () => ({ rows: [] }) });
    expect(stage.previewed[0]!.input).toEqual({
      vendorId: null,
      shipToId: null,
      locationId: 0,
      lines: [{ itemId: null, quantity: '', dueDate: '2027-03-08' }],
    });
    await stage.press('Another line');
    await stage.type('Quantity 2', '1,250.5');
    await stage.type('Due on 2', '20/3');
    expect(stage.previewed.at(-1)!.input['lines']).toEqual([
      { itemId: null, quantity: '', dueDate: '2027-03-08' },
      { itemId: null, quantity: '1250.5', dueDate: '2027-03-20' },
    ]);
    await stage.press('Remove line 1');
    expect(stage.previewed.at(-1)!.input['lines']).toHaveLength(1);
  });

  it.each([
    ['in time', true, false],
    ['too late for its day', true, true],
    ['nothing, where there are no sisters', false, true],
  ])(
    'X4 says from when a sister could ship it: %s',
    async (_what, sisters, late) => {
      const stage = await Stage.of(EnterSheet, {
        sisters,
        reads: ({ name, input }) => {
          if (name === 'sisterDays') {
            const [line] = input['lines'] as { key: string }[];
            return { sister: 'Muara', lines: [{ key: line!.key, first: '2027-03-11', late }] };
          }
          const party = { id: 4, number: 'V-201', name: 'Muara', detail: '', referenceRequired: false, shipTos: [] };
          if (name === 'findVendors') return { rows: [party] };
          return { rows: name === 'findItems' ? [{ id: 10, number: 'FV-900', name: 'Vessel', unit: 'piece' }] : [] };
        },
        previews: () => ({ refusals: [], effects }),
      });
      await stage.pick('Vendor', 'Muara');
      await stage.pick('Item 1', 'FV-900');
      await stage.type('Quantity 1', '2');
      await stage.rests();
      const marked = stage.element.querySelector('.word')?.textContent ?? '';
      expect([stage.text().includes('Muara could ship it on Thu 11 Mar'), marked.includes('Thu 11 Mar')]).toEqual([
        sisters,
        sisters && late,
      ]);
      expect(stage.read.some(({ name }) => name === 'sisterDays')).toBe(sisters);
    },
    20_000,
  );

  it('says what is wrong at the cells typed in, and the rest once it is tried', async () => {
    const stage = await Stage.of(EnterSheet, {
      reads: () => ({ rows: [] }),
      previews: () => ({
        refusals: [
          refusal('required', 'vendorId', 'The vendor is needed.'),
          refusal('not-a-number', 'lines.0.quantity', 'That is no number.'),
        ],
        effects: null,
      }),
      refused: [refusal('required', 'vendorId', 'The vendor is needed.')],
    });
    expect(stage.text()).not.toContain('The vendor is needed.');
    await stage.type('Quantity 1', 'x');
    expect(stage.text('[role="alert"]')).toContain('That is no number.');
    await stage.send();
    expect(stage.text()).toContain('The vendor is needed.');
    expect(stage.closed).toEqual([]);
  });

  it('says where the vendor sells by other quantities, at the line', async () => {
    const stage = await Stage.of(EnterSheet, {
      reads: () => ({ rows: [] }),
      previews: () => ({
        refusals: [],
        warnings: [refusal('vendor-sells-by', 'lines.0.quantity', 'They sell by 10.')],
        effects,
      }),
    });
    expect(stage.text('.word')).toBe('They sell by 10.');
    expect(stage.text('footer')).toContain('1 line to our place, MYR 3,720.00');
  });
});

describe('what is usually bought from a vendor', () => {
  const item = (id: number, number: string) => ({
    id,
    number,
    name: number,
    unit: 'piece',
    listPrice: '1',
    route: 'stock',
    routes: ['stock'],
    onHand: '0',
    taxCode: 'S6',
    taxRate: '6',
    units: [{ unit: 'piece', factor: '1' }],
    weight: '0',
    volume: '0',
    theirNumber: '',
  });
  const row = (id: number, number: string, quantity: string | null = null) => ({
    open: quantity === null ? '20' : '0',
    again: { every: 14, dueOn: '2027-02-24', quantity },
    item: item(id, number),
    times: 4,
    lastQuantity: '20',
    unit: 'piece',
    factor: '1',
    lastPrice: '620',
    lastDay: '2027-02-10',
    free: '0',
  });

  it('goes into the lines with a quantity, and out of them without', async () => {
    const stage = await Stage.of(EnterSheet, {
      reads: ({ name }) =>
        name === 'vendorBasket'
          ? { rows: [row(10, 'RO-4040'), row(11, 'RO-2540')] }
          : { rows: [{ id: 3, number: 'V-101', name: 'Arus', detail: '', referenceRequired: false, shipTos: [] }] },
    });
    await stage.pick('Vendor', 'Arus');
    expect(stage.text()).toContain('What we usually buy from Arus');
    await stage.type('Buy of RO-4040', '12');
    await stage.type('Buy of RO-2540', '5');
    const lines = () =>
      (stage.previewed.at(-1)!.input['lines'] as { itemId: number; quantity: string }[]).map((line) => [
        line.itemId,
        line.quantity,
      ]);
    expect(lines()).toEqual([
      [10, '12'],
      [11, '5'],
    ]);
    await stage.type('Buy of RO-4040', '');
    expect(lines()).toEqual([[11, '5']]);
  });

  it('is bought again where it is due and nothing of it comes', async () => {
    const stage = await Stage.of(EnterSheet, {
      reads: ({ name }) =>
        name === 'vendorBasket'
          ? { rows: [row(10, 'RO-4040', '18'), row(11, 'RO-2540')] }
          : { rows: [{ id: 3, number: 'V-101', name: 'Arus', detail: '', referenceRequired: false, shipTos: [] }] },
    });
    await stage.pick('Vendor', 'Arus');
    await stage.press('Buy what is due, 1');
    const { lines } = stage.previewed.at(-1)!.input as { lines: { itemId: number; quantity: string }[] };
    expect(lines).toMatchObject([{ itemId: 10, quantity: '18' }]);
    expect(stage.text()).not.toContain('Buy what is due');
  });
});

describe('an order made of a loose purchase', () => {
  const data = { id: 4, version: 2, number: 'PO-0004', customer: { id: 5, number: 'C-1', name: 'Nilam' } };
  const order = {
    customer: 'Nilam',
    currency: 'MYR',
    net: '2928',
    lines: [{ item: 'RO-2540', quantity: '6', unitPrice: '488', amount: '2928', shipDate: '2027-03-10' }],
  };

  it('shows the order at the customer’s prices and makes it', async () => {
    const stage = await Stage.of(MakeOrderSheet, { data, previews: () => order });
    expect(stage.rows()).toEqual([['RO-2540', '6', '488.00', '2,928.00', 'Wed 10 Mar']]);
    await stage.type('Their reference', 'N-7');
    await stage.send();
    expect(stage.acted[0]!.input).toEqual({ purchaseId: 4, version: 2, customerReference: 'N-7' });
  });

  it('asks at once for the reference the customer wants', async () => {
    const stage = await Stage.of(MakeOrderSheet, {
      data,
      previews: () => ({
        refusals: [refusal('reference-required', 'customerReference', 'They want their own reference.')],
        effects: null,
      }),
    });
    expect(stage.text('[role="alert"]')).toBe('They want their own reference.');
  });
});
