import { groundRows, itemRow, moveRow, oneShift, seller, ALWAYS } from '../ground/testing';
import { possibleDays, type DayAsk } from './possible-days';

const ask = (itemId: number, change: Partial<DayAsk> = {}): DayAsk => ({
  key: String(itemId),
  itemId,
  quantity: '10',
  route: 'stock',
  asked: null,
  ...change,
});
const holidays = ['2027-03-10'];
const CALENDARS = [
  { id: 1, week: '1111100', holidays },
  { id: 2, week: '1111110', holidays: [] },
];
/** 1 is on hand, 2 comes on a Saturday, 3 is bought in 5 days, 4 from a vendor who works Saturdays. */
const rows = groundRows({
  calendars: CALENDARS,
  receivingDays: 1,
  items: [
    itemRow(1, { onHand: '15' }),
    itemRow(2, { sellers: [seller(20)] }),
    itemRow(3, { sellers: [seller(5)] }),
    itemRow(4, { sellers: [seller(5, { name: 'Delima', calendarId: 2 })] }),
    itemRow(5, { obtained: 'make', makeDays: 3 }),
    itemRow(6, { obtained: 'none' }),
  ],
  supplies: [moveRow(2, '2027-03-06', '10')],
});
const one = (asked: DayAsk) => possibleDays(rows, [asked])[0]!;

describe('S10 the first day a route can keep', () => {
  it('is today for what is here, and says so', () => {
    expect(one(ask(1))).toEqual({ key: '1', first: '2027-03-01', why: 'there is enough', word: '', instead: null });
  });

  it('is the next day we work for what comes on a day we do not', () => {
    expect(one(ask(2))).toMatchObject({ first: '2027-03-08', why: 'PO-1 of Arus comes then' });
  });

  it('is the lead time for what is bought: in our days with taking it in, or straight in its vendor’s', () => {
    expect(one(ask(3, { route: 'special' }))).toMatchObject({
      first: '2027-03-09',
      why: 'Arus needs 5 working days, and we 1 to take it in',
    });
    expect(one(ask(3, { route: 'drop' }))).toMatchObject({ first: '2027-03-08', why: 'Arus needs 5 working days' });
    expect(one(ask(4, { route: 'drop' }))).toMatchObject({ first: '2027-03-06', why: 'Delima needs 5 working days' });
    // There is none of it: a new one takes its lead time.
    expect(one(ask(3))).toMatchObject({
      first: '2027-03-09',
      why: 'there is not enough; a new one takes its lead time',
    });
    const alone = { ...rows, receivingDays: 0 };
    expect(possibleDays(alone, [ask(3, { route: 'special' })])[0]!.why).toBe('Arus needs 5 working days');
    const quick = { ...rows, items: [itemRow(3, { sellers: [seller(1)] })] };
    expect(possibleDays(quick, [ask(3, { route: 'drop' })])[0]!.why).toBe('Arus needs 1 working day');
  });

  it('is what could be made, with what sets it; its own days where only they say, or what was chosen for it does', () => {
    const made = groundRows({
      calendars: CALENDARS,
      items: [itemRow(5, { obtained: 'make', makeDays: 3 }), itemRow(3, { sellers: [seller(5)] })],
      components: [
        { itemId: 5, lineNo: 1, componentId: 3, quantity: '1', scrapPercent: '0', operationNo: null, ...ALWAYS },
      ],
      operations: [{ itemId: 5, no: 10, name: 'Weld', centreId: 7, setup: '0', run: '6', parallel: 1, ...ALWAYS }],
      centres: [{ id: 7, code: 'W', name: 'Welding', machines: 1, shifts: oneShift(480), calendarId: 1 }],
    });
    const [found] = possibleDays(made, [ask(5, { route: 'make' })]);
    expect(found!.first).toBe('2027-03-08');
    expect(found!.why).toContain('10 IT-3 from Arus: 5 working days');
    expect(one(ask(5, { route: 'make' }))).toMatchObject({
      first: '2027-03-04',
      why: '10 IT-5 are made: 3 working days',
    });
    const [own] = possibleDays(made, [ask(5, { route: 'assemble', own: true })]);
    expect(own).toMatchObject({ first: '2027-03-04', why: 'it takes 3 working days to make' });
    const routed = { ...made, items: [itemRow(5, { obtained: 'make' }), ...made.items.slice(1)] };
    const asked = '2027-03-02';
    expect(possibleDays(routed, [ask(5, { route: 'make', own: true, asked })])[0]).toMatchObject({
      first: null,
      word: '',
    });
    const here = { ...made, items: [itemRow(5, { obtained: 'make', onHand: '12' }), ...made.items.slice(1)] };
    expect(possibleDays(here, [ask(5, { route: 'make' })])[0]).toMatchObject({
      first: '2027-03-01',
      why: 'all it takes is here',
    });
  });

  it('cannot be said where there is no way to it; then that is said of the typed day', () => {
    const found = one(ask(6, { asked: '2027-03-02' }));
    expect(found).toMatchObject({ first: null, word: found.why, instead: null });
    expect(one(ask(6)).word).toBe('');
    expect(one(ask(6)).why).toContain('neither bought nor made');
    expect(one(ask(6, { route: 'make' })).why).toContain('neither bought nor made');
  });

  it('says of a day that is earlier what makes it impossible, and which to take', () => {
    expect(one(ask(3, { route: 'drop', asked: '2027-03-05' }))).toMatchObject({
      word: 'cannot be before Mon 8 Mar: Arus needs 5 working days',
      instead: '2027-03-08',
    });
    expect(one(ask(3, { route: 'drop', asked: '2027-03-08' }))).toMatchObject({ word: '', instead: null });
    expect(one(ask(3, { route: 'drop', asked: '2027-03-09' }))).toMatchObject({ word: '', instead: null });
    // A day that has passed is refused where it is typed.
    expect(one(ask(3, { route: 'drop', asked: '2027-02-26' })).word).toBe('');
  });

  it('says of a day that nobody works who does not, and which is next', () => {
    expect(one(ask(1, { asked: '2027-03-06' }))).toMatchObject({
      word: 'we do not work on Sat 6 Mar; Mon 8 Mar is next',
      instead: '2027-03-08',
    });
    // A holiday of ours, and one of nobody else.
    expect(one(ask(1, { asked: '2027-03-10' }))).toMatchObject({ instead: '2027-03-11' });
    expect(one(ask(4, { route: 'drop', asked: '2027-03-13' })).word).toBe('');
    expect(one(ask(4, { route: 'drop', asked: '2027-03-14' }))).toMatchObject({
      word: 'Delima does not work on Sun 14 Mar; Mon 15 Mar is next',
    });
    expect(one(ask(1, { asked: '2028-03-05' })).word).toBe('');
  });

  it('lines take of what there is in their order', () => {
    const found = possibleDays(rows, [
      ask(1, { key: 'a' }),
      ask(1, { key: 'b', quantity: '6' }),
      ask(1, { key: 'c', quantity: '5' }),
    ]);
    expect(found.map(({ key, first }) => [key, first])).toEqual([
      ['a', '2027-03-01'],
      ['b', null],
      ['c', '2027-03-01'],
    ]);
  });
});

describe('X4 what is bought of a sister company', () => {
  const told = (ships: string, transitDays = 0) => new Map([['3', { sister: 'Muara', ships, transitDays }]]);
  const through = (asked: DayAsk, ships: string, transitDays = 0) =>
    possibleDays(rows, [asked], told(ships, transitDays))[0]!;

  it('ships from when she could, instead of her lead time: straight, or on the way to us and taken in', () => {
    expect(through(ask(3, { route: 'drop' }), '2027-03-04')).toMatchObject({
      first: '2027-03-04',
      why: 'Muara could ship it on Thu 4 Mar',
    });
    // A day to take it in, over a weekend.
    expect(through(ask(3, { route: 'special' }), '2027-03-05')).toMatchObject({
      first: '2027-03-08',
      why: 'Muara could ship it on Fri 5 Mar, and we need 1 working day to take it in',
    });
    // Two on the way as well, and the tenth is a holiday.
    expect(through(ask(3, { route: 'special' }), '2027-03-05', 2)).toMatchObject({
      first: '2027-03-11',
      why: 'Muara could ship it on Fri 5 Mar, it is 2 working days on the way, and we need 1 working day to take it in',
    });
    const alone = { ...rows, receivingDays: 0 };
    const [found] = possibleDays(alone, [ask(3, { route: 'special' })], told('2027-03-05', 1));
    expect(found).toMatchObject({
      first: '2027-03-08',
      why: 'Muara could ship it on Fri 5 Mar, it is 1 working day on the way',
    });
  });

  it('is today where her day is over, and the last day that is looked at where it is beyond', () => {
    expect(through(ask(3, { route: 'drop' }), '2027-02-20').first).toBe('2027-03-01');
    const far = through(ask(3, { route: 'drop' }), '2040-01-02').first!;
    expect(far > '2027-06-01' && far < '2040-01-01').toBe(true);
    expect(through(ask(3, { route: 'special' }), '2040-01-02').first).toBe(far);
  });

  it('says so of a day that is before, and leaves other lines as they are', () => {
    expect(through(ask(3, { route: 'drop', asked: '2027-03-02' }), '2027-03-04')).toMatchObject({
      word: 'cannot be before Thu 4 Mar: Muara could ship it on Thu 4 Mar',
      instead: '2027-03-04',
    });
    expect(possibleDays(rows, [ask(1)], told('2027-03-04'))[0]).toMatchObject({
      first: '2027-03-01',
      why: 'there is enough',
    });
  });

  it('answers where nobody else could say', () => {
    const unsold = { ...rows, items: [...rows.items.slice(0, 5), itemRow(3, { obtained: 'none' })] };
    expect(possibleDays(unsold, [ask(3, { route: 'drop' })], told('2027-03-04'))[0]).toMatchObject({
      first: '2027-03-04',
      word: '',
    });
  });
});
