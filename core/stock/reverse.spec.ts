import fc from 'fast-check';
import { dec, sum } from '@core/kernel';
import { decideReverse, type ReceiptNow, type ReverseGround, type ShipmentNow } from './index';

const receivedLine = (change: Partial<ReceiptNow['lines'][number]> = {}): ReceiptNow['lines'][number] => ({
  id: 1,
  itemId: 10,
  item: 'VA-50A',
  locationId: 0,
  purchaseLineId: 21,
  tieId: 5,
  heldFor: null,
  through: false,
  quantity: '6',
  cost: '5430',
  value: '5430',
  agreementLineId: null,
  agreedValue: null,
  invoice: '',
  ...change,
});
const receipt = (...lines: ReceiptNow['lines']): ReceiptNow => ({
  id: 1,
  number: 'RC-0001',
  reversedBy: '',
  reverses: '',
  purchaseId: 2,
  vendorId: 8,
  foreign: null,
  rate: '1',
  lines,
});
const shipment: ShipmentNow = {
  id: 3,
  number: 'SH-0003',
  reversedBy: '',
  reverses: '',
  orderId: 4,
  customerId: 7,
  shipToId: 9,
  lines: [
    {
      id: 1,
      itemId: 10,
      locationId: 0,
      orderLineId: 31,
      orderId: 4,
      tieId: 5,
      receiptLineId: 1,
      special: false,
      quantity: '6',
      cost: '5430',
      value: '7080',
      agreementLineId: null,
      agreedValue: null,
      invoice: '',
    },
  ],
};
const ground = (change: Partial<ReverseGround> = {}): ReverseGround => ({
  receipts: [receipt(receivedLine())],
  shipments: [],
  stock: new Map([[10, { onHand: '10', reserved: '0', value: '9000' }]]),
  ...change,
});
const on = (onHand: string, reserved: string, value: string) => new Map([[10, { onHand, reserved, value }]]);
const codes = (given: ReverseGround, reason = 'Counted wrong') => {
  const decision = decideReverse(given, reason);
  return decision.ok ? [] : decision.refusals.map(({ field, code }) => (field ? `${field}: ${code}` : code));
};
const taken = (given: ReverseGround) => {
  const decision = decideReverse(given, 'Counted wrong');
  if (!decision.ok) throw new Error(decision.refusals.map((each) => each.code).join());
  return decision.effects.taken;
};

describe('P1 taking a movement back', () => {
  it('takes goods out at what they came in for', () => {
    expect(taken(ground())).toEqual([
      { lineId: 1, itemId: 10, quantity: '6', value: '5430', held: null, locationId: 0 },
    ]);
  });

  it('takes the last cent with the last unit, and never more than the stock is worth', () => {
    expect(taken(ground({ stock: on('6', '0', '5400') }))[0]!.value).toBe('5400');
    expect(taken(ground({ stock: on('6', '0', '5500') }))[0]!.value).toBe('5500');
    expect(taken(ground({ stock: on('7', '0', '5000') }))[0]!.value).toBe('5000');
  });

  it('L3 takes first what is still held for the line, the rest of what is free', () => {
    const held = receipt(receivedLine({ heldFor: { orderLineId: 31, reserved: '4' } }));
    expect(taken(ground({ receipts: [held], stock: on('10', '4', '9000') }))[0]!.held).toEqual({
      orderLineId: 31,
      quantity: '4',
    });
    expect(codes(ground({ receipts: [held], stock: on('10', '9', '9000') }))).toEqual(['goods-gone']);
  });

  it('two lines of one order line share what is held for it', () => {
    const heldFor = { orderLineId: 31, reserved: '8' };
    const both = receipt(receivedLine({ heldFor }), receivedLine({ id: 2, heldFor }));
    const found = taken(ground({ receipts: [both], stock: on('12', '8', '10860') }));
    expect(found.map((each) => each.held?.quantity)).toEqual(['6', '2']);
  });

  it('L2 takes both halves of a drop shipment, and leaves our stock alone', () => {
    const decision = decideReverse(
      ground({ receipts: [receipt(receivedLine({ through: true }))], shipments: [shipment], stock: new Map() }),
      'Never left the vendor',
    );
    expect(decision).toMatchObject({ ok: true, effects: { taken: [], reason: 'Never left the vendor' } });
  });

  it.each([
    ['was reversed', { reversedBy: 'RC-0009' }, ['reversed-already']],
    ['reverses another', { reverses: 'RC-0000' }, ['is-reversal']],
  ])('is refused where it %s', (_what, change, expected) => {
    expect(codes(ground({ receipts: [{ ...receipt(receivedLine()), ...change }] }))).toEqual(expected);
  });

  it('is refused while an invoice covers it, on either half, and without a reason', () => {
    const invoiced = { ...shipment, lines: [{ ...shipment.lines[0]!, invoice: 'CI-0001' }] };
    expect(codes(ground({ receipts: [receipt(receivedLine({ through: true }))], shipments: [invoiced] }))).toEqual([
      'invoiced-first',
    ]);
    expect(codes(ground({ receipts: [receipt(receivedLine({ invoice: 'VI-0001' }))] }))).toEqual(['invoiced-first']);
    expect(codes(ground(), ' ')).toEqual(['reason: required']);
  });

  it('never takes out more than is there, in quantity or value, whatever is held', () => {
    const line = fc.record({
      quantity: fc.integer({ min: 1, max: 9 }),
      cost: fc.integer({ min: 0, max: 9_000 }),
      reserved: fc.option(fc.integer({ min: 0, max: 9 })),
    });
    fc.assert(
      fc.property(
        fc.array(line, { minLength: 1, maxLength: 4 }),
        fc.integer({ min: 0, max: 30 }),
        fc.integer({ min: 0, max: 20_000 }),
        fc.integer({ min: 0, max: 9 }),
        (lines, onHand, value, others) => {
          const held = lines.reduce((sum, each) => sum + (each.reserved ?? 0), 0);
          fc.pre(held + others <= onHand);
          const receipts = [
            receipt(
              ...lines.map((each, index) =>
                receivedLine({
                  id: index + 1,
                  quantity: String(each.quantity),
                  cost: String(each.cost),
                  heldFor: each.reserved === null ? null : { orderLineId: 30 + index, reserved: String(each.reserved) },
                }),
              ),
            ),
          ];
          const decision = decideReverse(
            ground({ receipts, stock: on(String(onHand), String(held + others), String(value)) }),
            'x',
          );
          if (!decision.ok) return;
          const out = decision.effects.taken;
          const quantity = sum(out.map((each) => dec(each.quantity)));
          const worth = sum(out.map((each) => dec(each.value)));
          expect(quantity.lte(onHand) && worth.lte(value)).toBe(true);
          if (quantity.eq(onHand)) expect(worth.toFixed()).toBe(String(value));
          // What others hold stays.
          const freed = sum(out.map((each) => dec(each.held?.quantity ?? 0)));
          expect(dec(onHand).minus(quantity).gte(dec(held).plus(others).minus(freed))).toBe(true);
        },
      ),
      { seed: 31, numRuns: 400 },
    );
  });
});
