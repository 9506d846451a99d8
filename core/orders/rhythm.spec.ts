import { proposalOf, type BoughtBefore } from '.';

const before = (change: Partial<BoughtBefore> = {}): BoughtBefore => ({
  times: 4,
  firstDay: '2027-01-01',
  lastDay: '2027-01-31',
  quantity: '42',
  lastQuantity: '12',
  open: '0',
  ...change,
});

describe('what is bought again', () => {
  it.each<[string, Partial<BoughtBefore>, string, unknown]>([
    [
      'after as many days as usual, as much as usual',
      {},
      '2027-02-10',
      { every: 10, dueOn: '2027-02-10', quantity: '11' },
    ],
    ['three days ahead', {}, '2027-02-07', { every: 10, dueOn: '2027-02-10', quantity: '11' }],
    ['not four days ahead', {}, '2027-02-06', { every: 10, dueOn: '2027-02-10', quantity: null }],
    ['late', {}, '2027-03-20', { every: 10, dueOn: '2027-02-10', quantity: '11' }],
    [
      'in parts where it was bought in parts',
      { lastQuantity: '12.5' },
      '2027-02-10',
      { every: 10, dueOn: '2027-02-10', quantity: '10.5' },
    ],
    ['less what is still to come', { open: '4' }, '2027-02-10', { every: 10, dueOn: '2027-02-10', quantity: '7' }],
    ['not where enough comes', { open: '11' }, '2027-02-10', { every: 10, dueOn: '2027-02-10', quantity: null }],
    ['not by two times', { times: 2 }, '2027-02-10', null],
    ['not by one day', { firstDay: '2027-01-31' }, '2027-02-10', null],
    ['every day at most', { times: 90 }, '2027-02-10', { every: 1, dueOn: '2027-02-01', quantity: null }],
  ])('%s', (_what, change, workDate, expected) => expect(proposalOf(before(change), workDate)).toEqual(expected));
});
