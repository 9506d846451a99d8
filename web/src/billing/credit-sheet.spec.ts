import { refusal, Stage } from '../../test/stage';
import { CreditSheet } from './credit-sheet';
import type { InvoiceSheet } from './service';

const line = {
  id: 31,
  item: { id: 2, number: 'RO-4040', name: 'Membrane', unit: 'piece' },
  creditable: '8',
  quantity: '8',
  unitPrice: '740',
  net: '5920',
  taxCode: 'S6',
  covers: { kind: 'SH', id: 4, number: 'SH-0004' },
  orderLineId: 21,
  numbers: [],
  difference: null,
};
const invoice = {
  document: { kind: 'CI', id: 5, number: 'CI-0005' },
  party: { id: 3, number: 'C-201', name: 'Teratai Bay Resort' },
  currency: 'MYR',
  lines: [line, { ...line, id: 32, creditable: null, item: { ...line.item, number: 'SHORTFALL' } }],
} as unknown as InvoiceSheet;

const effects = {
  currency: 'MYR',
  total: '1568.8',
  setOff: '1568.8',
  rebates: [{ accrued: '-44.4' }],
  lines: [{ invoiceLineId: 31, net: '1480' }],
  numbers: [],
};
const lastLine = (stage: Stage) => (stage.previewed.at(-1)!.input['lines'] as unknown[])[0];

describe('crediting an invoice', () => {
  it('shows only what covers a shipment, with what is not credited yet', async () => {
    const stage = await Stage.of(CreditSheet, { data: invoice });
    expect(stage.rows().map((cells) => [cells[0], cells[2], cells[3]])).toEqual([['RO-4040', '8', '740.00']]);
  });

  it('credits what came back, and says what becomes of the amount and of the rebate', async () => {
    const stage = await Stage.of(CreditSheet, { data: invoice, previews: () => effects });
    await stage.type('Came back of RO-4040', '2');
    expect(lastLine(stage)).toEqual({ invoiceLineId: 31, quantity: '2', unitPrice: '' });
    expect(stage.rows()[0]![5]).toBe('1,480.00');
    expect(stage.text('footer')).toContain('MYR 1,568.80 with tax, 1,568.80 set off against it; its rebate falls');
  });

  it('P8 says what it comes to in the company’s currency where that is another', async () => {
    const own = { currency: 'MYR', rate: '3.4', net: '5032', tax: '301.92', total: '5333.92' };
    const stage = await Stage.of(CreditSheet, {
      data: invoice,
      previews: () => ({ ...effects, currency: 'SGD', own }),
    });
    await stage.type('Came back of RO-4040', '2');
    expect(stage.text('footer')).toContain('SGD 1,568.80 with tax, MYR 5,333.92 at 3.4, 1,568.80 set off');
  });

  it('or puts the price right: what was typed goes as a price', async () => {
    const stage = await Stage.of(CreditSheet, {
      data: invoice,
      previews: () => ({ ...effects, setOff: '0', rebates: [] }),
    });
    await stage.choose('What it is for', 'The price was too high');
    await stage.type('Right price of RO-4040', '725.50');
    expect(stage.previewed.at(-1)!.input).toMatchObject({ invoiceId: 5, kind: 'price' });
    expect(lastLine(stage)).toEqual({ invoiceLineId: 31, quantity: '', unitPrice: '725.50' });
    expect(stage.text('footer')).toContain('MYR 1,568.80 with tax');
    expect(stage.text('footer')).not.toContain('set off');
  });

  it('says at the line what is refused, and asks why only once something is typed', async () => {
    const stage = await Stage.of(CreditSheet, {
      data: invoice,
      previews: () => ({
        refusals: [
          refusal('too-much', 'lines.0.quantity', 'Only 8 are not credited.'),
          refusal('reason', 'reason', 'Say why.'),
        ],
        effects: null,
      }),
    });
    expect(stage.text()).not.toContain('Say why.');
    await stage.type('Came back of RO-4040', '9');
    expect(stage.text()).toContain('Only 8 are not credited.');
    expect(stage.text()).toContain('Say why.');
    await stage.type('Why', 'They were cracked');
    await stage.send();
    expect(stage.acted[0]!.input).toMatchObject({ reason: 'They were cracked', kind: 'return' });
  });
});
