import { decideCustomerInvoice, type CustomerInvoiceGround, type ShippedLine } from '@core/billing';
import { dec, least, most, sum, ZERO, type Day, type Dec } from '@core/kernel';

/** A line of an order as it stands at the till, in the shape of what is invoiced. */
export interface TillLine extends Omit<ShippedLine, 'shipmentLineId' | 'shippedOn' | 'open' | 'invoicedBefore'> {
  /** Not handed over yet. */
  toGo: string;
  /** Invoiced of the line before. */
  invoiced: string;
}

export interface TillGround {
  /** What was shipped before and is not invoiced goes on the same invoice. */
  invoice: CustomerInvoiceGround;
  lines: readonly TillLine[];
}

export interface Due {
  /** Of the invoice of what is taken along: tax included, what prepayments and deposits cover of it, what is left. */
  total: string;
  covered: string;
  invoiced: string;
  /** For what is not taken along, an order each; empty where it is paid when it is fetched. */
  deposits: { orderId: number; amount: string }[];
}

/** Invoice lines have ids of shipments; what is not shipped yet has one that no shipment has. */
const NOT_SHIPPED = -1;

/**
 * What is to pay for what is taken along, and as a deposit for what is not, by the same reckoning as the invoices will be:
 * agreements, allowances, prepayments and deposits as they stand. `taken` is by order line; a line left out is not taken. // C2 C3
 */
export function dueAtTill(ground: TillGround, taken: ReadonlyMap<number, string>, later: boolean, workDate: Day): Due {
  const takenOf = ({ orderLineId, toGo }: TillLine) => least(dec(taken.get(orderLineId) ?? '0'), dec(toGo));
  const now = invoiceOf(ground, takenOf, workDate);
  const orderIds = later ? [] : [...new Set(ground.lines.map(({ orderId }) => orderId))];
  let before = now;
  const deposits = orderIds.flatMap((orderId, at) => {
    const paidWhole = new Set(orderIds.slice(0, at + 1));
    const whole = invoiceOf(ground, (line) => (paidWhole.has(line.orderId) ? dec(line.toGo) : takenOf(line)), workDate);
    const amount = most(ZERO, restOf(whole).minus(restOf(before)));
    before = whole;
    return amount.gt(0) ? [{ orderId, amount: amount.toFixed() }] : [];
  });
  return {
    total: now?.total ?? '0',
    covered: now?.drawn ?? '0',
    invoiced: restOf(now).toFixed(),
    deposits,
  };
}

/** What an order will draw of each prepayment of its agreements once all of it goes: kept for it meanwhile. // C1 */
export function toBeDrawn(ground: TillGround, workDate: Day): { prepaymentId: number; amount: string }[] {
  const draws = (invoiceOf(ground, ({ toGo }) => dec(toGo), workDate)?.draws ?? []).filter(
    ({ lineIndex }) => lineIndex !== null,
  );
  return [...new Set(draws.map(({ prepaymentId }) => prepaymentId))].map((prepaymentId) => ({
    prepaymentId,
    amount: sum(draws.filter((draw) => draw.prepaymentId === prepaymentId).map(({ amount }) => dec(amount))).toFixed(),
  }));
}

type Invoice = ReturnType<typeof invoiceOf>;
const restOf = (invoice: Invoice): Dec => (invoice === null ? ZERO : dec(invoice.total).minus(invoice.drawn));

/** The invoice of what was shipped and of so much of each line; null where that is nothing, or cannot be reckoned. */
function invoiceOf({ invoice, lines }: TillGround, part: (line: TillLine) => Dec, workDate: Day) {
  const asIf = lines.flatMap((line): ShippedLine[] => {
    const open = part(line);
    if (open.lte(0)) return [];
    const { invoiced: invoicedBefore } = line;
    return [{ ...line, shipmentLineId: NOT_SHIPPED, shippedOn: workDate, open: open.toFixed(), invoicedBefore }];
  });
  const decision = decideCustomerInvoice(
    { ...invoice, lines: [...invoice.lines, ...asIf] },
    { lines: null, invoiceDate: null },
    workDate,
  );
  return decision.ok ? decision.effects : null;
}
