import { decideTake, type OfferLine } from './take';
import { decideTaxes, isUnpaired, type LineTax } from './taxes';

const TAX: LineTax = { code: 'S6', rate: '6', ours: null, ownRate: '6.00' };

describe('taxes of sisters', () => {
  it.each<[string, Partial<LineTax>, boolean]>([
    ['at the rate of our purchase', {}, false],
    ['at another', { rate: '9' }, true],
    ['at another that is said to be ours', { rate: '9', ours: 4 }, false],
    ['at another, of no purchase of ours', { rate: '9', ownRate: null }, false],
  ])('%s is missed or not', (_what, change, missed) => expect(isUnpaired({ ...TAX, ...change })).toBe(missed));

  it('are paired with ours, or with none; what is not there is refused at its place', () => {
    const ground = { ours: [{ id: 1 }], theirs: [{ id: 7 }, { id: 8 }] };
    const taxes = [
      { theirTaxCodeId: 7, taxCodeId: 1 },
      { theirTaxCodeId: 8, taxCodeId: null },
    ];
    expect(decideTaxes(ground, { taxes })).toMatchObject({ ok: true, effects: { taxes } });
    const refused = (typed: typeof taxes) => {
      const decision = decideTaxes(ground, { taxes: typed });
      return decision.ok ? [] : decision.refusals.map(({ code, field, facts }) => [`${field}: ${code}`, facts]);
    };
    expect(refused([])).toEqual([['taxes: nothing-asked', { what: 'a tax' }]]);
    expect(refused([{ theirTaxCodeId: 9, taxCodeId: 2 }])).toEqual([
      ['taxes.0.theirTaxCodeId: unknown', { what: 'Their tax' }],
      ['taxes.0.taxCodeId: unknown', { what: 'This tax' }],
    ]);
  });

  it('go into an invoice that is taken, and hold one whose tax is none of ours', () => {
    const line: OfferLine = {
      id: 3,
      lineNo: 10,
      theirs: { id: 7, number: 'FV', name: 'Vessel', unit: 'piece' },
      ours: { id: 9, number: 'FV', unit: 'piece' },
      lineId: 5,
      factor: '1',
      quantity: '2',
      day: null,
      price: '10',
    };
    const offer = {
      kind: 'invoice' as const,
      state: 'open' as const,
      number: 'CI-1',
      sister: 'Muara',
      revision: 0,
      takenRevision: 0,
      gone: false,
      takenGone: false,
    };
    const take = (tax?: LineTax) =>
      decideTake(
        {
          offer,
          lines: [line],
          party: { id: 1, currency: 'SGD' },
          currency: 'SGD',
          taxes: new Map(tax ? [[3, tax]] : []),
        },
        { revision: 0, lines: [] },
        '2027-03-01',
      );
    expect(take({ ...TAX, ours: 4 })).toMatchObject({ ok: true, effects: { lines: [{ taxCodeId: 4 }] } });
    const plain = take(TAX);
    expect(plain.ok && 'taxCodeId' in plain.effects.lines[0]!).toBe(false);
    expect(take()).toMatchObject({ ok: true });
    expect(take({ ...TAX, rate: '9' })).toMatchObject({
      ok: false,
      refusals: [{ code: 'tax-unpaired', facts: { tax: 'S6', rate: '9', sister: 'Muara', line: '10' } }],
    });
  });
});
