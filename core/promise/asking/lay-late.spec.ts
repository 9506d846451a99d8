import { lateFrom, type WaitsFor } from './lay-late';
import type { LaidOperation, LaidWork } from './lay-rest';

const TODAY = '2027-03-08';
const operation = (id: number, lastDay: string, through = '0'): LaidOperation => ({
  id,
  name: `Step ${id}`,
  centreId: 1,
  minutes: 600,
  parallel: 1,
  through,
  lastDay,
});
const work = (...operations: LaidOperation[]): LaidWork => ({
  number: 'PR-1',
  state: 'running',
  quantity: '4',
  operations,
});
const from = (of: LaidWork, ...waits: WaitsFor[]) => lateFrom(of, TODAY, waits);

describe('W3 what is late in the workshop', () => {
  it('is laid again from its first operation that should be over and is not', () => {
    const all = work(operation(1, '2027-03-05', '4'), operation(2, '2027-03-07', '3'), operation(3, '2027-03-06'));
    expect(from(all)).toEqual({ operationId: 2, day: TODAY, late: true });
    expect(from(work(operation(1, TODAY), operation(2, '2027-03-20')))).toBeNull();
    expect(from(work(operation(1, '2027-03-01', '4')))).toBeNull();
    expect(from(work())).toBeNull();
  });

  it('or from the first that waits for a part, the day after that is there', () => {
    const all = work(operation(1, '2027-03-10'), operation(2, '2027-03-12'));
    expect(from(all, { operationId: 2, there: '2027-03-14' })).toEqual({
      operationId: 2,
      day: '2027-03-15',
      late: false,
    });
    const parts = [
      { operationId: 1, there: '2027-03-17' },
      { operationId: 1, there: '2027-03-11' },
      { operationId: 2, there: '2027-03-30' },
    ];
    expect(from(all, ...parts)).toEqual({ operationId: 1, day: '2027-03-18', late: false });
    // What is there by today moves nothing.
    expect(from(all, { operationId: 1, there: '2027-03-07' })).toBeNull();
    expect(from(all, { operationId: 1, there: TODAY })).toEqual({ operationId: 1, day: '2027-03-09', late: false });
  });

  it('late, and waiting for a part, begins when the part is there', () => {
    const all = work(operation(1, '2027-03-05'), operation(2, '2027-03-12'));
    expect(from(all, { operationId: 1, there: '2027-03-10' })).toEqual({
      operationId: 1,
      day: '2027-03-11',
      late: true,
    });
    expect(from(all, { operationId: 2, there: '2027-03-20' })).toEqual({ operationId: 1, day: TODAY, late: true });
  });
});
