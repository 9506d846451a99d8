import { decideSeries, usualSeries, type Series, type SeriesTyped } from '.';

const CI: Series = { kind: 'CI', prefix: 'CI-', next: 1, first: 1 };
const all = [usualSeries('SO'), CI];
const typed = (change: Partial<SeriesTyped> = {}): SeriesTyped => ({
  kind: 'CI',
  prefix: 'INV/',
  next: '5001',
  ...change,
});
const refused = (of: readonly Series[], change: Partial<SeriesTyped>) => {
  const decision = decideSeries(of, typed(change));
  return decision.ok ? [] : decision.refusals.map(({ field, code }) => `${field}: ${code}`);
};
const effects = (of: readonly Series[], change: Partial<SeriesTyped>) => {
  const decision = decideSeries(of, typed(change));
  if (!decision.ok) throw new Error(JSON.stringify(decision.refusals));
  return decision.effects;
};

describe('U2 how documents are numbered', () => {
  it('goes on where the books before ended, under what stood before it there', () => {
    expect(effects(all, {})).toEqual({ kind: 'CI', prefix: 'INV/', next: 5001, first: 5001, number: 'INV/5001' });
    expect(effects(all, { prefix: ' 27/A- ', next: '1' })).toMatchObject({ number: '27/A-0001', first: 1 });
    expect(effects([], { kind: 'SH', prefix: 'DO-', next: '7' })).toMatchObject({ kind: 'SH', number: 'DO-0007' });
  });

  it('may be called otherwise at any time, and begun only once', () => {
    const begun = [{ ...CI, next: 5, first: 1 }];
    expect(effects(begun, { next: '5' })).toMatchObject({ prefix: 'INV/', next: 5, first: 1, number: 'INV/0005' });
    expect(refused(begun, { next: '6' })).toEqual(['next: numbers-begun']);
    expect(refused([{ ...CI, next: 5001, first: 5001 }], { next: '40' })).toEqual([]);
  });

  it.each<[string, Partial<SeriesTyped>]>([
    ['prefix: required', { prefix: ' ' }],
    ['prefix: too-long', { prefix: 'INVOICES-' }],
    ['prefix: not-a-prefix', { prefix: 'INV7' }],
    ['prefix: not-a-prefix', { prefix: '-A' }],
    ['prefix: not-a-prefix', { prefix: 'A B-' }],
    ['prefix: not-a-prefix', { prefix: 'X' }],
    ['prefix: not-a-prefix', { prefix: 'É-' }],
    ['prefix: prefix-taken', { prefix: 'so-' }],
    ['next: not-a-number', { next: '' }],
    ['next: not-a-number', { next: '0' }],
    ['next: not-a-number', { next: '1.5' }],
    ['next: not-a-number', { next: 'many' }],
    ['next: not-a-number', { next: '90000001' }],
  ])('%s', (refusal, change) => expect(refused(all, change)).toEqual([refusal]));

  it('never comes to a number an opened invoice has', () => {
    const said = (next: string, opened: string[]) => {
      const decision = decideSeries(all, typed({ next }), opened);
      return decision.ok ? [] : decision.refusals.map(({ field, code }) => `${field}: ${code}`);
    };
    expect(said('5001', ['INV/4999', 'INV/X', 'OLD/6000'])).toEqual([]);
    expect(said('5001', ['inv/5001'])).toEqual(['prefix: number-opened']);
    expect(said('5001', ['INV/6000'])).toEqual(['prefix: number-opened']);
  });

  it('fits where numbers stand', () => {
    expect(refused(all, { prefix: 'INVOICE-', next: '90000000' })).toEqual([]);
    expect(effects(all, { prefix: 'INVOICE-', next: '90000000' }).number).toHaveLength(16);
  });
});
