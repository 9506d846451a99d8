import { sentenceOf } from '@core/refusals';
import {
  agreementsByLine,
  countedOn,
  leftOnWhole,
  overWholes,
  readWholeLimit,
  unitsOf,
  wholeLimitText,
} from '../index';
import type { WholeLimit } from './whole-limit';

const byValue = (limit: string, released = '0'): WholeLimit => ({
  limit,
  unit: '',
  released,
  factors: new Map([
    [1, '1'],
    [2, '1'],
  ]),
});
const byWeight = (limit: string, released = '0'): WholeLimit => ({
  limit,
  unit: 'kg',
  released,
  factors: new Map([
    [1, '25'],
    [2, '0.5'],
  ]),
});
const agreement = (
  whole: WholeLimit | null,
  change: { limitPolicy?: string; tolerancePercent?: string; id?: number } = {},
) => ({
  id: 1,
  number: 'AG-0001',
  currency: 'MYR',
  limitPolicy: 'refuse',
  tolerancePercent: '0',
  whole,
  ...change,
});
const grown = (agreementLineId: number, quantity: string, value = '0') => ({ agreementLineId, quantity, value });
const found = (whole: WholeLimit | null, released: ReturnType<typeof grown>[], change = {}) => {
  const own = agreement(whole, change);
  const over = overWholes(agreementsByLine([1, 2].map((id) => ({ agreement: own, line: { id } }))), released, 'lines');
  return { refused: over.refused.map(sentenceOf), warned: over.warned.map(sentenceOf) };
};
const none = { refused: [], warned: [] };

describe('A5 a limit on the whole of an agreement', () => {
  it.each([
    ['', { limit: '0', unit: '' }],
    ['50000', { limit: '50000', unit: '' }],
    [' 50,000.50 ', { limit: '50000.5', unit: '' }],
    ['1000kg', { limit: '1000', unit: 'kg' }],
    ['1,000  big bag', { limit: '1000', unit: 'big bag' }],
    ['0', null],
    ['-5', null],
    ['kg', null],
    ['1.2.3', null],
    ['1.23456', null],
    ['1.23456 kg', { limit: '1.23456', unit: 'kg' }],
    [`5 ${'x'.repeat(20)}`, { limit: '5', unit: 'x'.repeat(20) }],
    [`5 ${'x'.repeat(21)}`, null],
  ])('%j is read as %j', (typed, read) => {
    expect(readWholeLimit(typed)).toEqual(read);
  });

  it('is written back as it would be typed', () => {
    for (const typed of ['', '50000', '1000 kg']) expect(wholeLimitText(readWholeLimit(typed)!)).toBe(typed);
  });

  it('counts what all lines take together, of either sort, and lets the last of it go', () => {
    const both = (more: string) => [grown(1, '3', '600'), grown(2, '5', more)];
    expect(found(byValue('1500', '500'), both('400'))).toEqual(none);
    expect(found(byValue('1500', '500'), both('400.01')).refused).toEqual([
      'MYR 1000.01 is more than the MYR 1000.00 left of the whole of AG-0001; take that, or revise its limit.',
    ]);
    expect(found(byWeight('100', '22.5'), both('9999'))).toEqual(none);
    expect(found(byWeight('100', '22.6'), both('0')).refused).toEqual([
      '77.5 kg is more than the 77.4 kg left of the whole of AG-0001; take that, or revise its limit.',
    ]);
  });

  it('is widened by the tolerance, and says nothing is left where it was passed already', () => {
    expect(leftOnWhole(byValue('1000', '900'), '10').toFixed()).toBe('200');
    expect(found(byValue('1000', '900'), [grown(1, '1', '200')], { tolerancePercent: '10' })).toEqual(none);
    expect(found(byValue('1000', '1200'), [grown(1, '1', '5')]).refused).toEqual([
      'MYR 5.00 is more than the MYR 0.00 left of the whole of AG-0001; take that, or revise its limit.',
    ]);
  });

  it('only warns where the agreement warns, says nothing where it keeps no limit, and refuses where its lines split', () => {
    const over = [grown(1, '1', '11')];
    expect(found(byValue('10'), over, { limitPolicy: 'warn' })).toEqual({ refused: [], warned: [expect.any(String)] });
    expect(found(byValue('10'), over, { limitPolicy: 'keep' })).toEqual(none);
    expect(found(byValue('10'), over, { limitPolicy: 'split' }).refused).toHaveLength(1);
    expect(found(null, over)).toEqual(none);
  });

  it('holds nobody back who gives back, though it was passed', () => {
    expect(found(byValue('10', '50'), [grown(1, '-1', '-5')])).toEqual(none);
    expect(found(byValue('10', '50'), [grown(1, '-1', '-5'), grown(2, '1', '5')])).toEqual(none);
  });

  it('counts for each agreement its own lines, told once for all of them', () => {
    const [one, other] = [agreement(byValue('10')), agreement(byValue('100'), { id: 2 })];
    const offers = [
      { agreement: one, line: { id: 1 } },
      { agreement: { ...one }, line: { id: 2 } },
      { agreement: other, line: { id: 3 } },
    ];
    const over = overWholes(
      agreementsByLine(offers),
      [grown(1, '1', '6'), grown(2, '1', '6'), grown(3, '1', '99')],
      'lines',
    );
    expect(over.refused).toHaveLength(1);
    expect(over.refused[0]).toMatchObject({ field: 'lines', facts: { asked: 'MYR 12.00', left: 'MYR 10.00' } });
  });

  it('counts an item in its own unit, those it is sold in, and kilograms where it weighs something', () => {
    const sold = [{ unit: 'box', factor: '25' }];
    expect([...unitsOf({ unit: 'piece', weight: '3.6', sold })]).toEqual([
      ['kg', '3.6'],
      ['box', '0.04'],
      ['piece', '1'],
    ]);
    expect(unitsOf({ unit: 'piece', weight: '0', sold: [] }).has('kg')).toBe(false);
    // Sold by weight, what it weighs is what is sold.
    expect(unitsOf({ unit: 'kg', weight: '1.1', sold: [] }).get('kg')).toBe('1');
    expect(countedOn(byWeight('9'), [grown(7, '5')]).toFixed()).toBe('0');
  });

  it('counts twelve twelfths of a box as one', () => {
    const box = { ...byWeight('1'), unit: 'box', factors: new Map([[1, '0.08333333333333333333']]) };
    expect(countedOn(box, [grown(1, '12')]).toFixed()).toBe('1');
    expect(found({ ...box, released: '1' }, [grown(1, '0.00001')])).toEqual(none);
    expect(found(box, [grown(1, '13')]).refused).toHaveLength(1);
  });
});
