import { decideHold, decideLetGo, type HoldLine } from './hold';

const LINE: HoldLine = {
  id: 7,
  lineNo: 10,
  item: 'FV-900',
  open: '6',
  sister: { id: 2, name: 'Muara', holdDays: 5, workDate: '2027-02-28', knowsUs: true },
  theirs: { itemId: 70, factor: '2' },
  first: '2027-03-10',
  heldUntil: null,
};
const ORDER = { number: 'SO-1', state: 'draft' };
const decide = (change: Partial<HoldLine> = {}, lineIds = [7], order = ORDER) =>
  decideHold({ order, lines: [{ ...LINE, ...change }] }, { lineIds });
const refused = (...of: Parameters<typeof decide>) => {
  const decision = decide(...of);
  return decision.ok ? [] : decision.refusals.map(({ code, field, facts }) => [`${field}: ${code}`, facts]);
};

describe('what a sister holds for a line', () => {
  it('is of her item and in her unit, from when she could ship it, for days of hers', () => {
    expect(decide()).toMatchObject({
      ok: true,
      effects: {
        held: [{ sisterId: 2, lineId: 7, itemId: 70, quantity: '3', day: '2027-03-10', until: '2027-03-05' }],
      },
    });
    expect(decide({}, [7], { ...ORDER, state: 'confirmed' })).toMatchObject({ ok: true });
    expect(decide({ open: '1', theirs: { itemId: 70, factor: '3' } })).toMatchObject({
      effects: { held: [{ quantity: '0.33333' }] },
    });
  });

  const facts = { line: '10', item: 'FV-900', sister: 'Muara' };
  it.each<[string, Partial<HoldLine>, unknown]>([
    ['bought of nobody here', { sister: null }, ['lineIds.0: not-of-sister', { line: '10', item: 'FV-900' }]],
    ['bought wholly', { open: '0' }, ['lineIds.0: not-of-sister', { line: '10', item: 'FV-900' }]],
    ['held', { heldUntil: '2027-03-02' }, ['lineIds.0: held-already', { ...facts, until: '2027-03-02' }]],
    ['of one who holds nothing', { sister: { ...LINE.sister!, holdDays: 0 } }, ['lineIds.0: holds-nothing', facts]],
    [
      'of one who does not know us',
      { sister: { ...LINE.sister!, knowsUs: false } },
      ['lineIds.0: unknown-to-sister', facts],
    ],
    ['of an item not paired', { theirs: null }, ['lineIds.0: item-unpaired', { item: 'FV-900', sister: 'Muara' }]],
    ['she cannot say when', { first: null }, ['lineIds.0: sister-cannot-say', facts]],
  ])('is refused for a line %s', (_what, change, said) => expect(refused(change)).toEqual([said]));

  it('is refused for no line, one that is not there, and an order that is over', () => {
    expect(refused({}, [])).toEqual([['lineIds: nothing-asked', { what: 'a line' }]]);
    expect(refused({}, [7, 8])).toEqual([['lineIds.1: unknown', { what: 'This line' }]]);
    for (const state of ['closed', 'cancelled'])
      expect(refused({}, [7], { ...ORDER, state })).toEqual([[': order-not-open', { order: 'SO-1', state }]]);
  });
});

describe('what is let go', () => {
  const hold = { state: 'held', number: 'SO-9', untilDay: '2027-03-05' };
  it('lapses once its day is over, and is let go once', () => {
    expect(decideLetGo(hold, '2027-03-05')).toMatchObject({ ok: true, effects: { state: 'let-go' } });
    expect(decideLetGo(hold, '2027-03-06')).toMatchObject({ ok: true, effects: { state: 'lapsed' } });
    for (const state of ['used', 'lapsed', 'let-go'])
      expect(decideLetGo({ ...hold, state }, '2027-03-05')).toEqual({
        ok: false,
        refusals: [{ code: 'hold-over', field: '', facts: { order: 'SO-9' } }],
      });
  });
});
