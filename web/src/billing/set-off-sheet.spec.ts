import { oldestFirst } from './set-off-sheet';

const rows = (...owed: string[]) =>
  owed.map((each, at) => ({
    openItemId: at,
    document: { kind: 'CI' as const, id: at, number: `CI-${at}` },
    dueDate: '2027-03-01',
    owed: each,
  }));

describe('what of a credit goes where', () => {
  it('is the oldest first until it is used up', () => {
    expect(oldestFirst({ left: '100', rows: rows('60', '80', '5') })).toEqual(['60', '40', '']);
    expect(oldestFirst({ left: '1000', rows: rows('60', '80.50') })).toEqual(['60', '80.5']);
    expect(oldestFirst({ left: '0', rows: rows('60') })).toEqual(['']);
    expect(oldestFirst({ left: '5', rows: [] })).toEqual([]);
  });
});
