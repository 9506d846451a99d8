import { refusal, Stage } from '../../test/stage';
import { ArriveSheet, type ArriveData } from './arrive-sheet';

const ROW = {
  id: 4,
  document: { kind: 'JR', id: 70, number: 'JR-70' },
  item: { id: 9, number: 'GAC-25', name: 'Activated carbon', unit: 'bag' },
  state: 'under way',
  quantity: '25',
  arrived: '10',
  from: { id: 0, name: 'Main store' },
  to: { id: 3, name: 'East coast store' },
} as unknown as ArriveData['row'];

describe('goods that were under way', () => {
  const staged = (more = {}) => Stage.of(ArriveSheet, { data: { row: ROW, currency: 'MYR' }, ...more });

  it('begin with all that is under way, and say what stays', async () => {
    const stage = await staged({
      previews: ({ input }: { input: Record<string, unknown> }) => ({
        quantity: input['quantity'],
        value: '1315',
        numbers: [],
      }),
    });
    expect(stage.text()).toContain('of 15 under way');
    await stage.type('How many, bag', '10');
    expect(stage.text()).toContain('10 bags, MYR 1,315.00; 5 stay under way');
    await stage.send();
    expect(stage.acted).toEqual([{ name: 'arrive', input: { carriageId: 4, to: 3, quantity: '10' } }]);
  });

  it('say at the field why not', async () => {
    const stage = await staged({ refused: [refusal('above-under-way', 'quantity', '15 are under way.')] });
    await stage.type('How many, bag', '16');
    await stage.send();
    expect(stage.text()).toContain('15 are under way.');
  });
});
