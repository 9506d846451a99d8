import { accrualOf, type RebateAccrual, type RebateState } from '@core/agreements';
import {
  addDays,
  carriedOf,
  dec,
  documentTotals,
  isDay,
  isDecimalText,
  known,
  least,
  lineSlice,
  ownOf,
  sum,
  ZERO,
  type Day,
  type Dec,
  type Exchange,
  type ExchangeOf,
  type LineMoney,
  type OwedInBoth,
} from '@core/kernel';
import { rateRefusals } from '@core/ledger';
import { allowancesOf, type Allowance, type AllowanceGiven } from '@core/pricing';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';

/** A shipment line that is not wholly invoiced yet. */
export interface ShippedLine extends LineMoney {
  shipmentLineId: number;
  orderId: number;
  orderLineId: number;
  /** The day it went out. */
  shippedOn: Day;
  /** Shipped on this line and not invoiced. */
  open: string;
  /** Invoiced so far on the whole order line. */
  invoicedBefore: string;
  taxCode: string;
  taxCodeId: number;
  taxRate: string;
  agreementLineId: number | null;
  agreementId: number | null;
  /** Kilograms and cubic metres of one of the item's own unit. */
  weight: string;
  volume: string;
}

/** A prepayment with something left, for one line of its agreement or (null) for all of it. // A12 */
export interface OpenPrepayment {
  id: number;
  number: string;
  agreementId: number;
  agreementLineId: number | null;
  /** What was taken, and what of it was drawn, paid back or carried on. */
  owed: OwedInBoth;
  /** What of it is kept for other orders, which wait at a till. // C1 */
  marked: string;
}

/** Money taken ahead for one order, with something left. // C2 */
export interface OpenDeposit {
  id: number;
  number: string;
  orderId: number;
  owed: OwedInBoth;
  /** A deposit is its order's alone. */
  marked: string;
}

/** An order that is invoiced. */
export interface InvoicedOrder {
  id: number;
  number: string;
  customerId: number;
  currency: string;
  /** Ordered, live and not invoiced on the whole order. */
  uninvoiced: string;
}

export interface CustomerInvoiceGround {
  /** Those on one invoice, as they were named; at least one. */
  orders: readonly InvoicedOrder[];
  /** What its currency was worth on the day of the invoice. // P8 */
  exchange: ExchangeOf;
  termsDays: number;
  lines: readonly ShippedLine[];
  /** Oldest first. */
  prepayments: readonly OpenPrepayment[];
  /** Oldest first. */
  deposits: readonly OpenDeposit[];
  /** The rebates of the agreements of its lines. // A10 */
  rebates: readonly RebateState[];
  /** What may be allowed on the customer's invoices. // R2 */
  allowances: readonly Allowance[];
}

/** What is chosen of all that may be invoiced; null for all of it, and for today. */
export interface CustomerInvoiceTyped {
  lines: readonly { shipmentLineId: number; quantity: string }[] | null;
  invoiceDate: string | null;
}

/** What leaves a prepayment for a line of an invoice; in the company's currency as it was taken, and as it is owed. */
export interface Draw {
  prepaymentId: number;
  number: string;
  /** Null for a deposit: it covers its order, taxes too. */
  lineIndex: number | null;
  amount: string;
  carried: string;
  worth: string;
}

/** The totals of a document in the company's currency; they sum up. // P8 */
export interface OwnTotals {
  net: string;
  tax: string;
  total: string;
}

/** Totals in the company's currency: net and tax each at the rate, the total their sum. // P7 P8 */
export function ownTotals(net: Dec, tax: Dec, exchange: Exchange): OwnTotals {
  const [ownNet, ownTax] = [ownOf(net, exchange), ownOf(tax, exchange)];
  return { net: ownNet.toFixed(), tax: ownTax.toFixed(), total: ownNet.plus(ownTax).toFixed() };
}

export interface InvoiceTax {
  taxCode: string;
  taxRate: string;
  base: string;
  tax: string;
}

export interface CustomerInvoiceEffects {
  customerId: number;
  /** The first of its orders. */
  orderId: number;
  currency: string;
  invoiceDate: Day;
  dueDate: Day;
  net: string;
  tax: string;
  total: string;
  rate: string;
  own: OwnTotals;
  taxes: InvoiceTax[];
  /** The orders that have nothing left to do. */
  closes: number[];
  /** What is drawn from prepayments, by invoice line, and all of it. // A12 */
  draws: Draw[];
  drawn: string;
  /** What all of it is worth of the invoice, and what it was taken at. // P8 */
  ownDrawn: { settled: string; carried: string };
  rebates: RebateAccrual[];
  /** What was allowed; the nets of the lines are after it. // R2 */
  allowances: AllowanceGiven[];
  lines: {
    shipmentLineId: number;
    orderLineId: number;
    agreementLineId: number | null;
    quantity: string;
    unitPrice: string;
    net: string;
    /** Its share of what is allowed on the invoice. */
    allowance: string;
    /** What of the net counts against the agreement where that is not the whole. // A5 */
    agreedNet: string | null;
    taxCodeId: number;
    taxRate: string;
  }[];
}

/**
 * One customer invoice for what was shipped on orders and not invoiced, all of it or what is chosen, less what is allowed
 * on what no agreement prices. Orders on one invoice are of one customer and in one currency. Its day is neither ahead nor
 * before what it is for went out. // P4 P7 R2
 */
export function decideCustomerInvoice(
  ground: CustomerInvoiceGround,
  typed: CustomerInvoiceTyped,
  workDate: Day,
): Decision<CustomerInvoiceEffects> {
  const refusals: Refusal[] = [];
  const [order, ...others] = ground.orders as [InvoicedOrder, ...InvoicedOrder[]];
  others.forEach((other, at) => {
    if (other.customerId !== order.customerId || other.currency !== order.currency) {
      refusals.push(refuse('invoice-of-others', `others.${at}`, { order: other.number, first: order.number }));
    }
  });
  const open = chosenOf(ground.lines, typed.lines, refusals);
  if (open.length === 0 && refusals.length === 0) {
    refusals.push(refuse('nothing-to-invoice', '', { document: ground.orders.map(({ number }) => number).join(', ') }));
  }
  const invoiceDate = typed.invoiceDate ?? workDate;
  const latest = open
    .map(({ shippedOn }) => shippedOn)
    .sort()
    .at(-1);
  if (!isDay(invoiceDate)) refusals.push(refuse('not-a-day', 'invoiceDate', { what: 'The day of the invoice' }));
  else if (invoiceDate > workDate) refusals.push(refuse('invoice-ahead', 'invoiceDate', { day: workDate }));
  else if (latest !== undefined && invoiceDate < latest) {
    refusals.push(refuse('invoice-before-goods', 'invoiceDate', { day: latest }));
  }
  refusals.push(...rateRefusals(ground.exchange, ''));
  return decided(refusals, () => {
    const { currency } = order;
    const exchange = known(ground.exchange);
    const reached = new Map<number, Dec>();
    const whole = open.map((line) => {
      const from = reached.get(line.orderLineId) ?? dec(line.invoicedBefore);
      const to = from.plus(line.open);
      reached.set(line.orderLineId, to);
      const slice = lineSlice(line, from, to, currency);
      return { ...line, quantity: line.open, net: slice.value, agreed: slice.agreed, allowance: ZERO };
    });
    const { given, lines } = allowed(whole, ground.allowances, invoiceDate, currency);
    const totals = documentTotals(lines, currency);
    const own = ownTotals(totals.net, totals.tax, exchange);
    const draws = drawsOf(
      lines,
      ground,
      {
        amount: totals.total.toFixed(),
        settled: '0',
        ownAmount: own.total,
        ownSettled: '0',
      },
      currency,
      exchange.own,
    );
    const drawnOf = (part: 'amount' | 'worth' | 'carried') => sum(draws.map((draw) => dec(draw[part]))).toFixed();
    return {
      draws,
      rate: exchange.rate,
      own,
      allowances: given,
      drawn: drawnOf('amount'),
      ownDrawn: { settled: drawnOf('worth'), carried: drawnOf('carried') },
      rebates: accrualsOf(lines, ground.rebates, invoiceDate, exchange),
      customerId: order.customerId,
      orderId: order.id,
      currency,
      invoiceDate,
      dueDate: addDays(invoiceDate, ground.termsDays),
      net: totals.net.toFixed(),
      tax: totals.tax.toFixed(),
      total: totals.total.toFixed(),
      closes: ground.orders
        .filter(({ id, uninvoiced }) =>
          sum(open.filter((line) => line.orderId === id).map((line) => dec(line.open))).gte(uninvoiced),
        )
        .map(({ id }) => id),
      taxes: totals.taxes.map((tax) => ({
        taxCode: tax.taxCode,
        taxRate: tax.taxRate,
        base: tax.base.toFixed(),
        tax: tax.tax.toFixed(),
      })),
      lines: lines.map((line) => ({
        shipmentLineId: line.shipmentLineId,
        orderLineId: line.orderLineId,
        agreementLineId: line.agreementLineId,
        quantity: line.quantity,
        unitPrice: line.unitPrice,
        net: line.net.toFixed(),
        allowance: line.allowance.toFixed(),
        agreedNet: line.agreed?.toFixed() ?? null,
        taxCodeId: line.taxCodeId,
        taxRate: line.taxRate,
      })),
    };
  });
}

/** Of what is open, what is chosen: each no more than is open; without a choice all of it. */
function chosenOf(
  lines: readonly ShippedLine[],
  chosen: CustomerInvoiceTyped['lines'],
  refusals: Refusal[],
): ShippedLine[] {
  if (chosen === null) return lines.filter((line) => dec(line.open).gt(0));
  const wanted = new Map<number, Dec>();
  chosen.forEach(({ shipmentLineId, quantity }, at) => {
    const field = `lines.${at}.quantity`;
    if (quantity.trim() === '') return;
    const line = lines.find((each) => each.shipmentLineId === shipmentLineId);
    const read = isDecimalText(quantity, 'quantity') ? dec(quantity) : null;
    if (read === null || read.lt(0)) refusals.push(refuse('not-a-number', field, { what: 'The quantity' }));
    else if (!line || read.gt(line.open)) {
      refusals.push(refuse('above-uninvoiced', field, { typed: read.toFixed(), open: line?.open ?? '0' }));
    } else if (read.gt(0)) wanted.set(shipmentLineId, read);
  });
  return lines.flatMap((line) => {
    const quantity = wanted.get(line.shipmentLineId);
    return quantity ? [{ ...line, open: quantity.toFixed() }] : [];
  });
}

/** Takes what is allowed off the lines that no agreement prices: what is agreed is agreed. // R2 */
function allowed<Line extends NetLine & { allowance: Dec; weight: string; volume: string }>(
  lines: readonly Line[],
  allowances: readonly Allowance[],
  day: Day,
  currency: string,
): { given: AllowanceGiven[]; lines: Line[] } {
  const free = lines.filter((line) => line.agreementLineId === null);
  const { given, shares } = allowancesOf(allowances, free, day, currency);
  const off = new Map(free.map((line, index) => [line, shares[index]!]));
  return {
    given,
    lines: lines.map((line) => {
      const allowance = off.get(line) ?? ZERO;
      return { ...line, net: line.net.minus(allowance), allowance };
    }),
  };
}

type NetLine = Pick<ShippedLine, 'agreementLineId' | 'agreementId'> & {
  quantity: string;
  net: Dec;
  agreed: Dec | null;
};

/**
 * Each line draws min(prepayment left, its net): first what is held for the line, then for its agreement. Then each deposit
 * covers what is left of its order. // A12 C2
 */
function drawsOf(
  lines: readonly (NetLine & { orderId: number; taxCode: string; taxRate: string })[],
  { prepayments, deposits }: Pick<CustomerInvoiceGround, 'prepayments' | 'deposits'>,
  invoice: OwedInBoth,
  currency: string,
  own: string,
): Draw[] {
  const left = new Map([...prepayments, ...deposits].map((each) => [each.id, each.owed]));
  let owed = invoice;
  /** Takes no more than is left of it and owed. */
  const draw = (
    { id, number, marked }: { id: number; number: string; marked: string },
    lineIndex: number | null,
    most: Dec,
  ): Draw[] => {
    const from = left.get(id)!;
    const amount = least(most, dec(from.amount).minus(from.settled).minus(marked));
    if (amount.lte(0)) return [];
    const carried = carriedOf(from, amount, own);
    const worth = carriedOf(owed, amount, own);
    left.set(id, settledBy(from, amount, carried));
    owed = settledBy(owed, amount, worth);
    const [text, carriedText, worthText] = [amount, carried, worth].map((each) => each.toFixed());
    return [{ prepaymentId: id, number, lineIndex, amount: text!, carried: carriedText!, worth: worthText! }];
  };
  const drawn = (draws: readonly Draw[]) => sum(draws.map(({ amount }) => dec(amount)));
  const ofOrder = new Map<number, Draw[]>();
  const draws = lines.flatMap((line, lineIndex) => {
    if (line.agreementId === null) return [];
    const its = prepayments.filter((each) => each.agreementId === line.agreementId);
    const inOrder = [
      ...its.filter((each) => each.agreementLineId === line.agreementLineId),
      ...its.filter((each) => each.agreementLineId === null),
    ];
    const taken: Draw[] = [];
    for (const each of inOrder) taken.push(...draw(each, lineIndex, line.net.minus(drawn(taken))));
    ofOrder.set(line.orderId, [...(ofOrder.get(line.orderId) ?? []), ...taken]);
    return taken;
  });
  for (const deposit of deposits) {
    const its = lines.filter(({ orderId }) => orderId === deposit.orderId);
    const before = ofOrder.get(deposit.orderId) ?? [];
    const gross = documentTotals(its, currency).total.minus(drawn(before));
    const taken = draw(deposit, null, least(gross, dec(owed.amount).minus(owed.settled)));
    ofOrder.set(deposit.orderId, [...before, ...taken]);
    draws.push(...taken);
  }
  return draws;
}

const settledBy = (owed: OwedInBoth, amount: Dec, own: Dec): OwedInBoth => ({
  ...owed,
  settled: dec(owed.settled).plus(amount).toFixed(),
  ownSettled: dec(owed.ownSettled).plus(own).toFixed(),
});

/** What lines of an invoice (or, below zero, of a credit note) do to each agreement's rebate. // A10 */
export function accrualsOf(
  lines: readonly NetLine[],
  rebates: readonly RebateState[],
  day: Day,
  exchange: Exchange,
): RebateAccrual[] {
  return rebates.flatMap((state) => {
    const own = lines.filter((line) => line.agreementId === state.agreementId);
    const change = {
      value: sum(own.map((line) => line.agreed ?? line.net)),
      quantity: sum(own.map((line) => dec(line.quantity))),
    };
    if (own.length === 0) return [];
    const accrual = accrualOf(state, change, day, exchange);
    return accrual ? [accrual] : [];
  });
}
