import {
  chosenOf,
  optionRefusals,
  optionsName,
  optionsPrice,
  replacedBy,
  withOptions,
  type ItemOption,
  type OptionGroup,
} from './options';

const option = (id: number, number: string, change: Partial<ItemOption> = {}): ItemOption => ({
  id,
  component: { id: id + 100, number, name: number },
  quantity: '2',
  operationNo: null,
  price: '0',
  needs: [],
  excludes: [],
  ...change,
});
/** Another pump instead of PM-15; a panel, which is to be chosen; up to two extras. */
const groups: OptionGroup[] = [
  {
    id: 1,
    name: 'Pump',
    replaces: { id: 15, number: 'PM-15' },
    atLeast: 0,
    atMost: 1,
    options: [option(1, 'PM-22', { price: '700', needs: [4] }), option(2, 'PM-9', { price: '-50.5' })],
  },
  {
    id: 2,
    name: 'Panel',
    replaces: null,
    atLeast: 1,
    atMost: 1,
    options: [option(3, 'PANEL-S', { quantity: '1' }), option(4, 'PANEL-L', { quantity: '1', price: '120' })],
  },
  {
    id: 3,
    name: 'Extras',
    replaces: null,
    atLeast: 0,
    atMost: 2,
    options: [
      option(5, 'LIGHT', { operationNo: 30 }),
      option(6, 'HORN', { excludes: [5] }),
      option(7, 'COVER'),
      option(8, 'FEET'),
    ],
  },
];
const refused = (...chosen: number[]) =>
  optionRefusals('SK-D2', groups, chosen, 'lines.0.optionIds').map(({ code, field, facts }) => {
    expect(field).toBe('lines.0.optionIds');
    return [code, ...Object.values(facts ?? {})];
  });

describe('W2 what may be chosen', () => {
  it.each<[string, number[], unknown[]]>([
    ['one panel', [3], []],
    ['all that goes together', [1, 4, 5, 7], []],
    ['no panel', [], [['options-few', 'SK-D2', 'Panel', '1']]],
    ['two panels', [3, 4], [['options-many', 'SK-D2', 'Panel', '1']]],
    ['as many extras as may be', [3, 5, 7], []],
    ['an extra too many', [3, 6, 7, 8], [['options-many', 'SK-D2', 'Extras', '2']]],
    ['a pump without its panel', [1, 3], [['option-needs', 'PM-22', 'PANEL-L']]],
    ['a horn with a light', [3, 5, 6], [['option-excludes', 'HORN', 'LIGHT']]],
    ['what nobody offers', [3, 99], [['option-unknown', 'SK-D2']]],
  ])('%s', (_what, chosen, codes) => expect(refused(...chosen)).toEqual(codes));

  it('is nothing of an item without options', () => {
    expect(optionRefusals('UV-40', [], [], '')).toEqual([]);
    expect(optionRefusals('UV-40', [], [3], '').map(({ code }) => code)).toEqual(['option-unknown']);
  });

  it('has a name and a price', () => {
    expect(chosenOf(groups, [4, 1]).map(({ id }) => id)).toEqual([1, 4]);
    expect(optionsName(groups, [4, 1])).toBe('PM-22, PANEL-L');
    expect(optionsName(groups, [])).toBe('');
    expect(optionsPrice(groups, [1, 4, 5]).toFixed()).toBe('820');
    expect(optionsPrice(groups, [2]).toFixed()).toBe('-50.5');
  });
});

describe('W1 what it is made of then', () => {
  const bom = [
    { componentId: 15, operationNo: 10 },
    { componentId: 16, operationNo: 20 },
  ];

  it('stays as it is where nothing is chosen', () => {
    expect(replacedBy(groups, [])).toEqual([]);
    expect(withOptions(bom, groups, [])).toEqual({ kept: bom, added: [] });
  });

  it('has the option where the component it replaces was', () => {
    expect(replacedBy(groups, [1, 4])).toEqual([15]);
    expect(withOptions(bom, groups, [1, 4, 5])).toEqual({
      kept: [bom[1]],
      added: [
        { componentId: 101, quantity: '2', operationNo: 10 },
        { componentId: 104, quantity: '1', operationNo: null },
        { componentId: 105, quantity: '2', operationNo: 30 },
      ],
    });
  });
});
