import fc from 'fast-check';
import { dec, sum } from '@core/kernel';
import { decideRelease, type ReleaseAsked, type ReleaseGround } from './index';

const WORK_DATE = '2027-03-01';

const line = (id: number, committed: string, released: string) => ({
  id,
  lineNo: id,
  committed,
  released,
  unitPrice: '740',
  item: {
    id: 100 + id,
    number: `RO-${id}`,
    unit: 'piece',
    route: 'drop' as const,
    listPrice: '815',
    taxCodeId: 1,
    taxRate: '6',
  },
});

function ground(change: Partial<ReleaseGround['agreement']> = {}): ReleaseGround {
  return {
    agreement: {
      id: 1,
      number: 'AG-0001',
      state: 'in-force',
      firstDay: '2027-01-01',
      lastDay: '2027-12-31',
      limitPolicy: 'refuse',
      tolerancePercent: '0',
      currency: 'MYR',
      ...change,
    },
    customer: { id: 7, name: 'Teratai Bay Resort', referenceRequired: true },
    shipToIds: [3],
    lines: [line(1, '100', '60'), line(2, '10', '10')],
  };
}

const asked = (...lines: ReleaseAsked['lines']): ReleaseAsked => ({ shipToId: 3, customerReference: 'R-1', lines });
const ask = (agreementLineId: number, quantity: string, shipDate: string | null = '2027-03-10') => ({
  agreementLineId,
  quantity,
  shipDate,
});

function codes(on: ReleaseGround, given: ReleaseAsked, workDate = WORK_DATE): string[] {
  const decision = decideRelease(on, given, workDate);
  return decision.ok ? [] : decision.refusals.map((refusal) => `${refusal.field}: ${refusal.code}`);
}

describe('release', () => {
  it('A6 makes one order that keeps the agreed price', () => {
    const decision = decideRelease(ground(), asked(ask(1, '12')), WORK_DATE);
    if (!decision.ok) throw new Error('refused');
    expect(decision.effects.order).toMatchObject({ agreementId: 1, shipToId: 3, orderDate: WORK_DATE });
    expect(decision.effects.lines).toMatchObject([
      { quantity: '12', unitPrice: '740', listPrice: '815', amount: '8880', route: 'drop' },
    ]);
    expect(decision.effects.released).toEqual([{ agreementLineId: 1, quantity: '12', value: '8880' }]);
  });

  it('A6 takes several dates of one line in one act, held together against the limit', () => {
    expect(codes(ground(), asked(ask(1, '20'), ask(1, '20', '2027-04-10')))).toEqual([]);
    expect(codes(ground(), asked(ask(1, '20'), ask(1, '21', '2027-04-10')))).toEqual(['lines.1.quantity: above-limit']);
  });

  it.each([
    ['draft', '2027-03-01', ': agreement-not-in-force'],
    ['paused', '2027-03-01', ': agreement-not-in-force'],
    ['ended', '2027-03-01', ': agreement-not-in-force'],
    ['in-force', '2026-12-31', ': outside-period'],
    ['in-force', '2028-01-01', ': outside-period'],
  ] as const)('A2 refuses while %s on %s', (state, workDate, expected) => {
    expect(codes(ground({ state }), asked(ask(1, '1', '2028-06-01')), workDate)).toEqual([expected]);
  });

  it('A5 the tolerance widens the limit', () => {
    expect(codes(ground({ tolerancePercent: '10' }), asked(ask(1, '50')))).toEqual([]);
    expect(codes(ground({ tolerancePercent: '10' }), asked(ask(1, '50.00001')))).toEqual([
      'lines.0.quantity: above-limit',
    ]);
  });

  it('A5 under warn it passes with a word', () => {
    const decision = decideRelease(ground({ limitPolicy: 'warn' }), asked(ask(2, '1')), WORK_DATE);
    expect(decision.ok && decision.warnings.map((warning) => warning.code)).toEqual(['above-limit']);
  });

  it('says every fault at its field at once', () => {
    const given = {
      shipToId: null,
      customerReference: ' ',
      lines: [ask(1, 'x'), ask(1, '1', null), ask(2, '-1'), ask(9, '1')],
    };
    expect(codes(ground(), given)).toEqual([
      'shipToId: required',
      'customerReference: reference-required',
      'lines.0.quantity: not-a-number',
      'lines.1.shipDate: required',
      'lines.2.quantity: not-above-zero',
      'lines.3.agreementLineId: unknown',
    ]);
  });

  it('refuses a ship date before the work date, and nothing asked at all', () => {
    expect(codes(ground(), asked(ask(1, '1', '2027-02-28')))).toEqual(['lines.0.shipDate: ship-date-past']);
    expect(codes(ground(), asked(ask(1, '')))).toEqual(['lines: nothing-asked']);
  });

  it('A5 never lets more pass than is left, whatever is asked', () => {
    const quantities = fc.array(fc.integer({ min: 1, max: 60 }), { minLength: 1, maxLength: 6 });
    fc.assert(
      fc.property(quantities, (wanted) => {
        const decision = decideRelease(ground(), asked(...wanted.map((each) => ask(1, String(each)))), WORK_DATE);
        const total = sum(wanted.map((each) => dec(each)));
        expect(decision.ok).toBe(total.lte(40));
        if (decision.ok) expect(decision.effects.released[0]!.quantity).toBe(total.toFixed());
      }),
      { seed: 5 },
    );
  });
});
