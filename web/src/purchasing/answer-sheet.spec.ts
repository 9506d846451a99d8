import { refusal, Stage } from '../../test/stage';
import { AnswerSheet } from './answer-sheet';

const line = (id: number, received: string, orders: string[]) => ({
  id,
  lineNo: id,
  item: { id: 10, number: `RO-${id}`, name: 'Membrane', unit: 'piece' },
  quantity: '12',
  received,
  dueDate: '2027-03-10',
  ties: orders.map((number) => ({ order: { kind: 'SO', id: 1, number }, orderLineNo: 2 })),
});
const data = {
  id: 4,
  version: 3,
  number: 'PO-0004',
  vendor: { id: 1, number: 'V-101', name: 'Arus' },
  customer: null,
  lines: [line(1, '5', ['SO-0001', 'SO-0002']), line(2, '12', []), line(3, '0', [])],
};
const nothing = { stopped: 0, touches: [], state: 'placed' };

describe('a vendor’s answer', () => {
  it('stands at what is still to come, with who it is for', async () => {
    const stage = await Stage.of(AnswerSheet, { data, previews: () => nothing });
    expect(stage.rows().map((row) => row.slice(0, 4))).toEqual([
      ['1', 'RO-1', 'SO-0001 line 2 and 1 more', '7'],
      ['3', 'RO-3', 'our stock', '12'],
    ]);
    expect(stage.text('footer')).toContain('As it was ordered');
  });

  it('takes down other days and what will not come, after what it does to orders', async () => {
    const touches = [
      { order: 'SO-0001', lineNo: 2, what: 'late', quantity: '7', day: '2027-03-19' },
      { order: 'SO-0009', lineNo: 1, what: 'uncovered', quantity: '4', day: '2027-03-12' },
    ];
    const stage = await Stage.of(AnswerSheet, { data, previews: () => ({ stopped: 1, touches, state: 'placed' }) });
    await stage.type('Due on, line 1', '19/3');
    await stage.choose('The rest of line 3 will not come');
    expect(stage.rows().slice(2)).toEqual([
      ['SO-0001 line 2', '7', 'comes on Fri 19 Mar, after its ship date'],
      ['SO-0009 line 1', '4', 'waits on the bench again, to ship on Fri 12 Mar'],
    ]);
    expect(stage.text('footer')).toContain('1 line on another day, 1 line closed short');
    await stage.send();
    expect(stage.acted[0]!.input).toEqual({
      purchaseId: 4,
      version: 3,
      lines: [
        { purchaseLineId: 1, dueDate: '2027-03-19', stops: false },
        { purchaseLineId: 3, dueDate: '2027-03-10', stops: true },
      ],
    });
  });

  it('says what is wrong at its line', async () => {
    const stage = await Stage.of(AnswerSheet, {
      data,
      previews: () => ({
        refusals: [refusal('not-a-day', 'lines.0.dueDate', 'That is no date.')],
        effects: null,
      }),
    });
    expect(stage.text('[role="alert"]')).toBe('That is no date.');
  });
});
