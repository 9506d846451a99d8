import { decideTakenBefore, type TakenBeforeGround, type TakenBeforeTyped } from '..';

type Line = TakenBeforeTyped['lines'][number];
type Known = TakenBeforeGround['lines'][number];
const AGREEMENT: NonNullable<Known['agreement']> = { id: 3, number: 'AG-0003', state: 'in-force', currency: 'MYR' };
const LINE: NonNullable<Known['line']> = { id: 9, unitPrice: '12.345', taken: { quantity: '0', value: '0' } };
const ground = (...lines: Partial<Known>[]): TakenBeforeGround => ({
  lines: (lines.length > 0 ? lines : [{}]).map((each) => ({ agreement: AGREEMENT, line: LINE, ...each })),
});
const told = (change: Partial<Line> = {}): Line => ({
  agreement: 'AG-0003',
  item: 'CL-10',
  quantity: '3',
  value: '',
  ...change,
});
const refused = (at: TakenBeforeGround, ...lines: Line[]) => {
  const decision = decideTakenBefore(at, { lines });
  return decision.ok ? [] : decision.refusals.map(({ field, code }) => `${field}: ${code}`);
};
const effects = (at: TakenBeforeGround, ...lines: Line[]) => {
  const decision = decideTakenBefore(at, { lines });
  if (!decision.ok) throw new Error(JSON.stringify(decision.refusals));
  return decision.effects;
};

describe('U3 what was taken of an agreement before', () => {
  it('comes to its price, rounded as the currency is, or to what is told', () => {
    expect(effects(ground(), told()).lines).toEqual([
      { index: 0, agreementId: 3, lineId: 9, quantity: '3', value: '37.04', more: { quantity: '3', value: '37.04' } },
    ]);
    expect(effects(ground(), told({ value: '1,036.5' })).lines[0]).toMatchObject({ value: '1036.5' });
    expect(effects(ground({ agreement: { ...AGREEMENT, state: 'paused' } }), told()).same).toBe(0);
  });

  it('is told as a whole: again it changes nothing, otherwise by the difference', () => {
    const taken = { line: { ...LINE, taken: { quantity: '3', value: '37.04' } } };
    expect(effects(ground(taken), told())).toEqual({ lines: [], same: 1 });
    expect(effects(ground(taken), told({ quantity: '1' })).lines[0]).toMatchObject({
      more: { quantity: '-2', value: '-24.69' },
    });
    expect(effects(ground(taken), told({ value: '40' })).lines[0]).toMatchObject({
      more: { quantity: '0', value: '2.96' },
    });
    expect(effects(ground(taken), told({ quantity: '0' })).lines[0]).toMatchObject({
      quantity: '0',
      value: '0',
      more: { quantity: '-3', value: '-37.04' },
    });
  });

  it.each<[string, Partial<Line>, Partial<Known>]>([
    ['agreement: unknown', {}, { agreement: null, line: null }],
    ['agreement: agreement-not-in-force', {}, { agreement: { ...AGREEMENT, state: 'draft' } }],
    ['agreement: agreement-not-in-force', {}, { agreement: { ...AGREEMENT, state: 'ended' } }],
    ['item: line-not-of-agreement', {}, { line: null }],
    ['item: line-not-of-agreement', { item: '' }, { line: null }],
    ['quantity: required', { quantity: '' }, {}],
    ['quantity: not-a-number', { quantity: 'all' }, {}],
    ['quantity: below-zero', { quantity: '-1' }, {}],
    ['value: required', {}, { line: { ...LINE, unitPrice: null } }],
    ['value: not-a-number', { value: '3.005' }, {}],
    ['value: not-a-number', { value: 'dear' }, {}],
    ['value: below-zero', { value: '-3' }, {}],
  ])('%s', (refusal, change, known) => expect(refused(ground(known), told(change))).toEqual([`lines.0.${refusal}`]));

  it('names a line told twice, and asks for one', () => {
    expect(refused(ground({}, {}), told(), told())).toEqual(['lines.1.item: named-again']);
    expect(refused(ground({}, { line: { ...LINE, id: 10 } }), told(), told({ item: 'CL-20' }))).toEqual([]);
    expect(refused(ground())).toEqual(['lines: no-lines']);
  });
});
