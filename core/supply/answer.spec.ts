import { decideAnswer, decideCancelPurchase, type AnswerGround } from './index';

const WORK_DATE = '2027-03-01';
type Line = AnswerGround['lines'][number];

const tie = (change: Partial<Line['ties'][number]> = {}): Line['ties'][number] => ({
  id: 5,
  quantity: '12',
  received: '0',
  orderLineId: 31,
  order: { id: 1, number: 'SO-1' },
  orderLineNo: 2,
  shipDate: '2027-03-12',
  ...change,
});
const line = (change: Partial<Line> = {}): Line => ({
  id: 21,
  lineNo: 1,
  item: 'RO-4040',
  quantity: '12',
  unitPrice: '620',
  amount: '7440',
  agreedAmount: null,
  received: '0',
  invoiced: '0',
  dueDate: '2027-03-10',
  agreementLineId: null,
  ties: [tie()],
  ...change,
});
const ground = (...lines: Line[]): AnswerGround => ({
  purchase: { id: 1, number: 'PO-1', state: 'placed', currency: 'MYR' },
  lines,
});
const says = (dueDate: string | null, stops = false, purchaseLineId = 21) => ({ purchaseLineId, dueDate, stops });
const effects = (on: AnswerGround, ...lines: ReturnType<typeof says>[]) => {
  const decision = decideAnswer(on, { lines }, WORK_DATE);
  if (!decision.ok) throw new Error(decision.refusals.map(({ code }) => code).join());
  return decision.effects;
};

describe('L4 L6 what a vendor answers', () => {
  it('moves a day, and says whose ship date it passes', () => {
    expect(effects(ground(line()), says('2027-03-12')).touches).toEqual([]);
    expect(effects(ground(line()), says('2027-03-15'))).toMatchObject({
      lines: [{ id: 21, dueDate: '2027-03-15', quantity: '12', amount: '7440', stopped: '0' }],
      ties: [],
      touches: [{ order: 'SO-1', lineNo: 2, what: 'late', quantity: '12', day: '2027-03-15' }],
      state: 'placed',
    });
  });

  it('gives back what will not come: to the bench and to the buying agreement', () => {
    const part = line({
      received: '5',
      agreementLineId: 3,
      ties: [tie({ quantity: '8', received: '5' }), tie({ id: 6, quantity: '4' })],
    });
    expect(effects(ground(part), says(null, true))).toEqual({
      lines: [{ id: 21, dueDate: '2027-03-10', quantity: '5', amount: '3100', agreedAmount: null, stopped: '7' }],
      ties: [
        { id: 5, quantity: '5', orderLineId: 31, by: '-3' },
        { id: 6, quantity: '0', orderLineId: 31, by: '-4' },
      ],
      released: [{ agreementLineId: 3, quantity: '-7', value: '-4340' }],
      touches: [
        { order: 'SO-1', lineNo: 2, what: 'uncovered', quantity: '3', day: '2027-03-12' },
        { order: 'SO-1', lineNo: 2, what: 'uncovered', quantity: '4', day: '2027-03-12' },
      ],
      state: 'placed',
    });
  });

  it('keeps of a mixed price what came at it, and none of it where nothing came', () => {
    const mixed = line({ agreementLineId: 3, amount: '7000', agreedAmount: '3500' });
    const half = effects(ground({ ...mixed, received: '6' }), says(null, true));
    expect(half.lines[0]).toMatchObject({ amount: '3500', agreedAmount: '1750' });
    expect(half.released).toEqual([{ agreementLineId: 3, quantity: '-6', value: '-1750' }]);
    const none = effects(ground(mixed), says(null, true));
    expect(none.lines[0]).toMatchObject({ quantity: '0', amount: '0', agreedAmount: null });
    expect(none.released[0]!.value).toBe('-3500');
  });

  it('closes the purchase where all that came is invoiced, and cancels it where nothing came', () => {
    const rest = line({ received: '5', invoiced: '5' });
    const other = line({ id: 22, lineNo: 2, ties: [] });
    expect(effects(ground(line()), says(null, true)).state).toBe('cancelled');
    expect(effects(ground(rest), says(null, true)).state).toBe('closed');
    expect(effects(ground({ ...rest, invoiced: '4' }), says(null, true)).state).toBe('placed');
    expect(effects(ground(rest, other), says(null, true)).state).toBe('placed');
    expect(effects(ground(rest, other), says(null, true), says(null, true, 22)).state).toBe('closed');
  });

  it.each<[string, AnswerGround, ReturnType<typeof says>, string]>([
    ['a day that has passed', ground(line()), says('2027-02-28'), 'lines.0.dueDate: ship-date-past'],
    ['no day', ground(line()), says(null), 'lines.0.dueDate: required'],
    ['no such day', ground(line()), says('2027-02-30'), 'lines.0.dueDate: not-a-day'],
    ['another purchase’s line', ground(line()), says('2027-03-12', false, 99), 'lines.0.dueDate: unknown'],
    ['the stop of what has come', ground(line({ received: '12' })), says(null, true), 'lines.0.stops: nothing-open'],
    [
      'a closed purchase',
      { ...ground(line()), purchase: { ...ground().purchase, state: 'closed' } },
      says('2027-03-12'),
      ': purchase-not-open',
    ],
  ])('refuses %s', (_what, on, answer, refusal) => {
    const decision = decideAnswer(on, { lines: [answer] }, WORK_DATE);
    expect(decision.ok ? [] : decision.refusals.map(({ field, code }) => `${field}: ${code}`)).toEqual([refusal]);
  });

  it('lets a line that is late already stay so', () => {
    expect(effects(ground(line({ dueDate: '2027-02-20' })), says('2027-02-20')).lines[0]!.dueDate).toBe('2027-02-20');
  });
});

describe('S6 cancelling a purchase order', () => {
  const cancel = (on: AnswerGround, reason = 'Not wanted') => decideCancelPurchase(on, { reason }, WORK_DATE);
  const codes = (decision: ReturnType<typeof cancel>) => (decision.ok ? [] : decision.refusals.map(({ code }) => code));

  it('stops all that is still to come, and none of what came', () => {
    const decision = cancel(
      ground(
        line({ received: '5', ties: [tie({ received: '5' })] }),
        line({ id: 22, received: '12' }),
        line({ id: 23, dueDate: '2027-02-01', ties: [] }),
      ),
    );
    if (!decision.ok) throw new Error('refused');
    expect(decision.effects.lines.map(({ id, quantity, stopped }) => [id, quantity, stopped])).toEqual([
      [21, '5', '7'],
      [23, '0', '12'],
    ]);
    expect(decision.effects.ties).toMatchObject([{ id: 5, quantity: '5', by: '-7' }]);
    expect(decision.effects.state).toBe('placed');
    const none = cancel(ground(line()));
    expect(none.ok && none.effects.state).toBe('cancelled');
  });

  it('asks why, telling what it would do all the same, and refuses where nothing is to come', () => {
    const asked = cancel(ground(line()), ' ');
    expect(codes(asked)).toEqual(['required']);
    expect(!asked.ok && asked.effects?.state).toBe('cancelled');
    expect(codes(cancel(ground(line({ received: '12' }))))).toEqual(['nothing-open']);
    const closed = {
      ...ground(line({ received: '12' })),
      purchase: { ...ground().purchase, state: 'closed' as const },
    };
    expect(codes(cancel(closed, ''))).toEqual(['required', 'purchase-not-open', 'nothing-open']);
  });
});
