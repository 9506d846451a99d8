import { addDays } from '@core/kernel';
import { Stage } from '../../test/stage';
import { LoadPage } from './load';

const DAYS = Array.from({ length: 42 }, (_, at) => {
  const day = addDays('2027-03-01', at);
  const works = at % 7 < 5;
  const order = { id: 8, kind: 'PR', number: 'PR-0008', minutes: 750, item: 'FV-900' };
  return {
    day,
    capacity: works ? 960 : 0,
    minutes: at === 2 ? 750 : at === 3 ? 1200 : 0,
    orders: at === 2 ? [order] : at === 3 ? [order, { ...order, id: 9, number: 'PR-0009', minutes: 450 }] : [],
  };
});

describe('the load of work centres', () => {
  it('shows each day against what the centre can do, with the orders behind it; by week they add up', async () => {
    const centres = [{ id: 1, code: 'WELD', name: 'Welding bay', days: DAYS }];
    const stage = await Stage.of(LoadPage, { reads: () => ({ centres }) });
    await stage.press('Welding bay, Wed 3 Mar: 750 of 960 minutes');
    expect(stage.text('section')).toContain('PR-0008');
    const full = stage.button('Welding bay, Thu 4 Mar: 1200 of 960 minutes');
    expect(full.classList).toContain('over');
    full.click();
    await stage.rests();
    expect(stage.element.querySelectorAll('section tr')).toHaveLength(2);
    expect(stage.element.querySelector('section a')?.getAttribute('href')).toBe('/workshop/8');
    await stage.press('Week');
    const weeks = [...stage.element.querySelectorAll('button.bar')].map((each) => each.getAttribute('aria-label'));
    expect(weeks).toHaveLength(6);
    expect(weeks[0]).toContain('1950 of 4800 minutes');
  });

  it('says so where there is no work centre', async () => {
    const stage = await Stage.of(LoadPage, { reads: () => ({ centres: [] }) });
    expect(stage.text('table')).toContain('There are no work centres yet');
  });
});
