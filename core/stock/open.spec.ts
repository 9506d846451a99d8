import { pointOf } from '@core/kernel';
import { decideOpenStock, type OpenStockGround, type OpenStockTyped } from '.';

const SALT = { id: 7, number: 'SALT-25', stocked: true };
const MAIN = { id: 0, name: 'Main store' };
const line = (change: Partial<OpenStockTyped['lines'][number]> = {}) => ({
  item: 'SALT-25',
  location: 'MAIN',
  quantity: '40',
  unitCost: '17.25',
  numbers: [],
  ...change,
});
const ground = (change: Partial<OpenStockGround> = {}): OpenStockGround => ({
  lines: [{ item: SALT, location: MAIN }],
  posted: new Set(),
  currency: 'MYR',
  ...change,
});
const refused = (at: OpenStockGround, ...lines: OpenStockTyped['lines']) => {
  const decision = decideOpenStock(at, { lines });
  return decision.ok ? [] : decision.refusals.map(({ field, code }) => `${field}: ${code}`);
};

describe('U3 opening stock', () => {
  it('is worth what it cost, rounded as the currency is', () => {
    const decision = decideOpenStock(ground(), { lines: [line({ quantity: '3', unitCost: '1.115' })] });
    expect(decision).toMatchObject({
      ok: true,
      effects: { cost: '3.35', lines: [{ index: 0, itemId: 7, locationId: 0, quantity: '3', cost: '3.35' }] },
    });
    expect(refused(ground(), line({ unitCost: '0' }))).toEqual([]);
    expect(refused(ground(), line({ quantity: '1,200' }))).toEqual([]);
  });

  it.each([
    ['lines.0.quantity: required', line({ quantity: '' })],
    ['lines.0.quantity: not-a-number', line({ quantity: 'many' })],
    ['lines.0.quantity: below-zero', line({ quantity: '-1' })],
    ['lines.0.quantity: not-above-zero', line({ quantity: '0' })],
    ['lines.0.unitCost: required', line({ unitCost: '' })],
    ['lines.0.unitCost: below-zero', line({ unitCost: '-2' })],
    ['lines.0.unitCost: not-a-number', line({ unitCost: '1.00001' })],
  ])('%s', (refusal, typed) => expect(refused(ground(), typed)).toEqual([refusal]));

  it('names what is not known, or not kept', () => {
    expect(refused(ground({ lines: [{ item: null, location: null }] }), line())).toEqual([
      'lines.0.item: unknown',
      'lines.0.location: unknown',
    ]);
    expect(refused(ground({ lines: [{ item: { ...SALT, stocked: false }, location: MAIN }] }), line())).toEqual([
      'lines.0.item: item-not-kept',
    ]);
  });

  it('opens an item at a place once: the same file again doubles nothing', () => {
    expect(refused(ground({ posted: new Set([pointOf(7, 0)]) }), line())).toEqual(['lines.0.item: opened-already']);
    expect(refused(ground({ posted: new Set([pointOf(7, 1)]) }), line())).toEqual([]);
    const twice = ground({
      lines: [
        { item: SALT, location: MAIN },
        { item: SALT, location: MAIN },
      ],
    });
    expect(refused(twice, line(), line())).toEqual(['lines.1.item: named-again']);
  });

  it('needs a line', () => expect(refused(ground({ lines: [] }))).toEqual(['lines: no-lines']));
});
