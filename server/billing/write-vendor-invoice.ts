import type { InvoiceTax } from '@core/billing';
import type { Day } from '@core/kernel';
import type { JournalEntry } from '@core/ledger';
import type { Doer } from '../acts';
import type { Tx } from '../db';
import { postJournals } from '../ledger';
import { insertOpenItem, insertTaxes } from './open-items';
import { vendorInvoiceLineTable, vendorInvoiceTable } from './tables';

/** A vendor invoice to be written, with all that hangs on it; below zero where it takes another back. */
export interface NewVendorInvoice {
  number: string;
  journalNumber: string;
  vendorId: number;
  /** Null where it opened the books. // U3 */
  purchaseId: number | null;
  vendorNumber: string;
  /** How many there are under that number of theirs already. */
  take: number;
  /** The invoice it takes back, and why. // P1 */
  reverses: { id: number; reason: string } | null;
  currency: string;
  invoiceDate: Day;
  dueDate: Day;
  postedOn: Day;
  net: string;
  tax: string;
  total: string;
  rate: string;
  own: { net: string; tax: string; total: string };
  /** Its currency; null where it is the company's. // P8 */
  foreign: string | null;
  taxes: readonly InvoiceTax[];
  entries: readonly JournalEntry[];
  lines: readonly {
    receiptLineId: number;
    purchaseLineId: number;
    quantity: string;
    unitPrice: string;
    net: string;
    receivedCost: string;
    receivedValue: string;
    priceDifference: string;
    agreedNet: string | null;
    taxCodeId: number;
    taxRate: string;
  }[];
}

/** Writes a vendor invoice with its lines, taxes, open item and journal; its id and its open item's. // P1 P3 */
export async function writeVendorInvoice(
  tx: Tx,
  doer: Doer,
  invoice: NewVendorInvoice,
): Promise<{ id: number; openItemId: number }> {
  const { companyId } = doer;
  const [id] = await tx.insert(vendorInvoiceTable, [
    {
      companyId,
      number: invoice.number,
      vendorId: invoice.vendorId,
      purchaseOrderId: invoice.purchaseId,
      vendorNumber: invoice.vendorNumber,
      take: invoice.take,
      reversesId: invoice.reverses?.id ?? null,
      reason: invoice.reverses?.reason ?? '',
      opening: invoice.purchaseId === null,
      currency: invoice.currency,
      invoiceDate: invoice.invoiceDate,
      dueDate: invoice.dueDate,
      net: invoice.net,
      tax: invoice.tax,
      total: invoice.total,
      rate: invoice.rate,
      ownNet: invoice.own.net,
      ownTax: invoice.own.tax,
    },
  ]);
  await tx.insert(
    vendorInvoiceLineTable,
    invoice.lines.map((line) => ({
      companyId,
      invoiceId: id!,
      receiptLineId: line.receiptLineId,
      purchaseLineId: line.purchaseLineId,
      quantity: line.quantity,
      unitPrice: line.unitPrice,
      net: line.net,
      receivedCost: line.receivedCost,
      receivedValue: line.receivedValue,
      priceDifference: line.priceDifference,
      agreedNet: line.agreedNet,
      taxCodeId: line.taxCodeId,
      taxRate: line.taxRate,
    })),
  );
  await insertTaxes(tx, doer, 'VI', id!, invoice.taxes);
  const openItemId = await insertOpenItem(
    tx,
    doer,
    { vendorId: invoice.vendorId, vendorInvoiceId: id! },
    { currency: invoice.currency, dueDate: invoice.dueDate, amount: invoice.total, ownAmount: invoice.own.total },
  );
  await postJournals(tx, doer, [
    {
      number: invoice.journalNumber,
      source: { kind: 'VI', id: id! },
      postedOn: invoice.postedOn,
      opening: invoice.purchaseId === null,
      entries: invoice.entries,
      currency: invoice.foreign,
      vendorId: invoice.vendorId,
    },
  ]);
  return { id: id!, openItemId };
}
