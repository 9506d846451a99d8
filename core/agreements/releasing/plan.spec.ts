import fc from 'fast-check';
import { addDays, daysBetween, dec, least, sum } from '@core/kernel';
import { decidePlan, unconsumed, type PlanGround, type PlannedCall, type PlanTyped } from '../index';

const call = (day: string, quantity: string, skipped = false): PlannedCall => ({ day, quantity, skipped });
const rests = (calls: PlannedCall[], releases: { day: string; quantity: string }[]) =>
  unconsumed(calls, releases).map((rest) => rest.toFixed());

describe('A7 forecast consumption', () => {
  const months = [call('2027-03-01', '10'), call('2027-04-01', '10'), call('2027-05-01', '10')];

  it.each([
    ['the nearest call', [{ day: '2027-04-04', quantity: '4' }], ['10', '6', '10']],
    ['of two equally near the earlier', [{ day: '2027-04-16', quantity: '3' }], ['10', '7', '10']],
    ['what goes beyond a call from the next nearest', [{ day: '2027-04-20', quantity: '15' }], ['10', '5', '0']],
    ['nothing where nothing was released', [], ['10', '10', '10']],
    ['no more than was planned', [{ day: '2027-03-01', quantity: '99' }], ['0', '0', '0']],
  ])('uses up %s', (_what, releases, expected) => expect(rests(months, releases)).toEqual(expected));

  it('what was released before the time the plan is for uses up none of it', () => {
    expect(rests(months, [{ day: '2027-01-28', quantity: '4' }])).toEqual(['10', '10', '10']);
    expect(rests(months, [{ day: '2027-01-30', quantity: '4' }])).toEqual(['6', '10', '10']);
    expect(rests([months[0]!], [{ day: '2027-01-28', quantity: '4' }])).toEqual(['10']);
  });

  it('a skipped call expects nothing and is used up by nothing', () => {
    const calls = [call('2027-03-01', '10', true), call('2027-04-01', '10')];
    expect(rests(calls, [{ day: '2027-03-01', quantity: '4' }])).toEqual(['0', '6']);
  });

  it('counts nothing twice, whatever was released in whatever order', () => {
    const day = fc.integer({ min: 0, max: 200 }).map((ahead) => addDays('2027-01-01', ahead));
    const quantity = fc.integer({ min: 1, max: 400 }).map((n) => (n / 4).toString());
    const calls = fc.uniqueArray(fc.record({ day, quantity, skipped: fc.boolean() }), {
      selector: (each) => each.day,
      maxLength: 12,
    });
    const releases = fc.array(fc.record({ day, quantity }), { maxLength: 12 });
    fc.assert(
      fc.property(calls, releases, (planned, released) => {
        const left = unconsumed(planned, released);
        const expected = sum(planned.filter((each) => !each.skipped).map((each) => dec(each.quantity)));
        const days = planned.map((each) => each.day).sort();
        const gaps = days.slice(1).map((each, index) => daysBetween(days[index]!, each));
        const begins = days[0] && addDays(days[0], -(gaps.length > 0 ? Math.min(...gaps) : 31));
        const counts = released.filter((each) => begins && each.day >= begins);
        const used = least(expected, sum(counts.map((each) => dec(each.quantity))));
        expect(sum(left).plus(used).toFixed()).toBe(expected.toFixed());
        left.forEach((rest, index) => {
          expect(rest.gte(0) && rest.lte(planned[index]!.quantity)).toBe(true);
        });
        expect(unconsumed(planned, [...released].reverse()).map(String)).toEqual(left.map(String));
      }),
      { seed: 21 },
    );
  });
});

describe('a call-off plan', () => {
  const ground: PlanGround = {
    agreement: { number: 'AG-0001', state: 'in-force', firstDay: '2027-01-01', lastDay: '2027-12-31' },
    lines: [{ id: 1, item: 'RO-4040' }],
  };
  const typed = (...calls: PlanTyped['lines'][number]['calls']): PlanTyped => ({
    lines: [{ agreementLineId: 1, calls }],
  });
  const each = (day: string | null, quantity: string) => ({ day, quantity, skipped: false, rule: '' });
  const codes = (given: PlanTyped, on = ground) => {
    const decision = decidePlan(on, given);
    return decision.ok ? [] : decision.refusals.map((refusal) => `${refusal.field}: ${refusal.code}`);
  };

  it('takes dates inside the period, and none at all', () => {
    expect(codes(typed(each('2027-01-01', '5'), each('2027-12-31', '0.5')))).toEqual([]);
    expect(codes(typed())).toEqual([]);
  });

  it('refuses each bad date and quantity at its place', () => {
    const bad = typed(each('2028-01-01', '5'), each(null, 'x'), each('2027-02-30', '0'), each('2027-03-01', '1'));
    bad.lines[0]!.calls.push(each('2027-03-01', '2'));
    bad.lines.push({ agreementLineId: 9, calls: [] });
    expect(codes(bad)).toEqual([
      'lines.0.calls.0.day: outside-period',
      'lines.0.calls.1.quantity: not-a-number',
      'lines.0.calls.1.day: required',
      'lines.0.calls.2.quantity: not-above-zero',
      'lines.0.calls.2.day: not-a-day',
      'lines.0.calls.4.day: planned-twice',
      'lines.1.agreementLineId: unknown',
    ]);
  });

  it('is made while the agreement is in force or paused', () => {
    const state = (given: PlanGround['agreement']['state']) =>
      codes(typed(), { ...ground, agreement: { ...ground.agreement, state: given } });
    expect(state('paused')).toEqual([]);
    expect(state('draft')).toEqual([': agreement-not-in-force']);
    expect(state('ended')).toEqual([': agreement-not-in-force']);
  });
});
