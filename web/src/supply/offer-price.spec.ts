import { offerPrice } from './service';

const offer = (currency: string, unitPrice: string, ownPrice: string) => ({
  vendorId: 1,
  vendor: 'Samudra Membrane Export',
  unitPrice,
  currency,
  ownPrice,
  leadDays: 21,
  preferred: false,
  minimum: '0',
  multiple: '0',
  approved: true,
});

describe('P8 the price of a vendor', () => {
  it.each([
    ['in the company’s currency', offer('MYR', '620', '620'), 'MYR 620.00'],
    ['in theirs, by what it is in ours', offer('USD', '0.74', '3.3215'), 'MYR 3.3215 (USD 0.74)'],
    ['in theirs, without a rate', offer('USD', '0.74', ''), 'USD 0.74, of which no rate is kept'],
    ['that is not for this person to see', offer('USD', '', ''), 'USD –'],
  ])('%s', (_what, each, text) => expect(offerPrice(each, 'MYR')).toBe(text));
});
