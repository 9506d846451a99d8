import { missingParts, type PartOfOne } from './missing-parts';

const part = (change: Partial<PartOfOne> = {}): PartOfOne => ({
  itemId: 1,
  partId: 2,
  part: 'PM-15',
  optionId: null,
  quantity: '2',
  whole: true,
  free: '5',
  comesOn: null,
  ...change,
});
const line = (quantity: string, change = {}) => ({
  itemId: 1,
  item: 'SK-D2',
  quantity,
  field: 'lines.0',
  optionIds: [],
  replaced: [],
  ...change,
});
const told = (...args: Parameters<typeof missingParts>) =>
  missingParts(...args).map(({ code, field, facts }) => [code, field, facts]);

describe('W1 what a line that is made lacks', () => {
  it('is nothing where enough is free', () => {
    expect(told([line('2')], [part()])).toEqual([]);
    expect(told([line('2.5')], [part()])).toEqual([]);
    expect(told([line('9')], [part({ itemId: 7 })])).toEqual([]);
  });

  it('is told with what is free and what comes', () =>
    expect(told([line('3')], [part({ comesOn: '2027-03-09' })])).toEqual([
      ['parts-short', 'lines.0', { item: 'SK-D2', part: 'PM-15', needed: '6', free: '5', comesOn: '2027-03-09' }],
    ]));

  it('is rounded up to what can be taken, a part that goes in twice as one', () => {
    const twice = [part({ quantity: '0.3' }), part({ quantity: '1.7' })];
    expect(told([line('1')], twice)).toEqual([]);
    expect(told([line('3')], twice)).toMatchObject([[{}, {}, { needed: '7' }]]);
    expect(told([line('3')], [part({ quantity: '1.70001', whole: false, free: '5.1' })])).toMatchObject([
      [{}, {}, { needed: '5.10003' }],
    ]);
  });

  it('is less for the next line by what the one before it takes', () => {
    const lines = [line('2'), line('1', { field: 'lines.1' }), line('1', { field: 'lines.2' })];
    expect(told(lines, [part()])).toMatchObject([
      ['parts-short', 'lines.1', { free: '1' }],
      ['parts-short', 'lines.2', { free: '0' }],
    ]);
  });

  it('is reckoned with what is chosen, without what that replaces', () => {
    const parts = [part(), part({ partId: 9, part: 'PM-22', optionId: 31, quantity: '1', free: '0' })];
    expect(told([line('3')], parts)).toMatchObject([[{}, {}, { part: 'PM-15' }]]);
    const chosen = line('3', { optionIds: [31], replaced: [2] });
    expect(told([chosen], parts)).toMatchObject([[{}, {}, { part: 'PM-22', needed: '3' }]]);
  });

  it('takes what is held for others beyond what is there as nothing', () =>
    expect(told([line('1')], [part({ free: '-3' })])).toMatchObject([[{}, {}, { free: '0' }]]));
});
