import { accrualOf, type RebateAccrual, type RebateState } from '@core/agreements';
import {
  addDays,
  dec,
  documentTotals,
  least,
  lineSlice,
  sum,
  ZERO,
  type Day,
  type Dec,
  type LineMoney,
} from '@core/kernel';
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
  left: string;
}

export interface CustomerInvoiceGround {
  order: { id: number; number: string; customerId: number; currency: string };
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
  taxes: InvoiceTax[];
  /** True where the order has nothing left to do. */
  closes: boolean;
  /** What is drawn from prepayments, by invoice line, and all of it. // A12 */
  draws: { prepaymentId: number; number: string; lineIndex: number; amount: string }[];
  drawn: string;
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
  return decided(refusals, () => {
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
    const draws = drawsOf(lines, ground.prepayments);
    return {
      draws,
      allowances: given,
      drawn: sum(draws.map((draw) => dec(draw.amount))).toFixed(),
      rebates: accrualsOf(lines, ground.rebates, invoiceDate),
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
function drawsOf(lines: readonly NetLine[], prepayments: readonly OpenPrepayment[]): CustomerInvoiceEffects['draws'] {
  const left = new Map(prepayments.map((each) => [each.id, dec(each.left)]));
  return lines.flatMap((line, lineIndex) => {
    if (line.agreementId === null) return [];
    let rest = line.net;
    const own = prepayments.filter((each) => each.agreementId === line.agreementId);
    const inOrder = [
      ...own.filter((each) => each.agreementLineId === line.agreementLineId),
      ...own.filter((each) => each.agreementLineId === null),
    ];
    return inOrder.flatMap(({ id, number }) => {
      const amount = least(rest, left.get(id)!);
      if (amount.lte(0)) return [];
      rest = rest.minus(amount);
      left.set(id, left.get(id)!.minus(amount));
      return [{ prepaymentId: id, number, lineIndex, amount: amount.toFixed() }];
    });
  });
}

/** What lines of an invoice (or, below zero, of a credit note) do to each agreement's rebate. // A10 */
export function accrualsOf(lines: readonly NetLine[], rebates: readonly RebateState[], day: Day): RebateAccrual[] {
  return rebates.flatMap((state) => {
    const own = lines.filter((line) => line.agreementId === state.agreementId);
    const change = {
      value: sum(own.map((line) => line.agreed ?? line.net)),
      quantity: sum(own.map((line) => dec(line.quantity))),
    };
    if (own.length === 0) return [];
    const accrual = accrualOf(state, change, day);
    return accrual ? [accrual] : [];
  });
}
