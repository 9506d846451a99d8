import { refusal, Stage } from '../../test/stage';
import { ChangePurchaseSheet } from './change-sheet';

const line = (id: number, orders: string[] = []) => ({
  id,
  lineNo: id,
  item: { id: 10, number: `RO-${id}`, name: 'Membrane', unit: 'piece' },
  quantity: '12',
  unitPrice: '620',
  received: '0',
  dueDate: '2027-03-10',
  untied: '0',
  ties: orders.map((number) => ({ order: { kind: 'SO', id: 1, number }, orderLineNo: 2 })),
});
const data = {
  id: 4,
  version: 3,
  number: 'PO-0004',
  currency: 'MYR',
  vendor: { id: 1, number: 'V-101', name: 'Arus' },
  customer: null,
  location: { id: 0, code: 'MAIN', name: 'Main store' },
  lines: [line(1, ['SO-0001']), line(2)],
};
const effects = {
  net: '9300',
  was: '7440',
  fields: [{ what: 'due date of line 1', was: '2027-03-10', is: '2027-03-19' }],
  effects: ['SO-0001 line 2 ships Fri 12 Mar 2027, before it comes'],
  state: 'placed',
};

describe('changing a placed purchase order', () => {
  it('stands at its lines, says field by field what it does, and does it with why', async () => {
    const stage = await Stage.of(ChangePurchaseSheet, {
      data,
      previews: () => effects,
      reads: () => ({ rows: [] }),
    });
    await stage.type('Quantity of line 1', '15');
    await stage.type('Price of line 2', '610');
    await stage.type('Due on, line 1', '19/3');
    await stage.type('Why', 'they called');
    expect(stage.text()).toContain('SO-0001 line 2 ships Fri 12 Mar 2027, before it comes.');
    expect(stage.rows().at(-1)).toEqual(['due date of line 1', 'Wed 10 Mar', 'Fri 19 Mar']);
    expect(stage.text('footer')).toContain('MYR 7,440.00 becomes 9,300.00');
    await stage.send();
    expect(stage.acted).toEqual([
      {
        name: 'changePurchase',
        input: {
          purchaseId: 4,
          version: 3,
          reason: 'they called',
          locationId: 0,
          lines: [
            { id: 1, itemId: null, quantity: '15', price: '', dueDate: '2027-03-19' },
            { id: 2, itemId: null, quantity: '12', price: '610', dueDate: '2027-03-10' },
          ],
        },
      },
    ]);
  });

  it('says at its line what is refused, adds lines and takes them out again', async () => {
    const stage = await Stage.of(ChangePurchaseSheet, {
      data,
      reads: () => ({ rows: [] }),
      refused: [refusal('below-orders-tied', 'lines.0.quantity', '12 are for SO-0001.')],
    });
    await stage.type('Quantity of line 1', '5');
    await stage.send();
    expect(stage.text('[role=alert]')).toContain('12 are for SO-0001.');
    await stage.press('Another line');
    // Nothing is said of a line that is not begun.
    expect((stage.previewed.at(-1)!.input as { lines: unknown[] }).lines).toHaveLength(2);
    await stage.type('Quantity of line 3', '4');
    expect(stage.previewed.at(-1)!.input).toMatchObject({
      lines: [{}, {}, { id: null, itemId: null, quantity: '4', price: '', dueDate: '2027-03-10' }],
    });
    await stage.press('Remove line 3');
    expect((stage.previewed.at(-1)!.input as { lines: unknown[] }).lines).toHaveLength(2);
  });
});
