import { orderSheet } from '../../test/order';
import { refusal, Stage } from '../../test/stage';
import { CancelSheet } from './cancel-sheet';

const supply = (id: number, change = {}) => ({
  purchase: { kind: 'PO', id, number: `PO-000${id}` },
  vendor: 'Arus Membrane Supply',
  straight: true,
  received: '0',
  others: [],
  fates: ['cancel', 'loose', 'stock'],
  ...change,
});
const order = { ...orderSheet('confirmed', {}), id: 3, number: 'SO-0003', version: 4 };
const staged = (rows: object[], change = {}) =>
  Stage.of(CancelSheet, { data: order, reads: () => ({ rows }), previews: () => ({ state: 'cancelled' }), ...change });

describe('cancelling an order', () => {
  it('asks of each purchase what becomes of it, beginning with what is least final', async () => {
    const stage = await staged([supply(7), supply(8, { straight: false, fates: ['cancel', 'loose'] })]);
    expect(stage.previewed.at(-1)!.input).toMatchObject({
      id: 3,
      version: 4,
      supplies: [
        { purchaseId: 7, fate: 'loose' },
        { purchaseId: 8, fate: 'loose' },
      ],
    });
    await stage.choose('PO-0007 from Arus Membrane Supply', 'cancel it too');
    expect(stage.text('footer')).toContain('and 1 purchase cancelled');
    await stage.type('Why', 'not needed any more');
    await stage.press('Cancel the order');
    expect(stage.acted.at(-1)!.input).toMatchObject({
      reason: 'not needed any more',
      supplies: [{ fate: 'cancel' }, { fate: 'loose' }],
    });
  });

  it('says of what others wait for that it stays for them', async () => {
    const stage = await staged([supply(7, { others: ['SO-0009'], fates: ['loose'] })]);
    expect(stage.text('k-choice')).toContain('part it from this order; it stays for SO-0009');
  });

  it('of an order for which nothing was bought asks nothing of it', async () => {
    const stage = await staged([], { refused: [refusal('order-moved', '', 'Goods came already.')] });
    expect(stage.previewed.at(-1)!.input['supplies']).toEqual([]);
    await stage.press('Cancel the order');
    expect(stage.text('k-sheet')).toContain('Goods came already.');
  });
});
