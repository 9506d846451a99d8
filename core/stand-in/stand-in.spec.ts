import fc from 'fast-check';
import { addDays, dec, sum } from '@core/kernel';
import { habitOf, invoicedPrice, marketPrices, vendorAnswer, vendorDelivery, type OrderedLine } from './index';

const SEED = 7;
const line = (id: number, change: Partial<OrderedLine> = {}): OrderedLine => ({
  id,
  quantity: '10',
  received: '0',
  dueDate: '2027-03-10',
  ...change,
});
const ids = Array.from({ length: 400 }, (_, id) => id + 1);
const one = (wanted: (habit: ReturnType<typeof habitOf>) => boolean) => ids.find((id) => wanted(habitOf(SEED, id)))!;

describe('the vendor stand-in', () => {
  it('is the same for the same seed, and mostly true to its word', () => {
    expect(ids.map((id) => habitOf(SEED, id))).toEqual(ids.map((id) => habitOf(SEED, id)));
    const share = (wanted: (habit: ReturnType<typeof habitOf>) => boolean) =>
      ids.filter((id) => wanted(habitOf(SEED, id))).length / ids.length;
    expect(share((habit) => habit.late > 0)).toBeGreaterThan(0.15);
    expect(share((habit) => habit.late > 0)).toBeLessThan(0.35);
    expect(share((habit) => habit.short)).toBeGreaterThan(0.06);
    expect(share((habit) => habit.short)).toBeLessThan(0.2);
  });

  it('answers the day after, for what is still to come, never for a day that has passed', () => {
    const late = one((habit) => habit.late > 0);
    const punctual = one((habit) => habit.late === 0);
    const lines = [
      line(late),
      line(punctual),
      line(
        one(() => true),
        { received: '10' },
      ),
    ];
    expect(vendorAnswer(lines, '2027-03-01', '2027-03-01', SEED)).toEqual([]);
    expect(vendorAnswer(lines, '2027-03-01', '2027-03-02', SEED)).toEqual([
      { purchaseLineId: late, dueDate: addDays('2027-03-10', habitOf(SEED, late).late), stops: false },
      { purchaseLineId: punctual, dueDate: '2027-03-10', stops: false },
    ]);
    expect(vendorAnswer([line(punctual)], '2027-03-01', '2027-03-20', SEED)[0]!.dueDate).toBe('2027-03-20');
  });

  it('delivers what is due, now and then in two parts', () => {
    const whole = one((habit) => !habit.short);
    const short = one((habit) => habit.short);
    const { restAfter } = habitOf(SEED, short);
    const on = (day: string, received = '0') => vendorDelivery([line(whole), line(short, { received })], day, SEED);
    expect(on('2027-03-09')).toEqual([]);
    expect(on('2027-03-10')).toEqual([
      { lineId: whole, quantity: '10' },
      { lineId: short, quantity: '6' },
    ]);
    expect(vendorDelivery([line(short, { received: '6' })], '2027-03-11', SEED)).toEqual([]);
    expect(vendorDelivery([line(short, { received: '6' })], addDays('2027-03-10', restAfter), SEED)).toEqual([
      { lineId: short, quantity: '4' },
    ]);
    // What cannot be parted comes with the rest.
    expect(vendorDelivery([line(short, { quantity: '1' })], '2027-03-10', SEED)).toEqual([]);
  });

  it('delivers all of it in the end, whatever days it is looked at, and never more', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 5000 }),
        fc.integer({ min: 1, max: 9999 }).map((each) => dec(each).div(100).toFixed()),
        fc.uniqueArray(fc.integer({ min: 0, max: 12 }), { maxLength: 6 }),
        (id, quantity, days) => {
          let received = dec(0);
          for (const after of [...days.sort((a, b) => a - b), 13]) {
            const came = vendorDelivery(
              [line(id, { quantity, received: received.toFixed() })],
              addDays('2027-03-10', after),
              SEED,
            );
            received = received.plus(sum(came.map((each) => dec(each.quantity))));
            expect(came.every((each) => dec(each.quantity).gt(0))).toBe(true);
          }
          expect(received.toFixed()).toBe(dec(quantity).toFixed());
        },
      ),
      { seed: 5, numRuns: 300 },
    );
  });

  it('asks the price that was ordered, or a little more', () => {
    expect(
      invoicedPrice(
        '620',
        one((habit) => habit.dearer === '0'),
        SEED,
      ),
    ).toBe('620');
    expect(
      invoicedPrice(
        '620',
        one((habit) => habit.dearer !== '0'),
        SEED,
      ),
    ).toBe('632.4');
  });
});

describe('the market stand-in', () => {
  it('gives a price a week, each near the one before, and the same however often it is asked', () => {
    const last = { day: '2027-03-01', value: '5180' };
    expect(marketPrices(last, '2027-03-07', SEED)).toEqual([]);
    const month = marketPrices(last, '2027-03-31', SEED);
    expect(month.map((price) => price.day)).toEqual(['2027-03-08', '2027-03-15', '2027-03-22', '2027-03-29']);
    [last, ...month].reduce((before, price) => {
      expect(Math.abs(Number(price.value) / Number(before.value) - 1)).toBeLessThan(0.021);
      return price;
    });
    // Fed week by week it comes to the same.
    const [first] = marketPrices(last, '2027-03-08', SEED);
    expect(marketPrices(first!, '2027-03-31', SEED)).toEqual(month.slice(1));
    expect(marketPrices(last, '2047-01-01', SEED)).toHaveLength(104);
  });
});
