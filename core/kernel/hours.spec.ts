import fc from 'fast-check';
import { readTypedHours, shiftsOf } from './hours';

describe('hours of work', () => {
  it.each([
    ['8-16', '08:00-16:00'],
    ['Mon-Fri 8:00–16:30; sat 08.00-12', 'Mon-Fri 08:00-16:30; Sat 08:00-12:00'],
    ['monday wednesday 06:00-14:00, 14-22', 'Mon Wed 06:00-14:00; 14:00-22:00'],
    ['Fri-Mon 22:00 - 6:00', 'Mon Fri-Sun 22:00-06:00'],
    ['0-24', '00:00-24:00'],
    ['', ''],
  ])('%s is kept as %s, and reads the same again', (typed, kept) => {
    expect(readTypedHours(typed)).toBe(kept);
    expect(readTypedHours(kept)).toBe(kept);
  });

  it.each(['8', '8-8', '25-26', '8:75-9', 'Xyz 8-16', 'M 8-16', 'Mon- 8-16', '24-8', '8-16 Mon', 'always'])(
    '%s cannot be read',
    (typed) => {
      expect(readTypedHours(typed)).toBeNull();
    },
  );

  it('goes over midnight into the next weekday', () => {
    expect(shiftsOf('Sun 22:00-06:00')).toEqual([
      { week: '0000001', from: 1320, until: 1440 },
      { week: '1000000', from: 0, until: 360 },
    ]);
    expect(shiftsOf('Mon-Fri 16:00-24:00')).toEqual([{ week: '1111100', from: 960, until: 1440 }]);
    expect(shiftsOf('16-0')).toEqual([{ week: '1111111', from: 960, until: 1440 }]);
  });

  it('reads back what it writes, whatever the days and hours', () => {
    const stretch = fc.record({
      week: fc.integer({ min: 1, max: 127 }).map((bits) => bits.toString(2).padStart(7, '0')),
      from: fc.integer({ min: 0, max: 1438 }),
      long: fc.integer({ min: 1, max: 1438 }),
    });
    const names = 'Mon Tue Wed Thu Fri Sat Sun'.split(' ');
    fc.assert(
      fc.property(stretch, ({ week, from, long }) => {
        const until = Math.min(1440, from + long);
        const at = (minute: number) => `${Math.floor(minute / 60)}:${String(minute % 60).padStart(2, '0')}`;
        const typed = `${names.filter((_name, day) => week[day] === '1').join(' ')} ${at(from)}-${at(until)}`;
        expect(shiftsOf(readTypedHours(typed)!)).toEqual([{ week, from, until }]);
      }),
      { numRuns: 300, seed: 3 },
    );
  });
});
