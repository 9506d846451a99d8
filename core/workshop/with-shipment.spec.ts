import { decided, refuse } from '../refusals';
import type { MoveEffects, StockLine } from '../stock';
import { beyondShipped, assemblingFirst, takingApart } from './with-shipment';
import { component, ground as groundOf, operation, workOrder, workTie } from './testing';
import type { TakenBackGround } from './take-back';

const line = (change: Partial<StockLine['line']> = {}, item: Partial<StockLine['item']> = {}): StockLine => ({
  order: { id: 4, number: 'SO-4', state: 'confirmed', customerId: 1, shipToId: 1, currency: 'MYR' },
  line: {
    id: 41,
    lineNo: 1,
    open: '2',
    shipped: '0',
    reserved: '0',
    route: 'assemble',
    locationId: 0,
    quantity: '2',
    unitPrice: '100',
    amount: '200',
    agreedAmount: null,
    agreementLineId: null,
    ...change,
  },
  item: { id: 1, number: 'SK-D2', onHand: '0', free: '0', stockValue: '0', ...item },
});
const asked = (quantity: string) => [{ lineId: 41, quantity, field: 'lines.0.quantity' }];
const SHIPPED = { shipments: [] } as unknown as MoveEffects;
const ground = () => groundOf({ components: [component()], operations: [operation()], ties: [workTie()] });

describe('what is assembled in the act that ships it (P5)', () => {
  const shipping = (quantity: string, lines = [line()], works = [ground()]) => {
    const seen: StockLine[][] = [];
    const decision = assemblingFirst(works, lines, asked(quantity), (given) => {
      seen.push([...given]);
      return decided([], () => SHIPPED);
    });
    return { decision, seen };
  };

  it('is there and held for its line when that is shipped, at what it came out at', () => {
    const { decision, seen } = shipping('2');
    expect(decision.ok && decision.effects.assembled.map(({ at, effects }) => [at, effects.good])).toEqual([[0, '2']]);
    // Four pumps at ten and forty minutes at thirty an hour.
    expect(seen[0]![0]).toMatchObject({
      line: { reserved: '2' },
      item: { onHand: '2', free: '0', stockValue: '60' },
    });
  });

  it('is what is short beyond what is held, and nothing where enough is held', () => {
    const { decision } = shipping('2', [line({ reserved: '1' }, { onHand: '1' })]);
    expect(decision.ok && decision.effects.assembled[0]!.effects.good).toBe('1');
    const held = shipping('2', [line({ reserved: '2' }, { onHand: '2' })]);
    expect(held.decision.ok && held.decision.effects.assembled).toEqual([]);
  });

  it.each(['3', 'two', '-1', '', '1.0000001'])('is nothing for %p, which is refused where it ships', (quantity) => {
    const { decision, seen } = shipping(quantity);
    expect(decision.ok && decision.effects.assembled).toEqual([]);
    expect(seen[0]![0]!.line.reserved).toBe('0');
  });

  it('takes what it uses from lines of its components at the same place, and no other', () => {
    const pumps = (locationId: number) =>
      line({ id: 42, route: 'stock', locationId }, { id: 2, onHand: '100', free: '100', stockValue: '1000' });
    const { seen } = shipping('2', [line(), pumps(0), pumps(1)]);
    expect(seen[0]!.slice(1).map(({ item }) => [item.onHand, item.free, item.stockValue])).toEqual([
      ['96', '96', '960'],
      ['100', '100', '1000'],
    ]);
  });

  it('refuses a short component at its line, with what else is refused of other lines', () => {
    const short = ground();
    const works = [{ ...short, components: [component({ there: { onHand: '3', reserved: '0', value: '30' } })] }];
    const above = (field: string) => refuse('above-free', field, { item: 'SK-D2', asked: '2', free: '0' });
    const [own, refused] = [above('lines.0.quantity'), above('lines.1.quantity')];
    const decision = assemblingFirst(works, [line()], asked('2'), () => ({ ok: false, refusals: [own, refused] }));
    expect(!decision.ok && decision.refusals.map(({ code, field }) => `${field}: ${code}`)).toEqual([
      'lines.0.quantity: component-short',
      'lines.1.quantity: above-free',
    ]);
  });
});

describe('what is made for a line that went out from elsewhere (L1)', () => {
  const coming = [{ plannedId: 7, orderLineId: 41, quantity: '2', made: '0' }];
  const shipped = (quantity: string, held: string, assembled: { made: string } | null = null) =>
    ({
      shipments: [{ parts: [{ orderLineId: 41, quantity, held }] }],
      assembled: assembled ? [{ at: 0, effects: { ties: [{ orderLineId: 41, ...assembled, released: '0' }] } }] : [],
    }) as unknown as Parameters<typeof beyondShipped>[0];

  it('is for nobody as far as the line does not want it any more', () => {
    expect(beyondShipped(shipped('1', '0'), [line()], coming)).toEqual([
      { plannedId: 7, orderLineId: 41, quantity: '1', gone: false },
    ]);
    expect(beyondShipped(shipped('2', '0'), [line()], coming)).toEqual([
      { plannedId: 7, orderLineId: 41, quantity: '2', gone: true },
    ]);
  });

  it('stays where what went out was assembled of it, or was held besides', () => {
    expect(beyondShipped(shipped('1', '1', { made: '1' }), [line()], coming)).toEqual([]);
    expect(beyondShipped(shipped('1', '1'), [line({ open: '3', reserved: '1' })], coming)).toEqual([]);
    expect(beyondShipped({ ...shipped('1', '0'), shipments: [] }, [line()], coming)).toEqual([]);
  });
});

describe('what was assembled with a shipment that is taken back (P1 P5)', () => {
  const report = {
    id: 5,
    number: 'WR-5',
    good: '2',
    scrapped: '0',
    materialCost: '40',
    labourCost: '20',
    outputCost: '60',
    scrapCost: '0',
    variance: '0',
    finishes: false,
    forParent: '0',
    parentReleased: '0',
    reverses: '',
    reversedBy: '',
    components: [],
    operations: [],
    ties: [{ orderLineId: 41, order: 'SO-4', made: '2', released: '0', reserved: '0', wanted: '0' }],
  };
  const taken = (): TakenBackGround => ({
    ...ground(),
    order: workOrder({ state: 'running', finished: '2' }),
    operations: [operation({ done: '2', minutesDone: 40 })],
    product: { onHand: '0', reserved: '0', value: '0' },
    report,
    others: 0,
    parentOpen: false,
    uncovered: new Map(),
  });
  const back = (quantity: string) => [{ orderLineId: 41, itemId: 1, quantity, cost: '60' }];

  it('is taken apart as if it were here again and held for its line', () => {
    const decision = takingApart(
      decided([], () => ({ own: 1 })),
      [taken()],
      back('2'),
      'wrong skid',
    );
    expect(decision.ok && decision.effects).toMatchObject({
      own: 1,
      apart: [{ effects: { value: '60', stockDifference: '0', ties: [{ orderLineId: 41, made: '2' }] } }],
    });
  });

  it('is refused where it did not come back whole, and where the shipment is', () => {
    const part = takingApart(
      decided([], () => ({})),
      [taken()],
      back('1'),
      'wrong skid',
    );
    expect(!part.ok && part.refusals.map(({ code }) => code)).toEqual(['made-goods-gone']);
    const refusal = refuse('required', 'reason', { what: 'The reason' });
    expect(takingApart({ ok: false, refusals: [refusal] }, [taken()], back('2'), '')).toEqual({
      ok: false,
      refusals: [refusal],
    });
  });
});
