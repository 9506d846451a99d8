import { goingRow } from '../../test/going';
import { refusal, Stage } from '../../test/stage';
import { SendOutSheet } from './send-out-sheet';

const rows = [
  goingRow({ lineId: 1, now: '4' }),
  goingRow({ lineId: 2, order: { kind: 'SO', id: 2, number: 'SO-0002' }, shipDate: '2027-03-12', now: '3', open: '3' }),
];
const shipped = {
  receipts: [],
  shipments: [{ orderId: null, customerId: 7, cost: '119', parts: [] }],
  repriced: [],
  assembled: [],
  numbers: [],
};

describe('sending marked lines out', () => {
  const staged = (more = {}) => Stage.of(SendOutSheet, { data: { rows }, previews: () => shipped, ...more });

  it('goes in one act, of each what can go, with one delivery note an address whatever the days', async () => {
    const stage = await staged();
    expect(stage.text()).toContain('Ship 2 lines');
    expect(stage.text()).toContain('with one delivery note');
    expect(stage.text()).toContain('cost MYR 119.00');
    await stage.send();
    expect(stage.acted).toEqual([
      {
        name: 'sendOut',
        input: {
          lines: [
            { lineId: 1, quantity: '4' },
            { lineId: 2, quantity: '3' },
          ],
        },
      },
    ]);
  });

  it('leaves out what is typed to nothing, and says what is refused at its line', async () => {
    const stage = await staged({ refused: [refusal('above-on-hand', 'lines.0.quantity', 'There are only 2.')] });
    await stage.type('Quantity of SO-0001 line 1', '0');
    await stage.send();
    expect(stage.previewed.at(-1)!.input).toEqual({ lines: [{ lineId: 2, quantity: '3' }] });
    // It is said at the line that was refused, though another stands before it.
    expect(stage.text('tr + tr .bad')).toContain('There are only 2.');
  });
});
