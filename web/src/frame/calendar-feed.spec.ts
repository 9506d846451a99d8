import { refusal, Stage } from '../../test/stage';
import { Refused } from '../kit/act/api';
import { CalendarFeed } from './calendar-feed';

describe('the address of the calendar', () => {
  it('is made when asked for, shown whole, and another is not made by itself', async () => {
    const stage = await Stage.of(CalendarFeed, { reads: () => ({ path: '/api/calendar/abc.ics' }) });
    expect(stage.read).toEqual([]);
    await stage.press('Make a private address');
    expect(stage.field('Private address').value).toBe(`${location.origin}/api/calendar/abc.ics`);
    expect(stage.read.map((each) => each.name)).toEqual(['renewCalendar']);
    expect(stage.button('Make another').disabled).toBe(false);
  });

  it('says why none could be made, and lets it be tried again', async () => {
    const answers: unknown[] = [new Refused(503, [refusal('away', '', 'Not now.')]), { path: '/api/calendar/b.ics' }];
    const stage = await Stage.of(CalendarFeed, { reads: () => answers.shift() });
    await stage.press('Make a private address');
    expect(stage.text('[role="alert"]')).toBe('Not now.');
    await stage.press('Make a private address');
    expect(stage.field('Private address').value).toContain('b.ics');
  });

  it('copies', async () => {
    const written: string[] = [];
    Object.defineProperty(navigator, 'clipboard', {
      value: { writeText: (text: string) => Promise.resolve(void written.push(text)) },
      configurable: true,
    });
    const stage = await Stage.of(CalendarFeed, { reads: () => ({ path: '/api/calendar/c.ics' }) });
    await stage.press('Make a private address');
    await stage.press('Copy');
    expect(written).toEqual([`${location.origin}/api/calendar/c.ics`]);
    expect(stage.button('Copied')).toBeTruthy();
    await stage.press('Close');
    expect(stage.closed).toHaveLength(1);
  });
});
