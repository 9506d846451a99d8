import fc from 'fast-check';
import { addDays, daysBetween, dec, most, sum, ZERO } from '@core/kernel';
import { forecastOf, weightedValue, type ForecastGround } from '../index';

const ground: ForecastGround = {
  committed: '100',
  firstDay: '2027-01-01',
  lastDay: '2027-12-31',
  workDate: '2027-03-01',
  shipped: [
    { day: '2027-01-15', quantity: '10' },
    { day: '2027-02-15', quantity: '20' },
  ],
  open: [{ day: '2027-03-10', quantity: '6' }],
  planned: [{ day: '2027-04-01', quantity: '12' }],
};

describe('A8 the forecast of an agreement line', () => {
  it('is shipped + open + planned + the rate of the days the term has run for the days after them', () => {
    const forecast = forecastOf(ground);
    // 30 in the 60 days of the term so far; 274 days from 1 April to the last day.
    expect(forecast.rate.toFixed()).toBe('0.5');
    expect(forecast.atEnd.toFixed()).toBe('185');
    expect(forecast.remainder.toFixed()).toBe('0');
    // 52 more at a half a day are 104 days after 1 April.
    expect(forecast.runOut).toBe(addDays('2027-04-01', 104));
    expect(forecast.past.map((point) => `${point.day} ${point.quantity.toFixed()}`)).toEqual([
      '2027-01-01 0',
      '2027-01-15 10',
      '2027-02-15 30',
    ]);
    expect(forecast.coming.slice(0, 3).map((point) => `${point.day} ${point.quantity.toFixed()}`)).toEqual([
      '2027-03-01 30',
      '2027-03-10 36',
      '2027-04-01 48',
    ]);
  });

  it('is not silenced by one release that is far off', () => {
    const far = { ...ground, open: [{ day: '2027-12-31', quantity: '6' }], planned: [] };
    const forecast = forecastOf(far);
    // 305 days, of which six pieces are twelve; the others at a half a day.
    expect(forecast.atEnd.toFixed()).toBe('182.5');
    expect(forecast.coming.map((point) => `${point.day} ${point.quantity.toFixed()}`)).toEqual([
      '2027-03-01 30',
      '2027-12-19 176.5',
      '2027-12-31 182.5',
    ]);
    expect(forecast.runOut).toBe(addDays('2027-03-01', 140));
  });

  it('takes the 90 days where the term has run longer, and one day at least', () => {
    const year = { ...ground, firstDay: '2026-01-01', open: [], planned: [] };
    expect(forecastOf(year).rate.toFixed()).toBe('0.33333');
    const fresh = { ...year, firstDay: '2027-03-01', shipped: [{ day: '2027-03-01', quantity: '4' }] };
    expect(forecastOf(fresh).rate.toFixed()).toBe('4');
  });

  it('leaves out shipments older than 90 days, and takes overdue releases on the work date', () => {
    const old = { ...ground, workDate: '2027-07-01', open: [{ day: '2027-03-10', quantity: '6' }], planned: [] };
    const forecast = forecastOf(old);
    expect(forecast.rate.toFixed()).toBe('0');
    expect(forecast.coming.map((point) => `${point.day} ${point.quantity.toFixed()}`)).toEqual([
      '2027-07-01 30',
      '2027-07-01 36',
      '2027-12-31 36',
    ]);
    expect([forecast.remainder.toFixed(), forecast.runOut]).toEqual(['64', null]);
  });

  it('after the last day nothing more is expected at the daily rate', () => {
    const forecast = forecastOf({ ...ground, lastDay: '2027-02-20', open: [], planned: [] });
    expect([forecast.atEnd.toFixed(), forecast.remainder.toFixed()]).toEqual(['30', '70']);
  });

  it('names the day it was used up, where that was before the end', () => {
    const early = { ...ground, committed: '25' };
    expect(forecastOf(early).runOut).toBe('2027-02-15');
    expect(forecastOf({ ...early, lastDay: '2027-02-15' }).runOut).toBeNull();
  });

  it('equals a walk day by day, whatever was shipped, released and planned', () => {
    const dated = (from: number, to: number) =>
      fc.array(
        fc.record({
          day: fc.integer({ min: from, max: to }).map((ahead) => addDays('2027-06-01', ahead)),
          quantity: fc.integer({ min: 1, max: 90 }).map(String),
        }),
        { maxLength: 8 },
      );
    fc.assert(
      fc.property(dated(-150, 0), dated(-20, 90), dated(-20, 90), fc.integer({ min: 1, max: 900 }), (...given) => {
        const [shipped, open, planned, committed] = given;
        const made: ForecastGround = {
          committed: String(committed),
          firstDay: '2027-01-01',
          lastDay: '2027-08-31',
          workDate: '2027-06-01',
          shipped,
          open,
          planned,
        };
        const forecast = forecastOf(made);
        expect(Number(forecast.atEnd)).toBeCloseTo(walked(made), 4);
        expect(forecast.remainder.toFixed()).toBe(most(ZERO, dec(committed).minus(forecast.atEnd)).toFixed());
        for (let at = 1; at < forecast.coming.length; at += 1) {
          expect(forecast.coming[at]!.quantity.gte(forecast.coming[at - 1]!.quantity)).toBe(true);
        }
        if (forecast.runOut) expect(forecast.atEnd.plus('0.00001').gte(committed)).toBe(true);
      }),
      { seed: 3 },
    );
  });

  it('weighs what is left by its probability', () => {
    expect(weightedValue(dec('1000'), '62.5').toFixed()).toBe('625');
  });
});

/** The forecast at the last day, one day after the other in plain numbers. */
function walked({ shipped, open, planned, firstDay, workDate, lastDay }: ForecastGround): number {
  const all = (dated: readonly { quantity: string }[]) => Number(sum(dated.map((each) => dec(each.quantity))));
  const ran = Math.min(90, Math.max(1, daysBetween(firstDay, workDate) + 1));
  const rate = all(shipped.filter((each) => daysBetween(each.day, workDate) < ran)) / ran;
  const coming = [...open, ...planned].map((each) => (each.day < workDate ? { ...each, day: workDate } : each));
  const days = [...new Set(coming.map(({ day }) => day))].sort();
  const covered = new Set<string>();
  let before = workDate;
  for (const day of days) {
    let lasts = all(coming.filter((each) => each.day === day));
    for (let at = day; at > before && lasts > 1e-9; at = addDays(at, -1)) {
      covered.add(at);
      lasts -= rate > 0 ? rate : 0;
    }
    before = day;
  }
  let reached = all(shipped) + all(coming);
  for (let day = addDays(workDate, 1); day <= lastDay; day = addDays(day, 1)) if (!covered.has(day)) reached += rate;
  return reached;
}
