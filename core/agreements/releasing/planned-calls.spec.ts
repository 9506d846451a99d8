import fc from 'fast-check';
import { addDays, dec, sum } from '@core/kernel';
import { decidePlannedCalls, plannedUpTo, type PlannedGround } from '../index';

const WORK_DATE = '2027-03-01';

const line = (id: number) => ({
  id,
  lineNo: id,
  itemId: 100 + id,
  groupId: null,
  committed: '1000',
  committedValue: '0',
  released: '0',
  releasedValue: '0',
  priceKind: 'fixed' as const,
  priceValue: '18',
  breaks: [],
  leastRelease: '0',
  releaseMultiple: '0',
  item: {
    id: 100 + id,
    number: `SALT-${id}`,
    unit: 'bag',
    groupId: null,
    route: 'stock' as const,
    listPrice: '20',
    taxCodeId: 1,
    taxRate: '6',
  },
});

const call = (
  agreementLineId: number,
  day: string,
  quantity: string,
  change: { made?: boolean; skipped?: boolean } = {},
) => ({
  agreementLineId,
  day,
  quantity,
  skipped: change.skipped ?? false,
  made: change.made ?? false,
});

function ground(calls: PlannedGround['calls'], released: PlannedGround['released'] = []): PlannedGround {
  return {
    agreement: {
      id: 1,
      number: 'AG-0007',
      side: 'selling',
      basis: 'quantity',
      priority: 5,
      state: 'in-force',
      firstDay: '2027-01-01',
      lastDay: '2027-12-31',
      limitPolicy: 'refuse',
      tolerancePercent: '0',
      currency: 'MYR',
    },
    party: { id: 7, name: 'Rumah Hijau Growers', referenceRequired: false },
    shipToIds: [3],
    lines: [line(1), line(2)],
    items: new Map(),
    calls,
    released,
    shipToId: 3,
    customerReference: 'Plan',
  };
}

const made = (on: PlannedGround, upTo: string, workDate = WORK_DATE) => {
  const decision = decidePlannedCalls(on, upTo, workDate);
  return decision.ok
    ? decision.effects.release.lines.map(({ quantity, shipDate }) => `${quantity} ${shipDate}`)
    : decision.refusals.map(({ code }) => code);
};

describe('A7 planned calls made into releases', () => {
  it('takes those up to the day, the skipped and the made left out, the late ones on the work date', () => {
    const on = ground([
      call(1, '2027-02-20', '40'),
      call(1, '2027-03-05', '40', { skipped: true }),
      call(1, '2027-03-10', '40', { made: true }),
      call(2, '2027-03-12', '25'),
      call(2, '2027-04-01', '25'),
    ]);
    expect(made(on, '2027-03-15')).toEqual(['40 2027-03-01', '25 2027-03-12']);
    expect(made(ground([call(1, '2027-04-01', '40')]), '2027-03-15')).toEqual(['nothing-planned']);
  });

  it('leaves out what releases have used up of a call', () => {
    const on = ground([call(1, '2027-03-10', '40')], [{ agreementLineId: 1, day: '2027-03-09', quantity: '15' }]);
    expect(made(on, '2027-03-31')).toEqual(['25 2027-03-10']);
  });

  it('stands against no field where the release is refused, as nobody typed it', () => {
    const decision = decidePlannedCalls(ground([call(1, '2027-03-10', '1001')]), '2027-03-31', WORK_DATE);
    expect(decision.ok ? [] : decision.refusals.map(({ code, field }) => [code, field])).toEqual([['above-limit', '']]);
  });

  it('a job looks so many days ahead', () => {
    expect(plannedUpTo('10', WORK_DATE)).toBe('2027-03-11');
  });

  it('walked day by day with releases by hand in between, plan and releases never count twice', () => {
    const calls = fc.array(
      fc.record({ day: fc.integer({ min: 0, max: 60 }), quantity: fc.integer({ min: 1, max: 50 }) }),
      {
        minLength: 1,
        maxLength: 8,
      },
    );
    const byHand = fc.array(fc.integer({ min: 0, max: 60 }), { maxLength: 4 });
    fc.assert(
      fc.property(calls, byHand, (planned, hand) => {
        const days = [...new Map(planned.map((each) => [each.day, each])).values()].sort((a, b) => a.day - b.day);
        const rows = days.map((each) => ({ ...call(1, addDays(WORK_DATE, each.day), String(each.quantity)) }));
        const released: { agreementLineId: number; day: string; quantity: string }[] = [];
        let doneByPlan = dec(0);
        for (let day = 0; day <= 61; day += 1) {
          const workDate = addDays(WORK_DATE, day);
          if (hand.includes(day)) released.push({ agreementLineId: 1, day: workDate, quantity: '7' });
          const decision = decidePlannedCalls(ground(rows, released), workDate, workDate);
          if (!decision.ok) continue;
          for (const made of decision.effects.calls) rows.find((row) => row.day === made.day)!.made = true;
          for (const { quantity, shipDate } of decision.effects.release.lines) {
            released.push({ agreementLineId: 1, day: shipDate, quantity });
            doneByPlan = doneByPlan.plus(quantity);
          }
        }
        const all = sum(rows.map((row) => dec(row.quantity)));
        // Every planned unit is released by the plan or was covered by hand; none is released twice by the plan.
        expect(doneByPlan.lte(all)).toBe(true);
        expect(doneByPlan.plus(7 * hand.length).gte(all)).toBe(true);
      }),
      { seed: 20270301, numRuns: 100 },
    );
  });
});
