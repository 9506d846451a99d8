import * as fc from 'fast-check';
import { dec, sum } from '@core/kernel';
import { decideLoad, decideRound, decideShipStop, runDays, runOf, type RunLine } from './index';

const line = (lineId: number, shipToId: number, change: Partial<RunLine> = {}): RunLine => ({
  lineId,
  shipToId,
  now: '4',
  loaded: '0',
  weight: '25',
  volume: '0.03',
  ...change,
});

describe('S11 a run', () => {
  it('is its stops in their order, with what can go or is loaded of each; empty ones are left out', () => {
    const run = runOf([3, 1, 2], [line(10, 1), line(11, 3, { loaded: '2' }), line(12, 1, { now: '0' })], {
      mostWeight: '140',
      mostVolume: null,
    });
    expect(run).toEqual({
      stops: [
        { shipToId: 3, lineIds: [11], weight: '50', volume: '0.06', over: false },
        { shipToId: 1, lineIds: [10, 12], weight: '100', volume: '0.12', over: true },
      ],
      weight: '150',
      volume: '0.18',
      overWeight: '10',
      overVolume: '0',
    });
  });

  it('is over its vehicle above what that carries, not at it, by weight or by volume', () => {
    const of = (mostWeight: string | null, mostVolume: string | null) =>
      runOf([1], [line(10, 1)], { mostWeight, mostVolume });
    expect(of('100', '0.12')).toMatchObject({ overWeight: '0', overVolume: '0', stops: [{ over: false }] });
    expect(of('99.9', null)).toMatchObject({ overWeight: '0.1', stops: [{ over: true }] });
    expect(of(null, '0.11')).toMatchObject({ overVolume: '0.01', stops: [{ over: true }] });
  });

  it('weighs what its stops weigh, whatever is on it', () => {
    const amount = fc.integer({ min: 0, max: 400 }).map((n) => (n / 4).toString());
    const lines = fc.array(
      fc.record({
        shipToId: fc.integer({ min: 1, max: 4 }),
        now: amount,
        loaded: amount,
        weight: amount,
        volume: amount,
      }),
      { maxLength: 20 },
    );
    fc.assert(
      fc.property(lines, (all) => {
        const run = runOf(
          [4, 2, 1, 3],
          all.map((each, at) => ({ lineId: at + 1, ...each })),
          { mostWeight: '500', mostVolume: null },
        );
        expect(sum(run.stops.map(({ weight }) => dec(weight))).toFixed()).toBe(run.weight);
        expect(run.stops.flatMap(({ lineIds }) => lineIds)).toHaveLength(all.length);
        // Once over, over to its end.
        const first = run.stops.findIndex(({ over }) => over);
        if (first >= 0) expect(run.stops.slice(first).every(({ over }) => over)).toBe(true);
        expect(run.overWeight !== '0').toBe(run.stops.some(({ over }) => over));
      }),
      { seed: 11 },
    );
  });

  it('goes on its days of the week', () => {
    expect(runDays('0100100', '2027-03-01', 3)).toEqual(['2027-03-02', '2027-03-05', '2027-03-09']);
    expect(runDays('1000000', '2027-03-01', 2)).toEqual(['2027-03-01', '2027-03-08']);
    expect(runDays('0000000', '2027-03-01', 2)).toEqual([]);
  });
});

describe('S11 a round', () => {
  const ground = {
    names: ['North'],
    addresses: new Map([
      [1, { label: 'Gate 2', round: null }],
      [2, { label: 'Jetty', round: 'North' }],
    ]),
  };
  const typed = { name: 'Coast', week: '0100000', vehicle: 'Van', mostWeight: '', mostVolume: '', stops: [1] };
  const codes = (change: Partial<typeof typed>) => {
    const decision = decideRound(ground, { ...typed, ...change });
    return decision.ok ? [] : decision.refusals.map(({ field, code }) => `${field}: ${code}`);
  };

  it('has a name of its own, a day, a stop, and no address of another', () => {
    expect(decideRound(ground, { ...typed, name: ' Coast ', mostWeight: '800' })).toMatchObject({
      effects: { name: 'Coast', mostWeight: '800', mostVolume: null, stops: [1] },
    });
    expect(codes({ name: ' ' })).toEqual(['name: required']);
    expect(codes({ name: 'north' })).toEqual(['name: round-named']);
    expect(codes({ week: '0000000' })).toEqual(['week: required']);
    expect(codes({ week: '1' })).toEqual(['week: required']);
    expect(codes({ mostWeight: 'x', mostVolume: '0' })).toEqual([
      'mostWeight: not-a-number',
      'mostVolume: not-above-zero',
    ]);
    expect(codes({ stops: [] })).toEqual(['stops: required']);
    expect(codes({ stops: [1, 2, 3] })).toEqual(['stops.1: on-another-round', 'stops.2: unknown']);
  });

  it('is loaded with no more than can go, of lines that are on no other', () => {
    const lines = [
      { lineId: 1, item: 'SALT-25', now: '4', elsewhere: '' },
      { lineId: 2, item: 'SALT-25', now: '4', elsewhere: 'North on 2027-03-02' },
    ];
    const load = (...asked: { lineId: number; quantity: string }[]) => {
      const decision = decideLoad(lines, asked);
      return decision.ok ? decision.effects : decision.refusals.map(({ field, code }) => `${field}: ${code}`);
    };
    expect(load({ lineId: 1, quantity: '4' })).toEqual([{ lineId: 1, quantity: '4' }]);
    expect(load({ lineId: 1, quantity: '' }, { lineId: 2, quantity: '0' })).toEqual([
      { lineId: 1, quantity: '0' },
      { lineId: 2, quantity: '0' },
    ]);
    expect(
      load(
        { lineId: 1, quantity: '4.5' },
        { lineId: 2, quantity: '1' },
        { lineId: 3, quantity: '1' },
        { lineId: 1, quantity: '-1' },
      ),
    ).toEqual([
      'lines.0.quantity: not-to-load',
      'lines.1.quantity: loaded-elsewhere',
      'lines.2.quantity: unknown',
      'lines.3.quantity: not-a-number',
    ]);
  });

  it('ships what is loaded for a stop, by the pieces that were named', () => {
    const lines = [
      { lineId: 1, shipToId: 5, loaded: '4' },
      { lineId: 2, shipToId: 5, loaded: '0' },
      { lineId: 3, shipToId: 6, loaded: '1' },
      { lineId: 4, shipToId: 5, loaded: '1' },
    ];
    const ship = (shipToId: number) =>
      decideShipStop(lines, { shipToId, label: 'Gate 2' }, [{ lineId: 4, numbers: ['A1'] }]);
    expect(ship(5)).toMatchObject({
      effects: {
        lines: [
          { lineId: 1, quantity: '4' },
          { lineId: 4, quantity: '1', numbers: ['A1'] },
        ],
      },
    });
    expect(ship(7)).toMatchObject({ refusals: [{ code: 'nothing-loaded', facts: { stop: 'Gate 2' } }] });
  });
});
