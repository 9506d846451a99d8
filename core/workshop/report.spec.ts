import fc from 'fast-check';
import { dec, sum } from '@core/kernel';
import { workJournal } from '@core/ledger';
import { decideReport, type ReportTyped } from './report';
import { component, ground, operation, workOrder, workTie } from './testing';
import { plannedCosts, type WorkGround } from './work-order';

const typed = (change: Partial<ReportTyped> = {}): ReportTyped => ({
  operationId: null,
  good: '',
  scrapped: '',
  used: [],
  worked: [],
  finish: false,
  ...change,
});
const effects = (given: WorkGround, asked: Partial<ReportTyped>) => {
  const decision = decideReport(given, typed(asked));
  if (!decision.ok) throw new Error(JSON.stringify(decision.refusals));
  return decision.effects;
};
const codes = (given: WorkGround, asked: Partial<ReportTyped>) => {
  const decision = decideReport(given, typed(asked));
  return decision.ok ? [] : decision.refusals.map(({ field, code }) => `${field}: ${code}`);
};

describe('W3 a report of work', () => {
  it('is reckoned at its components and its minutes, part by part', () => {
    expect(plannedCosts(ground())).toEqual({
      cost: '210.4',
      components: [
        { id: 21, cost: '80' },
        { id: 22, cost: '50.4' },
      ],
      operations: [
        { id: 31, cost: '40' },
        { id: 32, cost: '40' },
      ],
    });
  });

  it('of the whole order takes the share of its pieces of everything, and brings them out at what they were reckoned at', () => {
    const done = effects(ground(), { good: '1' });
    expect(done).toMatchObject({
      good: '1',
      components: [
        { componentId: 21, quantity: '2', cost: '20' },
        { componentId: 22, quantity: '6.3', cost: '63' },
      ],
      operations: [
        { operationId: 31, done: '1', scrapped: '0', minutes: 20, cost: '10' },
        { operationId: 32, done: '1', scrapped: '0', minutes: 10, cost: '10' },
      ],
      materialCost: '83',
      labourCost: '20',
      outputCost: '52.6',
      scrapCost: '0',
      variance: '0',
      inWork: '50.4',
      finished: '1',
      state: 'running',
    });
    expect(done.planned).toMatchObject({ cost: '210.4' });
  });

  it('of the last pieces finishes it: what is left in work is variance', () => {
    const begun = ground({ order: workOrder({ state: 'running', plannedCost: '210.4', inWork: '9', finished: '3' }) });
    const operations = begun.operations.map((each) => ({ ...each, done: '3' }));
    const components = begun.components.map((each) => ({ ...each, used: each.id === 21 ? '6' : '18.9' }));
    const last = effects({ ...begun, operations, components }, { good: '1' });
    expect(last).toMatchObject({
      state: 'finished',
      planned: null,
      outputCost: '52.6',
      variance: '59.4',
      inWork: '0',
      components: [{ quantity: '2' }, { quantity: '6.3' }],
    });
  });

  it('finishes sooner where somebody says so, and lets go of what will not come', () => {
    const tied = ground({ ties: [workTie({ quantity: '3', wanted: '3' })] });
    const done = effects(tied, { good: '1', finish: true });
    expect(done).toMatchObject({
      state: 'finished',
      ties: [{ orderLineId: 41, made: '1', released: '2' }],
      inWork: '0',
    });
    expect(done.variance).toBe('50.4');
    expect(effects(tied, { good: '1' }).ties).toEqual([{ orderLineId: 41, made: '1', released: '0' }]);
  });

  it('of one operation moves its pieces alone, with what is used at it', () => {
    const first = effects(ground(), { operationId: 31, good: '3' });
    expect(first).toMatchObject({
      good: '0',
      outputCost: '0',
      finished: '0',
      components: [{ componentId: 21, quantity: '6' }],
      operations: [{ operationId: 31, done: '3', minutes: 60 }],
      state: 'running',
    });
    const after = ground({
      order: workOrder({ state: 'running', plannedCost: '210.4', inWork: '90' }),
      operations: [operation({ done: '3' }), operation({ id: 32, no: 20, name: 'Wire', minutes: 40, hourCost: '60' })],
      components: [component({ used: '6' }), ground().components[1]!],
    });
    expect(codes(after, { operationId: 32, good: '4' })).toEqual(['good: above-passed']);
    expect(effects(after, { operationId: 32, good: '2' })).toMatchObject({
      good: '2',
      outputCost: '105.2',
      components: [{ componentId: 22, quantity: '12.6' }],
    });
    // The whole of it brings on what did not pass the first yet.
    expect(effects(after, { good: '4' })).toMatchObject({
      operations: [
        { operationId: 31, done: '1', minutes: 20 },
        { operationId: 32, done: '4', minutes: 40 },
      ],
      components: [
        { componentId: 21, quantity: '2' },
        { componentId: 22, quantity: '25.2' },
      ],
    });
  });

  it('loses pieces at what they were reckoned at until then, and makes no more of them', () => {
    const lost = effects(ground(), { operationId: 31, scrapped: '1' });
    expect(lost).toMatchObject({
      scrapped: '1',
      allScrapped: '1',
      finished: '0',
      scrapCost: '30',
      components: [{ quantity: '2' }],
      operations: [{ operationId: 31, done: '0', scrapped: '1' }],
    });
    expect(effects(ground(), { scrapped: '1' })).toMatchObject({
      scrapCost: '52.6',
      outputCost: '0',
      allScrapped: '1',
    });
    const left = ground({ order: workOrder({ state: 'running', plannedCost: '210.4', scrapped: '1', finished: '2' }) });
    expect(codes(left, { good: '2' })).toContain('good: above-ordered');
    expect(codes(left, { scrapped: '2' })).toContain('scrapped: above-ordered');
    const operations = left.operations.map((each) => ({ ...each, done: '2', scrapped: each.id === 31 ? '1' : '0' }));
    expect(effects({ ...left, operations }, { good: '1' })).toMatchObject({ state: 'finished' });
  });

  it('counts what was used ahead, and takes what is said instead of what is planned', () => {
    const ahead = ground({ components: [component({ used: '5' })] });
    expect(effects(ahead, { good: '1' }).components).toEqual([]);
    expect(effects(ahead, { good: '3' }).components).toMatchObject([{ quantity: '1' }]);
    const said = { used: [{ componentId: 21, quantity: '7' }], worked: [{ operationId: 31, minutes: '5' }] };
    expect(effects(ground(), { good: '1', ...said })).toMatchObject({
      components: [{ componentId: 21, quantity: '7', cost: '70' }, { componentId: 22 }],
      operations: [{ operationId: 31, minutes: 5, cost: '2.5' }, { minutes: 10 }],
    });
    expect(effects(ground(), { good: '1', used: [{ componentId: 21, quantity: '0' }] }).components).toMatchObject([
      { componentId: 22 },
    ]);
    // Used alone, with nothing passed.
    expect(effects(ground(), { used: [{ componentId: 22, quantity: '0.5' }] })).toMatchObject({
      good: '0',
      components: [{ componentId: 22, quantity: '0.5', cost: '5' }],
      operations: [],
      state: 'running',
    });
    expect(effects(ground(), { worked: [{ operationId: 32, minutes: '15' }] })).toMatchObject({
      operations: [{ operationId: 32, done: '0', minutes: 15, cost: '15' }],
      labourCost: '15',
    });
  });

  it('holds good ones for the lines that ship first, as far as they want them; the rest is free', () => {
    const ties = [
      workTie({ quantity: '1', wanted: '0' }),
      workTie({ orderLineId: 42, quantity: '2', made: '1', wanted: '5' }),
      workTie({ orderLineId: 43, quantity: '1', wanted: '1' }),
    ];
    expect(effects(ground({ ties }), { good: '3' }).ties).toEqual([
      { orderLineId: 42, made: '1', released: '0' },
      { orderLineId: 43, made: '1', released: '0' },
    ]);
    expect(effects(ground({ ties }), { good: '3', finish: true }).ties).toEqual([
      { orderLineId: 41, made: '0', released: '1' },
      { orderLineId: 42, made: '1', released: '0' },
      { orderLineId: 43, made: '1', released: '0' },
    ]);
  });

  it('gives the order it is for what that expects of it, part by part', () => {
    const below = ground({
      order: workOrder({ heldForParent: '3' }),
      parents: [
        { componentId: 91, covered: '1' },
        { componentId: 92, covered: '2' },
      ],
    });
    expect(effects(below, { good: '2' })).toMatchObject({
      forParent: '2',
      parentReleased: '0',
      parents: [
        { componentId: 91, made: '1', released: '0' },
        { componentId: 92, made: '1', released: '0' },
      ],
    });
    expect(effects(below, { good: '1', finish: true })).toMatchObject({
      forParent: '1',
      parentReleased: '2',
      parents: [
        { componentId: 91, made: '1', released: '0' },
        { componentId: 92, made: '0', released: '2' },
      ],
    });
    expect(effects(below, { good: '4' })).toMatchObject({ forParent: '3', parentReleased: '0' });
  });

  it('of an order without operations counts pieces alone', () => {
    const plain = ground({ operations: [] });
    expect(effects(plain, { good: '1', scrapped: '1' })).toMatchObject({
      good: '1',
      scrapped: '1',
      operations: [],
      components: [{ quantity: '4' }, { quantity: '12.6' }],
    });
    expect(codes(plain, { good: '5' })).toEqual(['good: above-ordered']);
  });

  it.each<[string, Partial<WorkGround>, Partial<ReportTyped>, string[]]>([
    ['one that is only planned', { order: workOrder({ state: 'planned' }) }, { good: '1' }, [': work-not-firm']],
    ['one that is finished', { order: workOrder({ state: 'finished' }) }, { good: '1' }, [': work-not-firm']],
    ['one that is cancelled', { order: workOrder({ state: 'cancelled' }) }, { good: '1' }, [': work-not-firm']],
    ['nothing at all', {}, {}, ['good: nothing-reported']],
    ['an end to what was never begun', {}, { finish: true }, ['finish: nothing-made']],
    ['words', {}, { good: 'two' }, ['good: not-a-number']],
    ['less than nothing', {}, { scrapped: '-1' }, ['scrapped: not-a-number']],
    ['half a piece', {}, { good: '0.5' }, ['good: whole-pieces']],
    ['half a piece lost', {}, { scrapped: '0.5' }, ['scrapped: whole-pieces']],
    ['more than was ordered', {}, { good: '5' }, ['good: above-ordered']],
    ['an operation of another', {}, { operationId: 99, good: '1' }, ['operationId: unknown']],
    [
      'a component of another',
      {},
      { good: '1', used: [{ componentId: 99, quantity: '1' }] },
      ['used.0.componentId: unknown'],
    ],
    ['an odd use', {}, { good: '1', used: [{ componentId: 21, quantity: 'x' }] }, ['used.0.quantity: not-a-number']],
    [
      'a use below nothing',
      {},
      { good: '1', used: [{ componentId: 21, quantity: '-1' }] },
      ['used.0.quantity: not-a-number'],
    ],
    ['half a pump', {}, { good: '1', used: [{ componentId: 21, quantity: '1.5' }] }, ['used.0.quantity: whole-pieces']],
    [
      'minutes of another',
      {},
      { good: '1', worked: [{ operationId: 99, minutes: '1' }] },
      ['worked.0.operationId: unknown'],
    ],
    [
      'odd minutes',
      {},
      { good: '1', worked: [{ operationId: 31, minutes: '1.5' }] },
      ['worked.0.minutes: not-minutes'],
    ],
    [
      'more pumps than are free',
      { components: [component({ there: { onHand: '9', reserved: '2', value: '90' } })] },
      { good: '4' },
      ['good: component-short'],
    ],
    [
      'more pumps than are free, as said',
      { components: [component({ there: { onHand: '9', reserved: '2', value: '90' } })] },
      { good: '1', used: [{ componentId: 21, quantity: '8' }] },
      ['used.0.quantity: component-short'],
    ],
    [
      'one item twice, more than is there of it together',
      {
        components: [
          component({ there: { onHand: '12', reserved: '0', value: '12' } }),
          component({ id: 23, there: { onHand: '12', reserved: '0', value: '12' } }),
        ],
      },
      { good: '4' },
      ['good: component-short'],
    ],
  ])('refuses %s', (_what, change, asked, refused) => expect(codes(ground(change), asked)).toEqual(refused));

  it('takes exactly what is free, and one item twice at what is left of its worth', () => {
    const there = { onHand: '16', reserved: '0', value: '10' };
    const twice = ground({ components: [component({ there }), component({ id: 23, there })], operations: [] });
    const done = effects(twice, { good: '4' });
    expect(done.components.map(({ quantity, cost }) => [quantity, cost])).toEqual([
      ['8', '5'],
      ['8', '5'],
    ]);
    // Components without a name for their operation are used at the first.
    const first = ground({ components: [component({ operationNo: null }), component({ id: 24, operationNo: 77 })] });
    expect(effects(first, { operationId: 31, good: '1' }).components).toHaveLength(2);
  });

  it('balances, whatever is reported, and comes out at the whole at the end', () => {
    const step = fc.record({ good: fc.nat(3), scrapped: fc.nat(1), extra: fc.nat(2), minutes: fc.nat(90) });
    fc.assert(
      fc.property(fc.array(step, { minLength: 1, maxLength: 8 }), (steps) => {
        let now = ground();
        let output = dec('0');
        for (const { good, scrapped, extra, minutes } of steps) {
          const decision = decideReport(
            now,
            typed({
              good: String(good),
              scrapped: String(scrapped),
              used: extra > 0 ? [{ componentId: 21, quantity: String(extra) }] : [],
              worked: [{ operationId: 32, minutes: String(minutes) }],
            }),
          );
          if (!decision.ok) continue;
          const done = decision.effects;
          const total = sum(workJournal(done).map(({ amount }) => dec(amount)));
          expect(total.toFixed()).toBe('0');
          output = output.plus(done.outputCost).plus(done.scrapCost);
          now = {
            ...now,
            order: {
              ...now.order,
              state: done.state,
              finished: done.finished,
              scrapped: done.allScrapped,
              inWork: done.inWork,
              plannedCost: done.planned?.cost ?? now.order.plannedCost,
            },
            operations: now.operations.map((each) => {
              const more = done.operations.find(({ operationId }) => operationId === each.id);
              return more
                ? {
                    ...each,
                    done: dec(each.done).plus(more.done).toFixed(),
                    scrapped: dec(each.scrapped).plus(more.scrapped).toFixed(),
                  }
                : each;
            }),
          };
        }
        if (now.order.state !== 'finished') return;
        expect(now.order.inWork).toBe('0');
        expect(output.toFixed()).toBe('210.4');
      }),
      { seed: 19, numRuns: 300 },
    );
  });
});
