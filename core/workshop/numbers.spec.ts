import { NOTHING_KEPT, type SerialGround } from '../serial';
import { apartNeeds, assemblyNeeds, reportNeeds, takeBackNeeds } from './numbers';
import type { Assembled } from './ship';
import type { ReportEffects } from './report';
import { ground } from './testing';

const effects = (change: Partial<ReportEffects> = {}) =>
  ({
    good: '2',
    components: [{ componentId: 21, itemId: 2, item: 'PM-15', quantity: '4', cost: '0' }],
    ties: [{ orderLineId: 41, made: '2', released: '0' }],
    ...change,
  }) as ReportEffects;

describe('P6 W3 the pieces a report uses and makes', () => {
  it('are used by the order, and come for its lines with their share of the parts', () => {
    expect(reportNeeds(ground(), effects(), 3)).toEqual([
      {
        way: 'out',
        itemId: 2,
        locationId: 0,
        quantity: '4',
        with: { kind: 'WR', at: 3 },
        field: 'good',
        typed: [],
        to: 'used',
        lineId: null,
        workId: 7,
      },
      {
        way: 'in',
        itemId: 1,
        locationId: 0,
        quantity: '2',
        with: { kind: 'WR', at: 3 },
        field: 'good',
        typed: [],
        for: [{ lineId: 41, quantity: '2' }],
        made: {
          workId: 7,
          quantity: '4',
          before: '0',
          parts: [
            { itemId: 2, quantity: '8' },
            { itemId: 3, quantity: '25.2' },
          ],
        },
      },
    ]);
    const said = reportNeeds(ground(), effects(), 0, {
      made: ['S'],
      used: [{ componentId: 21, numbers: ['P'], field: 'used.0.numbers' }],
      field: 'numbers',
    });
    expect(said).toMatchObject([
      { typed: ['P'], field: 'used.0.numbers' },
      { typed: ['S'], field: 'numbers' },
    ]);
  });

  it('are made in the act that ships them, of those typed for their line that are not there yet', () => {
    const known: SerialGround = {
      ...NOTHING_KEPT,
      serials: [
        { id: 1, itemId: 1, number: 'S-1', place: 'ours', locationId: 0, lineId: null, workId: null, withinId: null },
        { id: 2, itemId: 9, number: 'S-2', place: 'ours', locationId: 0, lineId: null, workId: null, withinId: null },
      ],
    };
    const assembled: Assembled[] = [{ at: 0, effects: effects() }];
    const typed = [
      { lineId: 41, numbers: ['s-1', ' S-2 ', 'S-3'], field: 'lines.0.numbers' },
      { lineId: 42, numbers: ['S-4'], field: 'lines.1.numbers' },
    ];
    expect(assemblyNeeds([ground()], assembled, typed, known)[1]).toMatchObject({
      typed: [' S-2 ', 'S-3'],
      field: 'lines.0.numbers',
      with: { kind: 'WR', at: 0 },
    });
    expect(assemblyNeeds([ground()], assembled, [], known)[1]).toMatchObject({ typed: [], field: 'lines.0.quantity' });
  });

  it('go back with the report that is taken back', () => {
    const report = { report: { id: 5, number: 'WR-5' } } as Parameters<typeof takeBackNeeds>[0][number];
    const back = {
      way: 'back',
      of: { kind: 'WR', id: 5 },
      document: 'WR-5',
      with: { kind: 'WR', at: 0 },
      from: 'used',
      heldAgain: [],
    };
    expect(takeBackNeeds([report])).toEqual([back]);
    expect(apartNeeds([{ ground: report }] as unknown as Parameters<typeof apartNeeds>[0])).toEqual([back]);
  });
});
