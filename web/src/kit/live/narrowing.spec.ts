import { of } from 'rxjs';
import { Stage } from '../../../test/stage';
import { daysInWords, Narrowing, type Narrow } from './narrowing';

const TODAY = '2027-03-01';
const NARROWS: Narrow[] = [
  {
    name: 'customer',
    label: 'Customer',
    kind: 'party',
    search: () => of([{ id: 3, number: 'C-201', name: 'Teratai Bay Resort' }]),
  },
  { name: 'ships', label: 'Goes out', kind: 'days' },
  { name: 'group', label: 'Group', kind: 'brought', words: (id) => `no. ${id}` },
];

describe('what a list is narrowed to', () => {
  it.each([
    ['..-1', 'up to Sun 28 Feb'],
    ['+5..', 'from Sat 6 Mar'],
    ['1/3..5/3', 'Mon 1 Mar to Fri 5 Mar'],
    ['fri', 'Fri 5 Mar'],
    ['soon', 'soon'],
  ])('%s is %s', (typed, words) => expect(daysInWords(typed, TODAY)).toBe(words));

  const staged = async (values: Record<string, string>) => {
    const stage = await Stage.of(Narrowing, {}, { narrows: NARROWS, values, workDate: TODAY });
    const said: { name: string; value: string }[] = [];
    const component = stage as unknown as { fixture: { componentInstance: Narrowing } };
    component.fixture.componentInstance.narrowed.subscribe((each) => said.push(each));
    return { stage, said };
  };

  it('stands there in words and is taken off, also what only an address brought', async () => {
    const { stage, said } = await staged({ ships: '..-1', group: '4' });
    expect(stage.text()).toContain('Goes out up to Sun 28 Feb');
    expect(stage.text()).toContain('Group no. 4');
    expect(stage.text()).toContain('+ Customer');
    expect(stage.text()).not.toContain('+ Group');
    await stage.press('Take off Group');
    await stage.press('Take off Goes out');
    expect(said).toEqual([
      { name: 'group', value: '' },
      { name: 'ships', value: '' },
    ]);
  });

  it('is typed in place, and what is no range of days is marked', async () => {
    const { stage, said } = await staged({});
    await stage.press('+ Goes out');
    const input = stage.element.querySelector<HTMLInputElement>('.days input')!;
    input.value = ' 1/3..fri ';
    input.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter' }));
    await stage.rests();
    expect(said).toEqual([{ name: 'ships', value: '1/3..fri' }]);
    stage.close();
    const bad = await staged({ ships: 'soon' });
    expect(bad.stage.element.querySelector('.on')!.classList.contains('bad')).toBe(true);
  });

  it('leaves what was typed where one leaves it by Escape', async () => {
    const { stage, said } = await staged({});
    await stage.press('+ Goes out');
    const input = stage.element.querySelector<HTMLInputElement>('.days input')!;
    input.value = 'fri';
    input.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape' }));
    input.dispatchEvent(new Event('blur'));
    await stage.rests();
    expect(said).toEqual([]);
    expect(stage.text()).toContain('+ Goes out');
  });

  it('finds a party, and goes by its number', async () => {
    const { stage, said } = await staged({});
    await stage.press('+ Customer');
    await stage.pick('Customer', 'Teratai');
    expect(said).toEqual([{ name: 'customer', value: 'C-201' }]);
  });
});
