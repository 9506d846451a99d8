import { decideTaxRates, type RateToCome } from '.';

const rate = (id: number, taxCodeId: number, firstDay: string, of: string): RateToCome => ({
  id,
  taxCodeId,
  firstDay,
  rate: of,
});
const decide = (...toCome: RateToCome[]) => decideTaxRates(toCome, '2027-03-01');

describe('U2 rates to come', () => {
  it('are taken on their day, of several of a code the latest', () => {
    expect(
      decide(rate(3, 1, '2027-03-01', '8'), rate(1, 1, '2027-01-01', '7'), rate(2, 2, '2027-02-01', '0')),
    ).toMatchObject({
      ok: true,
      effects: {
        rates: [
          { taxCodeId: 1, rate: '8' },
          { taxCodeId: 2, rate: '0' },
        ],
        taken: [1, 2, 3],
      },
    });
  });

  it('wait for their day', () => {
    expect(decide(rate(1, 1, '2027-03-02', '8'))).toMatchObject({ ok: false, refusals: [{ code: 'nothing-to-take' }] });
    expect(decide(rate(1, 1, '2027-03-02', '8'), rate(2, 1, '2027-03-01', '7'))).toMatchObject({
      effects: { rates: [{ rate: '7' }], taken: [2] },
    });
  });
});
