import { refusal, Stage } from '../../test/stage';
import { PaymentSheet } from './payment-sheet';
import type { InvoiceSheet } from './service';

const invoiceOf = (side: 'customer' | 'vendor', currency = 'SGD') =>
  ({
    side,
    document: { kind: side === 'customer' ? 'CI' : 'VI', id: 5, number: 'CI-0005' },
    party: { id: 3, number: 'C-209', name: 'Selat Cruise Lines' },
    currency,
    owed: '1513.68',
    openItemId: 8,
  }) as unknown as InvoiceSheet;

const own = { currency: 'MYR', rate: '3.431', paid: '3431', difference: '21' };

describe('recording a payment', () => {
  it.each([
    ['customer', 'MYR 3,431.00 at 3.431, the rate gains MYR 21.00'],
    ['vendor', 'MYR 3,431.00 at 3.431, the rate loses MYR 21.00'],
  ] as const)('P8 of a %s says what it is worth, and what the rate moved', async (side, said) => {
    const stage = await Stage.of(PaymentSheet, {
      data: invoiceOf(side),
      previews: () => ({ amount: '1000', side, own }),
    });
    await stage.type('Amount, SGD', '1000');
    expect(stage.previewed.at(-1)!.input).toMatchObject({ openItemId: 8, amount: '1000' });
    expect(stage.text('footer')).toContain(said);
  });

  it('in the company’s own currency says nothing of rates', async () => {
    const stage = await Stage.of(PaymentSheet, {
      data: invoiceOf('customer', 'MYR'),
      previews: () => ({ amount: '1513.68', side: 'customer', own: null }),
    });
    expect(stage.text('footer')).not.toContain(' at ');
  });

  it('says at the day where no rate of it is kept', async () => {
    const stage = await Stage.of(PaymentSheet, {
      data: invoiceOf('customer'),
      previews: () => ({
        refusals: [refusal('no-rate', 'paidOn', 'What SGD was worth then is not kept.')],
        effects: null,
      }),
    });
    expect(stage.text()).toContain('What SGD was worth then is not kept.');
  });
});
