import { Stage } from '../../test/stage';
import { HoldSheet } from './hold-sheet';
import type { HoldRow } from './service';

const row = (lineId: number, change: Partial<HoldRow> = {}): HoldRow => ({
  lineId,
  lineNo: lineId * 10,
  item: { id: 9, number: 'FV-900', name: 'Vessel', unit: 'piece' },
  open: '2',
  sister: 'Muara',
  first: '2027-03-10',
  hold: null,
  ...change,
});

describe('what sisters hold', () => {
  const rows = [
    row(1),
    row(2, { first: null }),
    row(3, { hold: { id: 5, number: 'SO-0009', until: '2027-03-06' } }),
    row(4, { open: '0' }),
  ];
  const opened = () =>
    Stage.of(HoldSheet, {
      data: { orderId: 7, number: 'SO-0001' },
      reads: () => ({ rows }),
      previews: () => ({ held: [{ lineId: 1, day: '2027-03-10', until: '2027-03-08' }] }),
    });

  it('takes what can be held, says until when, and lets go what is', async () => {
    const stage = await opened();
    const cells = stage.rows();
    expect(cells.map((each) => each.slice(5))).toEqual([
      ['Wed 10 Mar', 'until Mon 8 Mar'],
      ['they cannot say', ''],
      ['', 'SO-0009 until Sat 6 Mar Let go'],
      ['Wed 10 Mar', ''],
    ]);
    expect(stage.element.querySelectorAll('input[type=checkbox]')).toHaveLength(1);
    await stage.press('Let line 30 go');
    expect(stage.acted).toEqual([{ name: 'letHoldGo', input: { id: 5 } }]);
    await stage.press('Hold it');
    expect(stage.acted.at(-1)).toEqual({ name: 'holdAtSister', input: { orderId: 7, lineIds: [1] } });
    expect(stage.closed).toHaveLength(1);
  });
});
