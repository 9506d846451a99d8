import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { refusal, Stage, type Backdrop } from '../../test/stage';
import { DocumentDock } from '../documents';
import { PlanningPage } from './planning';
import type { PlanningShown } from './service';

type Proposal = PlanningShown['proposals'][number];

const proposal = (at: number, change: Partial<Proposal> = {}): Proposal => ({
  at,
  kind: 'place',
  obtained: 'buy',
  item: { id: 7, number: 'PM-15', name: 'Dosing pump', unit: 'piece' },
  locationId: 0,
  quantity: '5',
  source: null,
  vendor: 'Logam Setia Castings',
  start: '2027-03-01',
  from: null,
  to: '2027-03-24',
  neededOn: '2027-03-03',
  for: [{ kind: 'proposal', id: 9, number: 'SK-D4', party: '', day: '2027-03-03', quantity: '5' }],
  more: 0,
  taken: null,
  ...change,
});

const PROPOSALS = [
  proposal(0),
  proposal(1, {
    obtained: 'assemble',
    item: { id: 9, number: 'SK-D4', name: 'Dosing skid', unit: 'piece' },
    vendor: '',
    start: '2027-03-03',
    neededOn: null,
    for: [{ kind: 'SO', id: 61, number: 'SO-0061', party: 'Padi Emas', day: '2027-03-11', quantity: '9' }],
    more: 2,
  }),
  proposal(2, {
    kind: 'move',
    source: { kind: 'PO', id: 4, number: 'PO-0004' },
    start: null,
    from: '2027-04-01',
    to: '2027-03-20',
    neededOn: null,
  }),
  proposal(3, {
    kind: 'cancel',
    source: { kind: 'PO', id: 5, number: 'PO-0005' },
    start: null,
    from: '2027-04-08',
    to: null,
    neededOn: null,
    for: [],
  }),
];

const run = (change: Partial<PlanningShown> = {}): PlanningShown => ({
  id: 3,
  state: 'done',
  done: 24,
  total: 24,
  workDate: '2027-03-01',
  madeAt: '2027-03-01T08:30:00.000Z',
  by: 'Mei Lin',
  since: 0,
  until: '2027-05-30',
  items: [],
  proposed: PROPOSALS.length,
  proposals: PROPOSALS,
  short: [],
  late: [],
  ...change,
});

/** Stands where the dock is. */
@Component({ selector: 'k-document-dock', template: '<ng-content />', changeDetection: ChangeDetectionStrategy.OnPush })
class NoDock {
  readonly own = input('');
  readonly itemId = input<number | null>(null);
  readonly about = input('');
  readonly asking = input<unknown>(null);
}

async function staged(shown: PlanningShown | null, more: Backdrop = {}) {
  TestBed.overrideComponent(PlanningPage, { remove: { imports: [DocumentDock] }, add: { imports: [NoDock] } });
  return Stage.of(PlanningPage, {
    reads: ({ name }) =>
      name === 'findItems'
        ? { rows: [{ id: 7, number: 'PM-15', name: 'Dosing pump' }] }
        : { byProbability: false, run: shown },
    ...more,
  });
}

describe('planning ahead', () => {
  it('says what to do, for whom, and what comes too late', async () => {
    const stage = await staged(run());
    expect(stage.text('p[role=status] b')).toBe(
      '24 items until Sun 30 May: 4 proposals; 1 too late for whom it is for.',
    );
    const rows = stage.rows().filter((cells) => cells.length === 8);
    expect(rows.map((cells) => cells[1])).toEqual([
      'Buy from Logam Setia Castings',
      'Assemble',
      'Bring forward PO-0004',
      'Drop PO-0005',
    ]);
    expect(rows[0]![5]).toBe('Wed 24 Mar wanted Wed 3 Mar');
    expect(rows[0]![6]).toBe('SK-D4 as proposed, for SO-0061');
    expect(rows[1]![6]).toBe('SO-0061, Padi Emas and 2 more');
    expect(rows[2]![5]).toBe('Thu 1 Apr → Sat 20 Mar');
    expect(rows[3]![6]).toBe('nobody');
  });

  it('says when and for whom it was made, and offers to plan again first where something happened since', async () => {
    const fresh = await staged(run());
    expect(fresh.text('p[role=status]')).toMatch(/made Mon,? 1 Mar.* for Mei Lin$/);
    expect(fresh.button('Plan again').classList).not.toContain('next');
    fresh.close();
    const old = await staged(run({ since: 2 }));
    expect(old.text('p[role=status]')).toMatch(/for Mei Lin; 2 changes since$/);
    expect(old.button('Plan again').classList).toContain('next');
    expect(old.button('Take 3 proposals').classList).not.toContain('next');
    old.close();
    const yesterday = await staged(run({ workDate: '2027-02-28' }));
    expect(yesterday.button('Plan again').classList).toContain('next');
  });

  it('says whether what is left of agreements counts by how likely it is', async () => {
    const stage = await staged(run());
    await stage.choose('what is left of agreements by its probability');
    expect(stage.acted).toEqual([{ name: 'weighPlanning', input: { byProbability: true } }]);
  });

  it('says what comes too late and cannot come sooner', async () => {
    const late = [
      {
        item: { id: 7, number: 'PM-15' },
        source: { kind: 'PO', id: 9, number: 'PO-0009', party: 'Arus' },
        quantity: '5',
        comes: '2027-03-05',
        neededOn: '2027-03-02',
        for: ['SO-0061', 'SO-0062'],
      },
    ];
    const stage = await staged(run({ proposals: [], proposed: 0, late }));
    expect(stage.rows()).toEqual([
      ['PO-0009 Arus', 'PM-15', '5', 'comes Fri 5 Mar wanted Tue 2 Mar', 'SO-0061, SO-0062'],
    ]);
    expect(stage.text('p[role=status] b')).not.toContain('comes in time');
  });

  it('says once what all of them are refused for', async () => {
    const refused = [0, 1, 2].map((at) => refusal('plan-moved', `at.${at}`, 'Plan again.'));
    const stage = await staged(run(), { refused });
    await stage.press('Take 3 proposals');
    expect(stage.element.querySelectorAll('k-refusals p')).toHaveLength(1);
  });

  it('takes all but what somebody was asked for, unless that is chosen', async () => {
    const stage = await staged(run());
    await stage.press('Take 3 proposals');
    expect(stage.acted).toEqual([{ name: 'takeProposals', input: { id: 3, at: [0, 1, 2] } }]);
    await stage.choose('Take: Drop 5 PM-15');
    await stage.choose('Take: Assemble 5 SK-D4');
    await stage.press('Take 3 proposals');
    expect(stage.acted[1]!.input).toEqual({ id: 3, at: [0, 2, 3] });
  });

  it('takes only what is shown', async () => {
    const stage = await staged(run());
    await stage.press('Buy');
    await stage.press('Take 1 proposal');
    expect(stage.acted[0]!.input).toEqual({ id: 3, at: [0] });
    await stage.press('Change what is coming');
    expect(stage.rows().filter((cells) => cells.length === 8)).toHaveLength(2);
    await stage.choose('All of them');
    await stage.press('Take 2 proposals');
    expect(stage.acted[1]!.input).toEqual({ id: 3, at: [2, 3] });
  });

  it('plans until the day typed, for the items chosen, and says at its field what is refused', async () => {
    const stage = await staged(null, { refused: [refusal('beyond-horizon', 'until', 'Choose a day between.')] });
    expect(stage.text('.empty')).toContain('Nothing was planned yet');
    await stage.pick('Only', 'PM-15');
    await stage.type('Until', '30/6');
    await stage.press('Plan');
    expect(stage.acted).toEqual([{ name: 'startPlanning', input: { until: '2027-06-30', itemIds: [7] } }]);
    expect(stage.text('.asked')).toContain('Choose a day between.');
    await stage.press('Not only PM-15');
    await stage.press('Plan');
    expect(stage.acted[1]!.input).toEqual({ until: '2027-06-30', itemIds: [] });
  });

  it('shows how far it is and can be stopped; what was taken leads to what it became', async () => {
    const going = await staged(run({ state: 'running', done: 10 }));
    expect(going.text('p[role=status]')).toBe('10 of 24 items');
    await going.press('Stop');
    expect(going.acted).toEqual([{ name: 'stopRepromise', input: { id: 3 } }]);
    going.close();
    const taken = PROPOSALS.map((each) => ({ ...each, taken: { kind: 'PO', id: 8, number: 'PO-0008' } }));
    const stage = await staged(run({ proposals: taken }));
    expect(stage.element.querySelector('a[href="/purchases/8"]')?.textContent).toBe('PO-0008');
    expect(() => stage.button('Take 3 proposals')).toThrow();
    stage.close();
    const none = await staged(run({ proposals: [], proposed: 0, items: ['PM-15'] }));
    expect(none.text('p[role=status] b')).toBe(
      'PM-15 and what goes into it until Sun 30 May: all that is needed is there or comes in time.',
    );
  });
});
