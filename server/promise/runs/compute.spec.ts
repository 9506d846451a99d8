import { addDays } from '@core/kernel';
import type { PlaceProposal } from '@core/promise';
import { MOST_KEPT, soonest } from './compute';

const proposal = (at: number): PlaceProposal => ({
  kind: 'place',
  itemId: at,
  obtained: 'buy',
  quantity: '1',
  start: addDays('2027-03-01', (at * 7) % 300),
  due: '2028-03-01',
  neededOn: null,
  vendorId: 1,
  own: [],
  for: [],
});

describe('what is kept of a planning run', () => {
  it('is all of it in its order, or of very many what must be begun first, with how many there were', () => {
    const few = [proposal(5), proposal(1)];
    expect(soonest({ proposals: few, short: [], late: [] })).toEqual({
      proposals: few,
      short: [],
      late: [],
      proposed: 2,
    });
    const many = Array.from({ length: MOST_KEPT + 500 }, (_, at) => proposal(at));
    const kept = soonest({ proposals: many, short: [], late: [] });
    expect([kept.proposals.length, kept.proposed]).toEqual([MOST_KEPT, MOST_KEPT + 500]);
    const starts = kept.proposals.map((each) => (each.kind === 'place' ? each.start : ''));
    expect(starts).toEqual([...starts].sort());
    const last = starts.at(-1)!;
    const left = many.filter((each) => !kept.proposals.includes(each));
    expect(left.every((each) => each.start >= last)).toBe(true);
  });
});
