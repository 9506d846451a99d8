import { refusal, Stage, type Backdrop } from '../../test/stage';
import { RepromisePage } from './repromise';
import type { RunShown } from './service';

const moved = (lineId: number, change: Partial<RunShown['moved'][number]> = {}): RunShown['moved'][number] => ({
  lineId,
  lineNo: 1,
  order: { kind: 'SO', id: lineId, number: `SO-000${lineId}` },
  customer: 'Kasturi Bottling',
  item: 'UV-LAMP',
  quantity: '60',
  was: '2027-03-09',
  is: '2027-03-22',
  why: 'PO-0062 of Arus comes then',
  taken: false,
  ...change,
});

const run = (change: Partial<RunShown> = {}): RunShown => ({
  id: 4,
  state: 'done',
  done: 30,
  total: 30,
  workDate: '2027-03-01',
  madeAt: '2027-03-01T08:30:00.000Z',
  by: 'Mei Lin',
  since: 0,
  moves: 3,
  moved: [moved(1), moved(2, { is: '2027-03-08' }), moved(3, { is: null })],
  ...change,
});

const staged = (shown: RunShown | null, more: Backdrop = {}) =>
  Stage.of(RepromisePage, { reads: () => ({ run: shown }), ...more });

describe('promising again', () => {
  it('tells whose promise moves, by how much and why, and takes those chosen', async () => {
    const stage = await staged(run());
    expect(stage.text('p[role=status] b')).toBe('30 lines asked; 3 promises move.');
    expect(stage.rows().map((cells) => cells.slice(5, 9))).toEqual([
      ['Tue 9 Mar', 'Mon 22 Mar', '+13', 'PO-0062 of Arus comes then'],
      ['Tue 9 Mar', 'Mon 8 Mar', '−1', 'PO-0062 of Arus comes then'],
      ['Tue 9 Mar', 'no day', '', 'PO-0062 of Arus comes then'],
    ]);
    await stage.choose('Take the new day of SO-0002 line 1');
    await stage.press('Take 1 new day');
    expect(stage.acted).toEqual([{ name: 'applyRepromise', input: { id: 4, lineIds: [1] } }]);
  });

  it('offers to ask again first where something happened since', async () => {
    const stage = await staged(run({ since: 200 }));
    expect(stage.text('p[role=status]')).toMatch(/for Mei Lin; more than 199 changes since$/);
    expect(stage.button('Ask all again').classList).toContain('next');
    expect(stage.button('Take 2 new days').classList).not.toContain('next');
  });

  it('keeps the page where it is refused, and says the first of many', async () => {
    const stage = await staged(run({ moves: 700 }), { refused: [refusal('promise-changed', 'lineIds.0', 'Changed.')] });
    expect(stage.text('p[role=status] b')).toBe('30 lines asked; 700 promises move, the first 3 of them here.');
    await stage.press('Take 2 new days');
    expect(stage.text('k-refusals')).toContain('Changed.');
    await stage.press('Ask all again');
    expect(stage.acted[1]).toEqual({ name: 'startRepromise', input: {} });
  });

  it('shows how far it is and can be stopped', async () => {
    const stage = await staged(run({ state: 'running', done: 12 }));
    expect(stage.text('p[role=status]')).toBe('12 of 30 lines');
    await stage.press('Stop');
    expect(stage.acted).toEqual([{ name: 'stopRepromise', input: { id: 4 } }]);
    stage.close();
    const stopped = await staged(run({ state: 'stopped' }));
    expect(stopped.text('p[role=status] b')).toBe('It was stopped; nothing moves.');
    expect(stopped.rows()).toEqual([]);
    stopped.close();
    expect((await staged(null)).text('.empty')).toContain('Nothing was asked again yet');
  });
});
