import { decideCustomerInvoice, decidePayment, decideVendorInvoice, type InvoiceTax } from '@core/billing';
import { dec } from '@core/kernel';
import { customerInvoiceJournal, paymentJournal, vendorInvoiceJournal } from '@core/ledger';
import * as contract from '@api/billing';
import { defineAct, takeNumbers, type Doer, type Touched } from '../acts';
import { counterStatements } from '../agreements';
import type { Tx } from '../db/database';
import { postJournals } from '../ledger';
import { lockForCustomerInvoice, lockForVendorInvoice, lockOpenItem } from './store';

const invoiceCustomer = defineAct(contract.invoiceCustomer, {
  right: 'customer-invoices',
  says: 'invoice customers',
  load: (tx, input, doer) => lockForCustomerInvoice(tx, doer.companyId, input.orderId),
  decide: (ground, _input, doer) => decideCustomerInvoice(ground, doer.workDate),
  show: (effects) => effects,
  async write(tx, effects, { order, agreements }, doer) {
    const { companyId } = doer;
    await tx.run(
      `UPDATE sales_order_line SET invoiced = invoiced + CASE id ${effects.lines.map(() => 'WHEN ? THEN ?').join(' ')} ELSE 0 END
        WHERE company_id = ? AND id IN (?)`,
      [...byLine(effects.lines).flat(), companyId, effects.lines.map((line) => line.orderLineId)],
    );
    const ofAgreements = effects.lines.filter((line) => line.agreementLineId !== null);
    await tx.together(
      counterStatements(
        companyId,
        'invoiced',
        ofAgreements.map((line) => ({
          agreementLineId: line.agreementLineId!,
          quantity: line.quantity,
          value: line.net,
        })),
      ),
    );
    if (effects.closes) {
      await tx.run("UPDATE sales_order SET state = 'closed' WHERE company_id = ? AND id = ? AND state = 'confirmed'", [
        companyId,
        order.id,
      ]);
    }
    const number = await takeNumbers(tx, companyId, { CI: 1, JR: 1 });
    const document = { kind: 'CI' as const, number: number('CI') };
    const [id] = await tx.insert('customer_invoice', [
      {
        company_id: companyId,
        number: document.number,
        customer_id: effects.customerId,
        order_id: effects.orderId,
        currency: effects.currency,
        invoice_date: effects.invoiceDate,
        due_date: effects.dueDate,
        net: effects.net,
        tax: effects.tax,
        total: effects.total,
      },
    ]);
    await tx.insert(
      'customer_invoice_line',
      effects.lines.map((line) => ({
        company_id: companyId,
        invoice_id: id!,
        shipment_line_id: line.shipmentLineId,
        order_line_id: line.orderLineId,
        quantity: line.quantity,
        unit_price: line.unitPrice,
        net: line.net,
        tax_code_id: line.taxCodeId,
        tax_rate: line.taxRate,
      })),
    );
    await insertTaxes(tx, doer, 'CI', id!, effects.taxes);
    await insertOpenItem(tx, doer, { customer_id: effects.customerId, customer_invoice_id: id! }, effects);
    await postJournals(tx, doer, [
      {
        number: number('JR'),
        source: { kind: 'CI', id: id! },
        postedOn: effects.invoiceDate,
        entries: customerInvoiceJournal(effects.net, effects.tax),
        customerId: effects.customerId,
      },
    ]);
    return {
      made: [{ ...document, id: id! }],
      touched: [{ kind: 'SO', id: order.id, number: order.number }, ...agreements],
    };
  },
});

/** Order line and quantity, summed: one line may be invoiced for several shipments at once. */
function byLine(lines: readonly { orderLineId: number; quantity: string }[]): [number, string][] {
  // CASE takes the first match, so a line met again is folded into its first.
  const sums = new Map<number, string>();
  for (const line of lines) {
    sums.set(
      line.orderLineId,
      dec(sums.get(line.orderLineId) ?? '0')
        .plus(line.quantity)
        .toFixed(),
    );
  }
  return lines.map((line) => [line.orderLineId, sums.get(line.orderLineId)!]);
}

async function insertTaxes(tx: Tx, doer: Doer, kind: string, id: number, taxes: readonly InvoiceTax[]) {
  await tx.insertPlain(
    'invoice_tax',
    taxes.map((tax) => ({
      company_id: doer.companyId,
      document_kind: kind,
      document_id: id,
      tax_code: tax.taxCode,
      tax_rate: tax.taxRate,
      base: tax.base,
      tax: tax.tax,
    })),
  );
}

async function insertOpenItem(
  tx: Tx,
  doer: Doer,
  party: { customer_id: number; customer_invoice_id: number } | { vendor_id: number; vendor_invoice_id: number },
  invoice: { currency: string; dueDate: string; total: string },
) {
  await tx.insert('open_item', [
    {
      company_id: doer.companyId,
      ...party,
      currency: invoice.currency,
      due_date: invoice.dueDate,
      amount: invoice.total,
    },
  ]);
}

const enterVendorInvoice = defineAct(contract.enterVendorInvoice, {
  right: 'vendor-invoices',
  says: 'enter vendor invoices',
  load: (tx, input, doer) => lockForVendorInvoice(tx, doer.companyId, input.purchaseId, input.vendorNumber),
  decide: (ground, input, doer) => decideVendorInvoice(ground, input, doer.workDate),
  show: (effects) => effects,
  async write(tx, effects, { purchase }, doer) {
    const { companyId } = doer;
    for (const line of effects.lines) {
      await tx.run('UPDATE purchase_order_line SET invoiced = invoiced + ? WHERE company_id = ? AND id = ?', [
        line.quantity,
        companyId,
        line.purchaseLineId,
      ]);
    }
    if (effects.closes) {
      await tx.run("UPDATE purchase_order SET state = 'closed' WHERE company_id = ? AND id = ? AND state = 'placed'", [
        companyId,
        purchase.id,
      ]);
    }
    const number = await takeNumbers(tx, companyId, { VI: 1, JR: 1 });
    const document = { kind: 'VI' as const, number: number('VI') };
    const [id] = await tx.insert('vendor_invoice', [
      {
        company_id: companyId,
        number: document.number,
        vendor_id: effects.vendorId,
        purchase_order_id: effects.purchaseId,
        vendor_number: effects.vendorNumber,
        currency: effects.currency,
        invoice_date: effects.invoiceDate,
        due_date: effects.dueDate,
        net: effects.net,
        tax: effects.tax,
        total: effects.total,
      },
    ]);
    await tx.insert(
      'vendor_invoice_line',
      effects.lines.map((line) => ({
        company_id: companyId,
        invoice_id: id!,
        receipt_line_id: line.receiptLineId,
        purchase_line_id: line.purchaseLineId,
        quantity: line.quantity,
        unit_price: line.unitPrice,
        net: line.net,
        received_cost: line.received,
        tax_code_id: line.taxCodeId,
        tax_rate: line.taxRate,
      })),
    );
    await insertTaxes(tx, doer, 'VI', id!, effects.taxes);
    await insertOpenItem(tx, doer, { vendor_id: effects.vendorId, vendor_invoice_id: id! }, effects);
    await postJournals(tx, doer, [
      {
        number: number('JR'),
        source: { kind: 'VI', id: id! },
        postedOn: doer.workDate,
        entries: vendorInvoiceJournal(effects),
        vendorId: effects.vendorId,
      },
    ]);
    return {
      made: [{ ...document, id: id! }],
      touched: [{ kind: 'PO', id: purchase.id, number: purchase.number }],
    };
  },
});

const recordPayment = defineAct(contract.recordPayment, {
  right: 'payments',
  says: 'record payments',
  load: (tx, input, doer) => lockOpenItem(tx, doer.companyId, input.openItemId),
  decide: (ground, input) => decidePayment(ground, input),
  show: ({ amount, side }) => ({ amount, side }),
  async write(tx, effects, { document }, doer) {
    const { companyId } = doer;
    await tx.run('UPDATE open_item SET settled = settled + ? WHERE company_id = ? AND id = ?', [
      effects.amount,
      companyId,
      effects.openItemId,
    ]);
    const number = await takeNumbers(tx, companyId, { PY: 1, JR: 1 });
    const payment = number('PY');
    const [id] = await tx.insert('payment', [
      {
        company_id: companyId,
        number: payment,
        open_item_id: effects.openItemId,
        currency: effects.currency,
        paid_on: effects.paidOn,
        amount: effects.amount,
      },
    ]);
    await postJournals(tx, doer, [
      {
        number: number('JR'),
        source: { kind: 'PY', id: id! },
        postedOn: effects.paidOn,
        entries: paymentJournal(effects.side, effects.amount),
        customerId: effects.side === 'customer' ? effects.partyId : null,
        vendorId: effects.side === 'vendor' ? effects.partyId : null,
      },
    ]);
    const made: Touched[] = [{ kind: 'PY', id: id!, number: payment }];
    return { made, touched: [document] };
  },
});

export const billingActs = [invoiceCustomer, enterVendorInvoice, recordPayment];
