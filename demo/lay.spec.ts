import { chanceOf } from './index';
import { Timetable } from '../server/sample/timetable';

describe('chance', () => {
  it('gives the same for the same seed, within its bounds', () => {
    const [a, b, c] = [chanceOf(7), chanceOf(7), chanceOf(8)];
    const draw = (chance: ReturnType<typeof chanceOf>) => Array.from({ length: 200 }, () => chance.whole(3, 9));
    const first = draw(a);
    expect(draw(b)).toEqual(first);
    expect(draw(c)).not.toEqual(first);
    expect(Math.min(...first)).toBe(3);
    expect(Math.max(...first)).toBe(9);
  });
});

describe('timetable', () => {
  it('runs in day order, steps added on the way too, and stops at the last day', async () => {
    const done: string[] = [];
    const timetable = new Timetable();
    const step = (name: string) => async () => void done.push(name);
    timetable.at('2027-03-02', step('second'));
    timetable.at('2027-03-01', async () => {
      done.push('first');
      timetable.at('2027-03-01', step('same day'));
      timetable.at('2027-03-09', step('too late'));
    });
    await timetable.run('2027-03-05');
    expect(done).toEqual(['first', 'same day', 'second']);
  });
});
