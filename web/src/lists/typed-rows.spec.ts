import { keptList } from '@core/lists';
import type { RefusalShown } from '../kit/act/api';
import type { KeptRow } from './service';
import { TypedRows } from './typed-rows';

const kept = (id: number, cells: Record<string, string>): KeptRow => ({ id, stamp: `seen ${id}`, cells });
const ROWS = [
  kept(2, { zone: 'north', from: '0', perKilogram: '0.3' }),
  kept(1, { zone: 'valley', from: '0', perKilogram: '0.2' }),
];
const refusal = (field: string): RefusalShown => ({ code: 'x', field, facts: {}, sentence: field });

describe('rows typed over a kept list', () => {
  const begun = () => {
    const typed = new TypedRows();
    typed.begin(keptList('freight')!, 'list 1 freight', {});
    return typed;
  };
  beforeEach(() => localStorage.clear());

  it('show a blank row on top, and another as soon as it is typed in', () => {
    const typed = begun();
    const [blank, north] = typed.over(ROWS);
    expect([blank!.id, north!.id, typed.count()]).toEqual([null, 2, 0]);
    typed.set(blank!, 'zone', 'coast');
    expect(typed.over(ROWS).map((row) => row.cells['zone'] ?? '')).toEqual(['', 'coast', 'north', 'valley']);
    expect(typed.over(ROWS).map((row) => typed.marked(row))).toEqual(['', 'new', '', '']);
    expect(typed.count()).toBe(1);
  });

  it('take cells one after the other into the same row, as a paste does', () => {
    const typed = begun();
    const into = typed.roomFrom(typed.over(ROWS)[0]!, 2)!;
    into.forEach((row, index) => {
      typed.set(row, 'zone', `z${index}`);
      typed.set(row, 'perKilogram', '1');
    });
    expect(typed.input().changes.map(({ id, cells }) => [id, cells['zone'], cells['perKilogram']])).toEqual([
      [null, 'z0', '1'],
      [null, 'z1', '1'],
    ]);
    expect(typed.roomFrom(typed.over(ROWS).at(-1)!, 3)).toBeNull();
  });

  it('send what was seen with what is typed over it, and what is to go', () => {
    const typed = begun();
    const [, north, valley] = typed.over(ROWS);
    typed.set(north!, 'perKilogram', '0.4');
    typed.remove(valley!);
    expect(typed.input()).toEqual({
      list: 'freight',
      changes: [{ id: 2, stamp: 'seen 2', cells: { zone: 'north', from: '0', perKilogram: '0.4' } }],
      removed: [{ id: 1, stamp: 'seen 1' }],
    });
    typed.remove(typed.over(ROWS)[2]!);
    expect([typed.going().length, typed.count()]).toEqual([0, 1]);
  });

  it('mark the cell that is refused until its row is touched', () => {
    const typed = begun();
    typed.set(typed.over(ROWS)[1]!, 'perKilogram', 'dear');
    typed.refusals.set([refusal('changes.0.perKilogram'), refusal('changes.0')]);
    const north = () => typed.over(ROWS).find((row) => row.id === 2)!;
    expect([typed.at(north(), 'perKilogram'), typed.at(north(), 'zone'), typed.of(north())]).toEqual([
      'changes.0.perKilogram',
      '',
      'changes.0',
    ]);
    typed.set(north(), 'perKilogram', '0.5');
    expect(typed.refusals()).toEqual([]);
  });

  it('outlive the page, and are typed over what somebody else kept where that is wanted', () => {
    begun().set({ ...ROWS[0]!, key: 'row2', mark: '' }, 'perKilogram', '0.9');
    const again = begun();
    expect(again.changed().map((row) => [row.id, row.stamp, row.cells['perKilogram']])).toEqual([[2, 'seen 2', '0.9']]);
    again.overTheirs([{ ...ROWS[0]!, stamp: 'newer' }]);
    expect(again.input().changes[0]!.stamp).toBe('newer');
    again.drop();
    expect([again.count(), begun().count()]).toEqual([0, 0]);
  });
});
