import fc from 'fast-check';
import { dec, lineAmount, sum } from '@core/kernel';
import { exchangeAt } from '../kernel/testing';
import { decideOwnReceipt, type OwnLine, type SpecialTie } from './index';

const tie = (id: number, quantity: string, change: Partial<SpecialTie> = {}): SpecialTie => ({
  tieId: id,
  orderLineId: 30 + id,
  order: { id, number: `SO-${id}` },
  quantity,
  received: '0',
  unheld: quantity,
  ...change,
});

function ownLine(change: Partial<OwnLine['line']> = {}, rest: Partial<OwnLine> = {}): OwnLine {
  return {
    purchase: { id: 1, number: 'PO-1', state: 'placed', vendorId: 8, exchange: exchangeAt(), locationId: 0 },
    line: {
      id: 21,
      lineNo: 1,
      quantity: '12',
      received: '0',
      unitPrice: '620',
      amount: '7440',
      agreedAmount: null,
      agreementLineId: null,
      ...change,
    },
    item: { id: 10, number: 'RO-4040' },
    tolerancePercent: '0',
    ties: [],
    ...rest,
  };
}
const ask = (quantity: string, lineId = 21) => ({ lineId, quantity, field: 'lines.0.quantity' });
function received(line: OwnLine, ...quantities: string[]) {
  const decision = decideOwnReceipt(
    [line],
    quantities.map((quantity) => ask(quantity)),
  );
  if (!decision.ok) throw new Error(decision.refusals.map((each) => each.code).join());
  const parts = decision.effects.receipts.flatMap((receipt) => receipt.parts);
  return { parts: parts.map((part) => [part.heldFor, part.quantity]), warnings: decision.warnings };
}

describe('L3 L10 receiving at our place', () => {
  it('for nobody goes to stock', () => {
    expect(received(ownLine(), '5').parts).toEqual([[null, '5']]);
  });

  it('serves the tied lines in their order, and the rest goes to stock', () => {
    const line = ownLine({}, { ties: [tie(1, '4'), tie(2, '5')] });
    expect(received(line, '3').parts).toEqual([[31, '3']]);
    expect(received(line, '6').parts).toEqual([
      [31, '4'],
      [32, '2'],
    ]);
    expect(received(line, '12').parts).toEqual([
      [31, '4'],
      [32, '5'],
      [null, '3'],
    ]);
  });

  it('goes on where the last receipt stopped', () => {
    const line = ownLine({ received: '6' }, { ties: [tie(1, '4', { received: '4' }), tie(2, '5', { received: '2' })] });
    expect(received(line, '4').parts).toEqual([
      [32, '3'],
      [null, '1'],
    ]);
  });

  it('holds no more for a line than it is still open for', () => {
    const line = ownLine({}, { ties: [tie(1, '12', { unheld: '5' })] });
    expect(received(line, '12').parts).toEqual([
      [31, '5'],
      [null, '7'],
    ]);
  });

  it('beyond what was ordered is taken within the vendor’s tolerance, with a word, into stock', () => {
    const line = ownLine({}, { tolerancePercent: '10', ties: [tie(1, '12')] });
    const { parts, warnings } = received(line, '13');
    expect(parts).toEqual([
      [31, '12'],
      [null, '1'],
    ]);
    expect(warnings.map((each) => each.code)).toEqual(['received-beyond']);
    const beyond = decideOwnReceipt([line], [ask('13.3')]);
    expect(!beyond.ok && beyond.refusals).toMatchObject([
      { code: 'above-tolerance', facts: { open: '12', beyond: '1.2', asked: '13.3' } },
    ]);
  });

  it.each<[string, OwnLine, ReturnType<typeof ask>[], string]>([
    ['more than is open', ownLine({ received: '8' }), [ask('5')], 'above-open'],
    ['a line twice beyond what is open', ownLine(), [ask('8'), ask('5')], 'above-open'],
    ['nothing', ownLine(), [ask('0')], 'not-above-zero'],
    ['words', ownLine(), [ask('all')], 'not-a-number'],
    ['a line of another purchase', ownLine(), [ask('1', 99)], 'unknown'],
    [
      'a closed purchase',
      ownLine(
        {},
        { purchase: { id: 1, number: 'PO-1', state: 'closed', vendorId: 8, exchange: exchangeAt(), locationId: 0 } },
      ),
      [ask('1')],
      'purchase-not-placed',
    ],
  ])('refuses %s', (_what, line, asked, code) => {
    const decision = decideOwnReceipt([line], asked);
    expect(!decision.ok && decision.refusals.map((each) => each.code)).toEqual([code]);
  });

  it('in any parts, what is held is what was tied, and costs sum to the line to the cent', () => {
    const cuts = fc.array(fc.integer({ min: 1, max: 9 }), { minLength: 1, maxLength: 8 });
    fc.assert(
      fc.property(
        cuts,
        fc.array(fc.integer({ min: 1, max: 9 }), { maxLength: 4 }),
        fc.integer({ min: 1, max: 99_999 }),
        (given, tied, price) => {
          const quantity = sum(given.map((cut) => dec(cut))).toFixed();
          const unitPrice = dec(price).div(1000).round(4).toFixed();
          let ties = tied.map((each, index) => tie(index + 1, String(each)));
          const amount = lineAmount(dec(quantity), dec(unitPrice), 'MYR').toFixed();
          let line = ownLine({ quantity, unitPrice, amount });
          let cost = dec(0);
          let free = dec(0);
          for (const cut of given) {
            const decision = decideOwnReceipt([{ ...line, ties }], [ask(String(cut))]);
            if (!decision.ok) throw new Error('refused');
            const { parts } = decision.effects.receipts[0]!;
            cost = cost.plus(decision.effects.receipts[0]!.cost);
            expect(sum(parts.map((part) => dec(part.quantity))).toFixed()).toBe(String(cut));
            for (const part of parts.filter((each) => each.heldFor === null)) free = free.plus(part.quantity);
            ties = ties.map((each) => {
              const own = sum(parts.filter((part) => part.tieId === each.tieId).map((part) => dec(part.quantity)));
              return {
                ...each,
                received: dec(each.received).plus(own).toFixed(),
                unheld: dec(each.unheld).minus(own).toFixed(),
              };
            });
            line = { ...line, line: { ...line.line, received: dec(line.line.received).plus(cut).toFixed() } };
          }
          expect(cost.toFixed()).toBe(amount);
          const held = sum(ties.map((each) => dec(each.received)));
          expect(held.plus(free).toFixed()).toBe(quantity);
          if (free.gt(0)) expect(ties.every((each) => dec(each.received).eq(each.quantity))).toBe(true);
        },
      ),
      { seed: 21 },
    );
  });
});
