import { groundRows, oneShift } from '../ground/testing';
import { decideLayRest, type LaidOperation, type LaidWork } from './lay-rest';

/** Monday 1 March; eight hours a day on each centre, five days a week. */
const rows = groundRows({
  centres: [
    { id: 1, code: 'WELD', name: 'Welding bay', machines: 1, shifts: oneShift(480), calendarId: 1 },
    { id: 2, code: 'LINE', name: 'Lining room', machines: 2, shifts: oneShift(480), calendarId: 1 },
    { id: 3, code: 'SHUT', name: 'Shut', machines: 1, shifts: [], calendarId: 1 },
  ],
});
const operation = (id: number, change: Partial<LaidOperation> = {}): LaidOperation => ({
  id,
  name: `Step ${id}`,
  centreId: 1,
  minutes: 600,
  parallel: 1,
  through: '0',
  lastDay: '2027-03-01',
  ...change,
});
const work = (...operations: LaidOperation[]): LaidWork => ({
  number: 'PR-1',
  state: 'running',
  quantity: '4',
  operations,
});
const laid = (of: LaidWork, operationId: number, day: string | null, centreId = 1, on = rows) => {
  const decision = decideLayRest(on, of, { operationId, day, centreId });
  if (!decision.ok) return decision.refusals.map(({ code, field }) => `${field}: ${code}`);
  const { due, operations } = decision.effects;
  return [due, ...operations.map(({ id, centreId: at, begins, lastDay }) => [id, at, begins, lastDay])];
};

describe('what is left of an order, laid again (T5 W3)', () => {
  it('begins on the day that was said, and what follows after it', () => {
    const both = work(operation(1), operation(2, { centreId: 2 }));
    expect(laid(both, 1, '2027-03-02')).toEqual([
      '2027-03-04',
      [1, 1, '2027-03-02', '2027-03-03'],
      [2, 2, '2027-03-03', '2027-03-04'],
    ]);
    // Over the weekend, and at another centre on two machines.
    expect(laid(both, 2, '2027-03-06', 2)).toEqual(['2027-03-09', [2, 2, '2027-03-08', '2027-03-09']]);
    const wide = work(operation(1, { parallel: 2 }));
    expect(laid(wide, 1, '2027-03-02', 2)).toEqual(['2027-03-02', [1, 2, '2027-03-02', '2027-03-02']]);
  });

  it('takes what is left of it only, and nothing of what is over', () => {
    const half = work(operation(1, { through: '2' }), operation(2, { through: '4' }), operation(3));
    expect(laid(half, 1, '2027-03-02')).toEqual([
      '2027-03-03',
      [1, 1, '2027-03-02', '2027-03-02'],
      [3, 1, '2027-03-02', '2027-03-03'],
    ]);
    const decision = decideLayRest(rows, half, { operationId: 1, day: '2027-03-02', centreId: 1 });
    expect(decision.ok && decision.effects.operations[0]!.firstDay).toBe('2027-02-28');
    expect(decision.ok && decision.effects.operations[1]!.firstDay).toBe('2027-03-02');
    expect(decision.ok && decision.effects.operations[0]!.load).toEqual([
      // What is done holds nothing of a day to come.
      { day: '2027-02-28', from: 0, until: 300, machines: 1 },
      { day: '2027-03-02', from: 480, until: 780, machines: 1 },
    ]);
    const long = work(operation(1, { minutes: 4000, through: '3' }));
    const much = decideLayRest(rows, long, { operationId: 1, day: '2027-03-02', centreId: 1 });
    expect(much.ok && much.effects.operations[0]!.load.slice(0, 3)).toEqual([
      { day: '2027-02-28', from: 0, until: 1440, machines: 1 },
      { day: '2027-02-27', from: 0, until: 1440, machines: 1 },
      { day: '2027-02-26', from: 0, until: 120, machines: 1 },
    ]);
  });

  it('waits for the operation before it, unless that is over', () => {
    const before = operation(1, { lastDay: '2027-03-04' });
    expect(laid(work(before, operation(2)), 2, '2027-03-02')).toEqual([
      '2027-03-08',
      [2, 1, '2027-03-05', '2027-03-08'],
    ]);
    expect(laid(work(before, operation(2)), 2, '2027-03-04')).toMatchObject(['2027-03-08', {}]);
    expect(laid(work(before, operation(2)), 2, '2027-03-05')).toMatchObject(['2027-03-08', {}]);
    expect(laid(work({ ...before, through: '4' }, operation(2)), 2, '2027-03-02')).toMatchObject(['2027-03-03', {}]);
  });

  it('goes round what others hold', () => {
    const held = { ...rows, load: [{ centreId: 1, day: '2027-03-02', from: 480, until: 960, machines: 1 }] };
    expect(laid(work(operation(1)), 1, '2027-03-02', 1, held)).toEqual([
      '2027-03-04',
      [1, 1, '2027-03-03', '2027-03-04'],
    ]);
  });

  it('is refused for what is over or not open, for a day or a centre that cannot be', () => {
    const of = work(operation(1), operation(2, { through: '4' }));
    expect(laid({ ...of, state: 'finished' }, 1, '2027-03-02')).toEqual([': work-not-open']);
    expect(laid({ ...of, state: 'planned' }, 1, '2027-03-02')).toHaveLength(2);
    expect(laid({ ...of, state: 'firm' }, 1, '2027-03-02')).toHaveLength(2);
    expect(laid(of, 2, '2027-03-02')).toEqual(['operationId: operation-over']);
    expect(laid(of, 9, '2027-02-28', 8)).toEqual(['operationId: unknown', 'day: days-order', 'centreId: unknown']);
    expect(laid(of, 1, null)).toEqual(['day: not-a-day']);
    expect(laid(of, 1, '2027-13-01')).toEqual(['day: not-a-day']);
    expect(laid(of, 1, '2027-03-01')).toHaveLength(2);
    const shut = decideLayRest(rows, of, { operationId: 1, day: '2027-03-02', centreId: 3 });
    expect(!shut.ok && shut.refusals).toEqual([
      {
        code: 'no-promise',
        field: 'centreId',
        facts: { why: 'SHUT has no shift to work in; give it minutes, machines and a calendar with working days.' },
      },
    ]);
    const far = decideLayRest(rows, of, { operationId: 1, day: '2028-03-02', centreId: 1 });
    expect(!far.ok && far.refusals.map(({ code }) => code)).toEqual(['no-promise']);
  });
});
