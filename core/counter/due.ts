import { decideCustomerInvoice, type CustomerInvoiceGround, type ShippedLine } from '@core/billing';
import { dec, least, most, ZERO, type Day, type Dec } from '@core/kernel';

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
  const none = invoiceOf(ground, () => ZERO, workDate);
  const now = invoiceOf(ground, takenOf, workDate);
  const orderIds = [...new Set(ground.lines.map(({ orderId }) => orderId))];
  let before = now ?? none;
  const deposits = later
    ? []
    : orderIds.flatMap((orderId, at) => {
        const paidWhole = new Set(orderIds.slice(0, at + 1));
        const whole = invoiceOf(
          ground,
          (line) => (paidWhole.has(line.orderId) ? dec(line.toGo) : takenOf(line)),
          workDate,
        );
        const amount = most(ZERO, restOf(whole).minus(restOf(before)));
        before = whole;
        return amount.gt(0) ? [{ orderId, amount: amount.toFixed() }] : [];
      });
  const { total, drawn } = now ?? { total: '0', drawn: '0' };
  return { total, covered: drawn, invoiced: restOf(now).toFixed(), deposits };
}

type Invoice = { total: string; drawn: string } | null;
const restOf = (invoice: Invoice): Dec => (invoice === null ? ZERO : dec(invoice.total).minus(invoice.drawn));

/** The invoice of what was shipped and of so much of each line; null where that is nothing, or cannot be reckoned. */
function invoiceOf({ invoice, lines }: TillGround, part: (line: TillLine) => Dec, workDate: Day): Invoice {
  const asIf = lines.flatMap(({ toGo: _toGo, invoiced, ...line }): ShippedLine[] => {
    const open = part({ ...line, toGo: _toGo, invoiced });
    if (open.lte(0)) return [];
    return [
      {
        ...line,
        shipmentLineId: NOT_SHIPPED,
        shippedOn: workDate,
        open: open.toFixed(),
        invoicedBefore: invoiced,
      },
    ];
  });
  const decision = decideCustomerInvoice(
    { ...invoice, lines: [...invoice.lines, ...asIf] },
    { lines: null, invoiceDate: null },
    workDate,
  );
  return decision.ok ? { total: decision.effects.total, drawn: decision.effects.drawn } : null;
}
