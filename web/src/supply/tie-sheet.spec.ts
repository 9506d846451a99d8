import { refusal, Stage } from '../../test/stage';
import type { TieCandidate } from './service';
import { TieSheet, type TieData } from './tie-sheet';

const candidate = (lineId: number, change: Partial<TieCandidate> = {}): TieCandidate => ({
  lineId,
  lineNo: 1,
  document: { kind: 'PO', id: lineId, number: `PO-${lineId}` },
  party: 'Arus',
  day: '2027-03-10',
  left: '20',
  fits: '12',
  late: false,
  ...change,
});
const data: TieData = { end: 'order', lineId: 31, title: 'SO-0003 line 1' };
const effects = { order: 'SO-0003', purchase: 'PO-21', quantity: '12', left: '0', late: false };

const stageOf = (rows: TieCandidate[], given: TieData = data, previews: () => unknown = () => effects) =>
  Stage.of(TieSheet, { data: given, reads: () => ({ rows }), previews });

describe('tying a line', () => {
  it('proposes the first that fits with all it could take', async () => {
    const stage = await stageOf([candidate(21), candidate(22)]);
    expect(stage.read).toEqual([{ name: 'findSupplies', input: { id: 31 } }]);
    expect(stage.field('Quantity to tie').value).toBe('12');
    expect(stage.text('footer')).toContain('12 of SO-0003 from PO-21; all of it has supply then');
    await stage.send();
    expect(stage.acted[0]!.input).toEqual({ orderLineId: 31, purchaseLineId: 21, quantity: '12' });
  });

  it('takes another, and part of it', async () => {
    const stage = await stageOf([candidate(21), candidate(22, { fits: '5', late: true })]);
    expect(stage.text('tbody')).toContain('too late');
    await stage.choose('PO-22 line 1');
    await stage.type('Quantity to tie', '3');
    expect(stage.previewed.at(-1)!.input).toEqual({ orderLineId: 31, purchaseLineId: 22, quantity: '3' });
  });

  it('goes the other way from a purchase', async () => {
    const stage = await stageOf([candidate(31)], { end: 'purchase', lineId: 21, title: 'PO-0004 line 1' });
    expect(stage.read[0]!.name).toBe('findSales');
    expect(stage.previewed.at(-1)!.input).toEqual({ orderLineId: 31, purchaseLineId: 21, quantity: '12' });
  });

  it('says at the quantity what is refused', async () => {
    const stage = await stageOf([candidate(21)], data, () => ({
      refusals: [refusal('above-open', 'quantity', 'Only 12 are open.')],
      effects: null,
    }));
    expect(stage.text('[role="alert"]')).toBe('Only 12 are open.');
  });

  it('says what would be offered where nothing fits, and asks the server nothing', async () => {
    const stage = await stageOf([]);
    expect(stage.text()).toContain('No placed purchase of this item fits');
    expect(stage.previewed).toEqual([]);
    expect(stage.button('Tie them').disabled).toBe(true);
  });
});
