import { earning } from './earning';

const part = (change = {}) => ({ quantity: '2', lineQuantity: '2', amount: '1000', rate: '1', ...change });

describe('W1 what an order earns', () => {
  it.each<[string, Parameters<typeof earning>[0], ReturnType<typeof earning>]>([
    ['for nobody', [], null],
    ['in a currency without a rate', [part(), part({ rate: null })], null],
    ['whole', [part()], { quantity: '2', sold: '1000', cost: '150', earns: '850', percent: '85' }],
    [
      'for a part of a line',
      [part({ quantity: '1' })],
      { quantity: '1', sold: '500', cost: '75', earns: '425', percent: '85' },
    ],
    [
      'for several, one in another currency',
      [part(), part({ quantity: '1', amount: '30.01', rate: '4.5' })],
      { quantity: '3', sold: '1067.52', cost: '225', earns: '842.52', percent: '78.9' },
    ],
    [
      'less than nothing',
      [part({ amount: '100' })],
      { quantity: '2', sold: '100', cost: '150', earns: '-50', percent: '-50' },
    ],
    ['given away', [part({ amount: '0' })], { quantity: '2', sold: '0', cost: '150', earns: '-150', percent: '' }],
  ])('%s', (_what, sold, told) => expect(earning(sold, { quantity: '4', cost: '300' }, 'MYR')).toEqual(told));

  it('is told in the smallest coin there is', () =>
    expect(earning([part({ amount: '1000.5' })], { quantity: '7', cost: '100' }, 'JPY')).toMatchObject({
      sold: '1001',
      cost: '29',
      earns: '972',
    }));
});
