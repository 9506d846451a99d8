import { accrualOf, type RebateAccrual, type RebateState } from '@core/agreements';
import {
  addDays,
  carriedOf,
  dec,
  documentTotals,
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
  orderLineId: number;
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
}

export interface CustomerInvoiceGround {
  order: { id: number; number: string; customerId: number; currency: string };
  /** What its currency was worth on the day of the invoice. // P8 */
  exchange: ExchangeOf;
  termsDays: number;
  /** Ordered, live and not invoiced on the whole order. */
  uninvoiced: string;
  lines: readonly ShippedLine[];
  /** Oldest first. */
  prepayments: readonly OpenPrepayment[];
  /** The rebates of the agreements of its lines. // A10 */
  rebates: readonly RebateState[];
  /** What may be allowed on the customer's invoices. // R2 */
  allowances: readonly Allowance[];
}

/** What leaves a prepayment for a line of an invoice; in the company's currency as it was taken, and as it is owed. */
export interface Draw {
  prepaymentId: number;
  number: string;
  lineIndex: number;
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
  /** True where the order has nothing left to do. */
  closes: boolean;
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
 * The customer invoice of one order: all that was shipped and not invoiced, less what is allowed on what no agreement
 * prices. // P4 P7 R2
 */
export function decideCustomerInvoice(
  ground: CustomerInvoiceGround,
  invoiceDate: Day,
): Decision<CustomerInvoiceEffects> {
  const refusals: Refusal[] = [];
  const open = ground.lines.filter((line) => dec(line.open).gt(0));
  if (open.length === 0) {
    refusals.push(refuse('nothing-to-invoice', '', { document: ground.order.number }));
  }
  refusals.push(...rateRefusals(ground.exchange, ''));
  return decided(refusals, () => {
    const exchange = known(ground.exchange);
    const reached = new Map<number, Dec>();
    const whole = open.map((line) => {
      const from = reached.get(line.orderLineId) ?? dec(line.invoicedBefore);
      const to = from.plus(line.open);
      reached.set(line.orderLineId, to);
      const slice = lineSlice(line, from, to, ground.order.currency);
      return { ...line, quantity: line.open, net: slice.value, agreed: slice.agreed, allowance: ZERO };
    });
    const { given, lines } = allowed(whole, ground.allowances, invoiceDate, ground.order.currency);
    const totals = documentTotals(lines, ground.order.currency);
    const own = ownTotals(totals.net, totals.tax, exchange);
    const draws = drawsOf(
      lines,
      ground.prepayments,
      {
        amount: totals.total.toFixed(),
        settled: '0',
        ownAmount: own.total,
        ownSettled: '0',
      },
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
      customerId: ground.order.customerId,
      orderId: ground.order.id,
      currency: ground.order.currency,
      invoiceDate,
      dueDate: addDays(invoiceDate, ground.termsDays),
      net: totals.net.toFixed(),
      tax: totals.tax.toFixed(),
      total: totals.total.toFixed(),
      closes: sum(open.map((line) => dec(line.open))).gte(ground.uninvoiced),
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

/** Each line draws min(prepayment left, its net): first what is held for the line, then for its agreement. // A12 */
function drawsOf(
  lines: readonly NetLine[],
  prepayments: readonly OpenPrepayment[],
  invoice: OwedInBoth,
  own: string,
): Draw[] {
  const taken = new Map(prepayments.map((each) => [each.id, each.owed]));
  let owed = invoice;
  return lines.flatMap((line, lineIndex) => {
    if (line.agreementId === null) return [];
    let rest = line.net;
    const its = prepayments.filter((each) => each.agreementId === line.agreementId);
    const inOrder = [
      ...its.filter((each) => each.agreementLineId === line.agreementLineId),
      ...its.filter((each) => each.agreementLineId === null),
    ];
    return inOrder.flatMap(({ id, number }) => {
      const from = taken.get(id)!;
      const amount = least(rest, dec(from.amount).minus(from.settled));
      if (amount.lte(0)) return [];
      rest = rest.minus(amount);
      const carried = carriedOf(from, amount, own);
      const worth = carriedOf(owed, amount, own);
      taken.set(id, settledBy(from, amount, carried));
      owed = settledBy(owed, amount, worth);
      return [
        {
          prepaymentId: id,
          number,
          lineIndex,
          amount: amount.toFixed(),
          carried: carried.toFixed(),
          worth: worth.toFixed(),
        },
      ];
    });
  });
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
