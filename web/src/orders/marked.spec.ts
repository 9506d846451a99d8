import { orderSheet } from '../../test/order';
import { groupsOf, told } from './marked';

const row = (id: number, customer: number, currency = 'MYR') => ({
  ...orderSheet('confirmed'),
  id,
  number: `SO-000${id}`,
  customer: { id: customer, number: `C-${customer}`, name: `Customer ${customer}` },
  currency,
});

describe('orders that are marked', () => {
  it('are one invoice for each customer and currency, in the order they were marked', () => {
    const groups = groupsOf([row(1, 7), row(2, 8), row(3, 7), row(4, 7, 'SGD')]);
    expect(groups.map((group) => group.map(({ id }) => id))).toEqual([[1, 3], [2], [4]]);
  });

  it('tell what was done of them, and of each other why not', () => {
    const made = { kind: 'CI' as const, id: 1, number: 'CI-0001' };
    expect(told([{ number: 'SO-0001', made, why: '' }], 'invoiced')).toBe('1 of 1 invoiced.');
    expect(
      told(
        [
          { number: 'SO-0001', made, why: '' },
          { number: 'SO-0002', made: null, why: 'A reference is needed.' },
        ],
        'confirmed',
      ),
    ).toBe('1 of 2 confirmed. SO-0002 was not: A reference is needed.');
  });
});
