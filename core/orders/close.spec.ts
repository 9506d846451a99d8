import fc from 'fast-check';
import { dec } from '@core/kernel';
import { decideClose, type CloseGround } from './index';

type Line = CloseGround['lines'][number];

const line = (id: number, change: Partial<Line> = {}): Line => ({
  id,
  lineNo: id,
  quantity: '12',
  unitPrice: '740',
  amount: '8880',
  agreedAmount: null,
  cancelled: '0',
  shipped: '0',
  invoiced: '0',
  agreementLineId: 3,
  onTheWay: '0',
  purchases: '',
  ...change,
});

const ground = (lines: Line[], state: CloseGround['order']['state'] = 'confirmed'): CloseGround => ({
  order: { number: 'SO-0001', state, currency: 'MYR' },
  lines,
});

const effects = (on: CloseGround, ids: number[]) => {
  const decision = decideClose(on, ids, ' not wanted ');
  if (!decision.ok) throw new Error(decision.refusals.map((refusal) => refusal.code).join());
  return decision.effects;
};
const codes = (on: CloseGround, ids: number[]) => {
  const decision = decideClose(on, ids, ' not wanted ');
  return decision.ok ? [] : decision.refusals.map((refusal) => refusal.code);
};

describe('S6 closing short', () => {
  it('gives up what was not shipped, and gives it back to the agreement', () => {
    const done = effects(ground([line(1, { shipped: '5', invoiced: '5' })]), [1]);
    expect(done.lines).toEqual([
      {
        id: 1,
        cancelled: '7',
        amount: '3700',
        agreedAmount: null,
        given: { quantity: '7', amount: '8880', agreedAmount: null },
      },
    ]);
    expect(done).toMatchObject({
      reason: 'not wanted',
      fields: [{ what: 'given up of line 1', was: '0', is: '7' }],
    });
    expect(done.released).toEqual([{ agreementLineId: 3, quantity: '-7', value: '-5180' }]);
    expect(done.state).toBe('closed');
  });

  it('stays confirmed while something shipped is not invoiced, or another line is open', () => {
    expect(effects(ground([line(1, { shipped: '5', invoiced: '3' })]), [1]).state).toBe('confirmed');
    expect(effects(ground([line(1, { shipped: '5', invoiced: '5' }), line(2)]), [1]).state).toBe('confirmed');
  });

  it('cancels an order of which nothing went out', () => {
    expect(effects(ground([line(1), line(2, { agreementLineId: null })]), [1, 2])).toMatchObject({
      state: 'cancelled',
      released: [{ agreementLineId: 3, quantity: '-12', value: '-8880' }],
    });
  });

  it('asks why, and tells what it would do before that is said', () => {
    const decision = decideClose(ground([line(1)]), [1], '  ');
    expect(decision).toMatchObject({ ok: false, refusals: [{ code: 'required', field: 'reason' }] });
    expect(!decision.ok && decision.effects?.lines).toMatchObject([{ cancelled: '12' }]);
    expect(decideClose(ground([line(1, { shipped: '12' })]), [1], '')).not.toHaveProperty('effects');
  });

  it('refuses drafts, lines with nothing open, and goods on their way', () => {
    expect(codes(ground([line(1)], 'draft'), [1])).toEqual(['order-not-confirmed']);
    expect(codes(ground([line(1, { shipped: '12' })]), [1])).toEqual(['nothing-to-close']);
    expect(codes(ground([line(1, { onTheWay: '2', purchases: 'PO-0003' })]), [1])).toEqual(['purchase-on-its-way']);
  });

  it('at a mixed price keeps and gives back to the cent', () => {
    const cents = fc.integer({ min: 1, max: 9_999_999 });
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 500 }),
        fc.integer({ min: 0, max: 500 }),
        cents,
        cents,
        (ordered, sent, a, b) => {
          fc.pre(sent < ordered);
          const amount = dec(Math.max(a, b)).div(100).toFixed();
          const agreedAmount = dec(Math.min(a, b)).div(100).toFixed();
          const quantity = String(ordered);
          const one = line(1, { quantity, amount, agreedAmount, unitPrice: '1', shipped: String(sent) });
          const { lines, released } = effects(ground([one]), [1]);
          expect(dec(lines[0]!.agreedAmount!).minus(released[0]!.value).toFixed()).toBe(dec(agreedAmount).toFixed());
          expect(dec(released[0]!.quantity).toFixed()).toBe(String(sent - ordered));
        },
      ),
      { seed: 1, numRuns: 200 },
    );
  });
});
