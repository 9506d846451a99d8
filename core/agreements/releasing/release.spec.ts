import fc from 'fast-check';
import { dec, least, lineAmount, most, sum, ZERO } from '@core/kernel';
import { sentenceOf } from '@core/refusals';
import { decideRelease, releasePreview, type ReleaseAsked, type ReleaseGround } from '../index';

const WORK_DATE = '2027-03-01';

const line = (id: number, committed: string, released: string) => ({
  id,
  lineNo: id,
  itemId: 100 + id,
  groupId: null,
  committed,
  committedValue: '0',
  released,
  releasedValue: '0',
  priceKind: 'fixed' as const,
  priceValue: '740',
  breaks: [],
  leastRelease: '0',
  releaseMultiple: '0',
  item: {
    id: 100 + id,
    number: `RO-${id}`,
    unit: 'piece',
    groupId: null,
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
      side: 'selling',
      basis: 'quantity',
      priority: 5,
      state: 'in-force',
      firstDay: '2027-01-01',
      lastDay: '2027-12-31',
      limitPolicy: 'refuse',
      tolerancePercent: '0',
      currency: 'MYR',
      ...change,
    },
    party: { id: 7, name: 'Teratai Bay Resort', referenceRequired: true },
    shipToIds: [3],
    lines: [line(1, '100', '60'), line(2, '10', '10')],
    items: new Map(),
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
  it('A5 holds the limit on the whole over all lines together, and warns where the agreement warns', () => {
    const whole = (limit: string) => ({ limit, unit: '', released: '0', factors: new Map([[1, '1']]) });
    const both = asked(ask(1, '2'), ask(1, '3'));
    expect(codes(ground({ whole: whole('3700') }), both)).toEqual([]);
    expect(codes(ground({ whole: whole('3699.99') }), both)).toEqual(['lines: above-whole']);
    const warned = decideRelease(ground({ whole: whole('3699'), limitPolicy: 'warn' }), both, WORK_DATE);
    expect(warned.ok && warned.warnings.map(({ code }) => code)).toEqual(['above-whole']);
    const leftOf = (on: ReleaseGround) => {
      const decision = decideRelease(on, both, WORK_DATE);
      return decision.effects && releasePreview(decision.effects, on).whole;
    };
    expect(leftOf(ground())).toBeNull();
    expect(leftOf(ground({ whole: whole('5000') }))).toEqual({ left: '1300', unit: '' });
    expect(leftOf(ground({ whole: whole('3699'), limitPolicy: 'warn' }))).toEqual({ left: '-1', unit: '' });
    const pieces = { limit: '10', unit: 'box', released: '2', factors: new Map([[1, '0.5']]) };
    expect(leftOf(ground({ whole: pieces }))).toEqual({ left: '5.5', unit: 'box' });
  });

  it('A3 takes a discount off what would apply without the agreement, of all that is asked of an item', () => {
    const discount = { ...line(1, '100', '0'), priceKind: 'discount' as const, priceValue: '10' };
    const on: ReleaseGround = {
      ...ground(),
      lines: [discount],
      priceWithout: (item, quantity, shipDate) =>
        quantity.gte(20) ? '70' : shipDate > '2027-03-15' ? '90' : item.id === 101 ? '80' : '0',
    };
    const prices = (...lines: ReleaseAsked['lines']) => {
      const decision = decideRelease(on, asked(...lines), WORK_DATE);
      if (!decision.ok) throw new Error(JSON.stringify(decision.refusals));
      const { lines: made, asked: shown } = decision.effects;
      return [made.map((each) => [each.unitPrice, each.listPrice]), shown.map((each) => each.unitPrice)];
    };
    expect(prices(ask(1, '5'))).toEqual([[['72', '80']], ['72']]);
    expect(prices(ask(1, '5', '2027-03-20'))).toEqual([[['81', '90']], ['81']]);
    expect(prices(ask(1, '12'), ask(1, '8'))).toEqual([
      [
        ['63', '70'],
        ['63', '70'],
      ],
      ['63', '63'],
    ]);
  });

  it('A5 R2 prices the rest of a split line as it would be without the agreement, going to that address', () => {
    const on: ReleaseGround = {
      ...ground(),
      agreement: { ...ground().agreement, limitPolicy: 'split' },
      lines: [line(1, '10', '0')],
      restWithout: (item, ofItem, shipDate, shipToId) => (quantity) => ({
        unitPrice: quantity.times(item.id).plus(ofItem),
        amount: quantity.times(shipToId!).plus(shipDate === '2027-03-20' ? 1 : 0),
      }),
    };
    const decision = decideRelease(on, asked(ask(1, '14', '2027-03-20')), WORK_DATE);
    if (!decision.ok) throw new Error(JSON.stringify(decision.refusals));
    expect(
      decision.effects.lines.map((each) => [each.quantity, each.unitPrice, each.amount, each.agreementLineId]),
    ).toEqual([
      ['10', '740', '7400', 1],
      ['4', '418', '13', null],
    ]);
  });

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

  it('A5 under keep it passes at the agreed price without a word', () => {
    const decision = decideRelease(ground({ limitPolicy: 'keep' }), asked(ask(1, '41')), WORK_DATE);
    if (!decision.ok) throw new Error('refused');
    expect(decision.warnings).toEqual([]);
    expect(decision.effects.lines).toMatchObject([{ quantity: '41', unitPrice: '740', agreementLineId: 1 }]);
  });

  it('A5 under split what fits goes at the agreed price, the rest on lines of its own at the price without it', () => {
    const decision = decideRelease(
      ground({ limitPolicy: 'split' }),
      asked(ask(1, '30'), ask(1, '15', '2027-04-01'), ask(1, '3', '2027-05-01')),
      WORK_DATE,
    );
    if (!decision.ok) throw new Error('refused');
    expect(decision.effects.lines.map((each) => [each.quantity, each.unitPrice, each.agreementLineId])).toEqual([
      ['30', '740', 1],
      ['10', '740', 1],
      ['5', '815', null],
      ['3', '815', null],
    ]);
    expect(decision.effects.released).toEqual([{ agreementLineId: 1, quantity: '40', value: '29600' }]);
    expect(sentenceOf(decision.warnings[0]!)).toBe(
      '40 of RO-1 go at 740.00 from AG-0001; the other 8 at 815.00, on a line of their own.',
    );
  });

  it('A5 split neither loses nor makes a unit or a cent, whatever is asked of whatever is left', () => {
    const hundredths = (most: number) => fc.integer({ min: 1, max: most }).map((n) => (n / 100).toFixed(2));
    fc.assert(
      fc.property(
        fc.array(hundredths(5000), { minLength: 1, maxLength: 5 }),
        hundredths(12_000),
        hundredths(90_000),
        hundredths(90_000),
        (wanted, released, priceValue, listPrice) => {
          const base = line(1, '100', released);
          const on = {
            ...ground({ limitPolicy: 'split' }),
            lines: [{ ...base, priceValue, item: { ...base.item, listPrice } }],
          };
          const decision = decideRelease(on, asked(...wanted.map((each) => ask(1, each))), WORK_DATE);
          if (!decision.ok) throw new Error('refused');
          const { lines } = decision.effects;
          const total = sum(wanted.map((each) => dec(each)));
          const agreed = lines.filter((each) => each.agreementLineId === 1);
          const left = most(ZERO, dec(100).minus(released));
          expect(sum(lines.map((each) => dec(each.quantity))).eq(total)).toBe(true);
          expect(sum(agreed.map((each) => dec(each.quantity))).eq(least(total, left))).toBe(true);
          for (const each of lines) {
            const price = each.agreementLineId === 1 ? priceValue : listPrice;
            expect(each.amount).toBe(lineAmount(dec(each.quantity), dec(price), 'MYR').toFixed());
          }
        },
      ),
      { seed: 11 },
    );
  });

  it('A3 a price break is reached by all that one release asks of the line', () => {
    const breaks = [
      { from: '20', value: '720' },
      { from: '30', value: '700.5' },
    ];
    const on = { ...ground(), lines: [{ ...line(1, '100', '0'), breaks }] };
    const prices = (...quantities: string[]) => {
      const decision = decideRelease(on, asked(...quantities.map((each) => ask(1, each))), WORK_DATE);
      return decision.ok && decision.effects.lines.map((each) => each.unitPrice);
    };
    expect(prices('19.99999')).toEqual(['740']);
    expect(prices('20')).toEqual(['720']);
    expect(prices('15', '15')).toEqual(['700.5', '700.5']);
  });

  it.each([
    ['discount', '8', '749.8'],
    ['discount', '0.01', '814.9185'],
    ['none', '', '815'],
  ] as const)('A3 a line with %s %s sells at %s', (priceKind, priceValue, unitPrice) => {
    const on = { ...ground(), lines: [{ ...line(1, '100', '0'), priceKind, priceValue }] };
    const decision = decideRelease(on, asked(ask(1, '1')), WORK_DATE);
    expect(decision.ok && decision.effects.lines[0]!.unitPrice).toBe(unitPrice);
  });

  it('A6 keeps to the least release and the multiple, but lets the remainder go', () => {
    const on = (released: string) => ({
      ...ground(),
      lines: [{ ...line(1, '105', released), leastRelease: '20', releaseMultiple: '5' }],
    });
    expect(codes(on('0'), asked(ask(1, '20')))).toEqual([]);
    expect(codes(on('0'), asked(ask(1, '10'), ask(1, '10')))).toEqual([]);
    expect(codes(on('0'), asked(ask(1, '15')))).toEqual(['lines.0.quantity: below-least']);
    expect(codes(on('0'), asked(ask(1, '22')))).toEqual(['lines.0.quantity: not-a-multiple']);
    expect(codes(on('90'), asked(ask(1, '15')))).toEqual([]);
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
