import { currencyPlaces, inUnits, lineAmount, dec } from '.';

describe('quantities with their units', () => {
  it.each([
    ['1', 'piece', '1 piece'],
    ['24,070', 'piece', '24,070 pieces'],
    ['0', 'piece', '0 pieces'],
    ['1.5', 'tonne', '1.5 tonnes'],
    ['2', 'box', '2 boxes'],
    ['3', 'batch', '3 batches'],
    ['2', 'tray', '2 trays'],
    ['2', 'assembly', '2 assemblies'],
    ['40', 'kg', '40 kg'],
    ['12', 'm³', '12 m³'],
    ['1,001', 'bag', '1,001 bags'],
  ])('%s of %s is %s', (quantity, unit, said) => expect(inUnits(quantity, unit)).toBe(said));
});

describe('P7 places of a currency (ISO 4217)', () => {
  it.each([
    ['MYR', 2],
    ['JPY', 0],
    ['CLP', 0],
    ['XAF', 0],
    ['OMR', 3],
    ['JOD', 3],
    ['KWD', 3],
    ['IDR', 2],
    ['', 2],
    ['money', 2],
  ])('%s has %s', (currency, digits) => expect(currencyPlaces(currency)).toBe(digits));

  it('round amounts of lines half away from zero', () => {
    expect(lineAmount(dec('3'), dec('0.1235'), 'OMR').toFixed()).toBe('0.371');
    expect(lineAmount(dec('3'), dec('0.1235'), 'CLP').toFixed()).toBe('0');
    expect(lineAmount(dec('-3'), dec('0.5'), 'XAF').toFixed()).toBe('-2');
  });
});
