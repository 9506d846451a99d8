import {
  decideCancelAgreement,
  decidePause,
  decideWrapUp,
  NO_REBATE,
  type WrapUpGround,
  type WrapUpTyped,
} from '../index';
import { exchangeAt } from '../../kernel/testing';

const ground: WrapUpGround = {
  agreement: {
    number: 'AG-0001',
    state: 'in-force',
    side: 'selling',
    basis: 'quantity',
    vendorId: null,
    salesOrganisationId: null,
    rebate: NO_REBATE,
    reminders: [],
    releaseAhead: '',
    customerId: 1,
    currency: 'MYR',
    title: 'Membranes',
    firstDay: '2026-03-01',
    lastDay: '2027-02-28',
    signedOn: '2026-02-20',
    limitPolicy: 'refuse',
    tolerancePercent: '0',
    wholeLimit: '',
    probabilityPercent: '100',
    restPlan: 'spread' as const,
    priority: 5,
    notes: '',
  },
  lines: ['60', '10'].map((released, index) => ({
    id: index + 1,
    itemId: 10 + index,
    groupId: null,
    item: `RO-${index}`,
    committed: index === 0 ? '100' : '10',
    released,
    listPrice: '815',
    priceKind: 'fixed',
    priceValue: '740',
    breaks: [],
    leastRelease: '0',
    releaseMultiple: '0',
    notes: '',
    taxCodeId: 1,
    taxRate: '6',
  })),
  prepayments: [],
  exchange: exchangeAt(),
};
const decide = (typed: Partial<WrapUpTyped>, on = ground, workDate = '2027-03-01') =>
  decideWrapUp(on, { decision: 'end', lastDay: null, carry: false, ...typed }, workDate);
const codes = (decision: ReturnType<typeof decide>) =>
  decision.ok ? [] : decision.refusals.map((refusal) => `${refusal.field}: ${refusal.code}`);
const withState = (state: WrapUpGround['agreement']['state']) => ({
  ...ground,
  agreement: { ...ground.agreement, state },
});

describe('A11 wrap-up', () => {
  it('does not end with a remainder nobody decided about, and names it', () => {
    const decision = decide({});
    expect(codes(decision)).toEqual(['decision: remainder-undecided']);
    expect(!decision.ok && decision.refusals[0]!.facts).toMatchObject({ what: '40 of RO-0' });
    const taken = { ...ground, lines: [ground.lines[1]!] };
    expect(codes(decide({}, taken))).toEqual([]);
  });

  it('waives what is left', () => {
    const decision = decide({ decision: 'waive' });
    expect(decision.ok && decision.effects).toMatchObject({
      state: 'ended',
      left: [{ agreementLineId: 1, quantity: '40' }],
      renewal: null,
    });
  });

  it.each([
    [null, 'lastDay: required'],
    ['2027-02-30', 'lastDay: not-a-day'],
    ['2027-02-28', 'lastDay: not-extended'],
    ['2027-02-27', 'lastDay: not-extended'],
  ])('does not extend to %s', (lastDay, code) =>
    expect(codes(decide({ decision: 'extend', lastDay }))).toEqual([code]),
  );

  it('extends, and stays in force or paused', () => {
    for (const state of ['in-force', 'paused'] as const) {
      const decision = decide({ decision: 'extend', lastDay: '2027-06-30' }, withState(state));
      expect(decision.ok && decision.effects).toMatchObject({ state, lastDay: '2027-06-30' });
    }
  });

  it.each([
    [false, '100', '74000'],
    [true, '140', '103600'],
  ])('renews for a term as long; carried over: %s', (carry, committed, value) => {
    const decision = decide({ decision: 'renew', carry });
    expect(decision.ok && decision.effects.renewal).toMatchObject({
      firstDay: '2027-03-02',
      lastDay: '2028-02-29',
      signedOn: null,
      lines: [{ itemId: 10, committed, value }, { committed: '10' }],
    });
  });

  it('begins the renewal after the last day where that is still to come', () => {
    const decision = decide({ decision: 'renew' }, ground, '2027-01-15');
    expect(decision.ok && decision.effects.renewal!.firstDay).toBe('2027-03-01');
  });

  it.each(['draft', 'ended', 'cancelled'] as const)('is not for an agreement that is %s', (state) => {
    expect(codes(decide({ decision: 'waive' }, withState(state)))).toEqual([': agreement-not-so']);
  });
});

describe('pausing and cancelling', () => {
  it('A2 pauses what is in force, lets go on what is paused, and nothing else', () => {
    const pause = (state: WrapUpGround['agreement']['state'], on: boolean) => {
      const decision = decidePause({ number: 'AG-0001', state }, on);
      return decision.ok ? decision.effects.state : decision.refusals[0]!.code;
    };
    expect([pause('in-force', true), pause('paused', false)]).toEqual(['paused', 'in-force']);
    expect([pause('paused', true), pause('draft', true), pause('ended', false)]).toEqual(
      Array(3).fill('agreement-not-so'),
    );
  });

  it('cancels a draft only', () => {
    expect(decideCancelAgreement({ number: 'AG-0001', state: 'draft' }).ok).toBe(true);
    expect(decideCancelAgreement({ number: 'AG-0001', state: 'in-force' }).ok).toBe(false);
  });
});
