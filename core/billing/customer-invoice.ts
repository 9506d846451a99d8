import { addDays, dec, documentTotals, sliceAmount, sum, type Day, type Dec } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';

/** A shipment line that is not wholly invoiced yet. */
export interface ShippedLine {
  shipmentLineId: number;
  orderLineId: number;
  /** Shipped on this line and not invoiced. */
  open: string;
  /** Invoiced so far on the whole order line. */
  invoicedBefore: string;
  unitPrice: string;
  taxCode: string;
  taxCodeId: number;
  taxRate: string;
  agreementLineId: number | null;
}

export interface CustomerInvoiceGround {
  order: { id: number; number: string; customerId: number; currency: string };
  termsDays: number;
  /** Ordered, live and not invoiced on the whole order. */
  uninvoiced: string;
  lines: readonly ShippedLine[];
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
  lines: {
    shipmentLineId: number;
    orderLineId: number;
    agreementLineId: number | null;
    quantity: string;
    unitPrice: string;
    net: string;
    taxCodeId: number;
    taxRate: string;
  }[];
}

/** The customer invoice of one order: all that was shipped and not invoiced. // P4 P7 */
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
    const lines = open.map((line) => {
      const from = reached.get(line.orderLineId) ?? dec(line.invoicedBefore);
      const to = from.plus(line.open);
      reached.set(line.orderLineId, to);
      const net = sliceAmount(from, to, dec(line.unitPrice), ground.order.currency);
      return { ...line, quantity: line.open, net };
    });
    const totals = documentTotals(lines, ground.order.currency);
    return {
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
        taxCodeId: line.taxCodeId,
        taxRate: line.taxRate,
      })),
    };
  });
}
