import { decideTakeBack, type TakeBackGround } from '@core/billing';
import { dec } from '@core/kernel';
import type { AccountRole } from '@core/ledger';
import * as contract from '@api/billing';
import { defineAct, takeNumbers, orNotFound, type Touched } from '../acts';
import { counterStatements, loadAgreements } from '../agreements';
import { foreignOf, ownCurrency } from '../catalogue';
import type { Sql, Columns } from '../db';
import { setOffEntries, writeSetOffs, type OwedColumns } from './open-items';
import { writeVendorInvoice } from './write-vendor-invoice';
import type { InvoiceTax, OpenItem, VendorInvoice, VendorInvoiceLine } from './tables';

/** Takes a vendor's invoice back whole. // P1 P3 */
export const takeBackInvoice = defineAct(contract.takeBackInvoice, {
  right: 'vendor-invoices',
  says: 'take vendor invoices back',
  done: 'vendor invoice taken back',
  load: (tx, input, doer) => loadForTakeBack(tx, doer.companyId, input.invoiceId),
  decide: (ground, input, doer) => decideTakeBack(ground, input.reason, doer.workDate),
  posts: (_effects, { workDate }) => workDate,
  preview: ({ invoice, total, setOff }) => ({ currency: invoice.currency, total, setOff: setOff.amount }),
  async write(tx, effects, { purchase, agreements, openItemId, take }, doer) {
    const { companyId } = doer;
    const { invoice, day } = effects;
    await tx.batch([
      ...counterStatements(
        companyId,
        'invoiced',
        effects.lines.flatMap((line) =>
          line.agreementLineId === null
            ? []
            : [{ agreementLineId: line.agreementLineId, quantity: line.quantity, value: line.agreedNet ?? line.net }],
        ),
      ),
      ...effects.lines.map((line) => ({
        sql: 'UPDATE purchase_order_line SET invoiced = invoiced + ? WHERE company_id = ? AND id = ?',
        values: [line.quantity, companyId, line.purchaseLineId],
      })),
      ...(purchase
        ? [
            {
              sql: "UPDATE purchase_order SET state = 'placed' WHERE company_id = ? AND id = ? AND state = 'closed'",
              values: [companyId, purchase.id],
            },
          ]
        : []),
    ]);
    const number = await takeNumbers(tx, companyId, { VI: 1, JR: 1 });
    const document = { kind: 'VI' as const, number: number('VI') };
    const setOffs = dec(effects.setOff.amount).gt(0) ? [{ openItemId, ...effects.setOff }] : [];
    const written = await writeVendorInvoice(tx, doer, {
      ...effects,
      ...invoice,
      net: effects.net,
      tax: effects.tax,
      total: effects.total,
      own: effects.own,
      entries: [...effects.entries, ...setOffEntries('vendor', setOffs)],
      foreign: foreignOf({ currency: invoice.currency, own: invoice.own.currency }),
      number: document.number,
      journalNumber: number('JR'),
      take,
      reverses: { id: invoice.id, reason: effects.reason },
      invoiceDate: day,
      dueDate: day,
      postedOn: day,
    });
    await writeSetOffs(tx, doer, written.openItemId, setOffs);
    return {
      made: [{ ...document, id: written.id }],
      touched: [
        { kind: 'VI', id: invoice.id, number: invoice.number },
        ...(purchase ? [{ kind: 'PO' as const, ...purchase }] : []),
        ...agreements,
      ],
    };
  },
});

/** A vendor's invoice with all it did; its agreements, purchase and open item locked in that order. */
async function loadForTakeBack(sql: Sql, companyId: number, invoiceId: number) {
  const bought = await sql.rows<{ agreementId: number }>(
    `SELECT DISTINCT al.agreement_id FROM vendor_invoice_line l
       JOIN purchase_order_line pl ON pl.company_id = l.company_id AND pl.id = l.purchase_line_id
       JOIN agreement_line al ON al.company_id = pl.company_id AND al.id = pl.agreement_line_id
      WHERE l.company_id = ? AND l.invoice_id = ?`,
    [companyId, invoiceId],
  );
  const agreements: Touched[] = await loadAgreements(
    sql,
    companyId,
    bought.map((row) => row.agreementId),
  );
  const [order] = await sql.rows<{ id: number; number: string }>(
    `SELECT p.id, p.number FROM purchase_order p
      WHERE p.company_id = ? AND p.id = (SELECT purchase_order_id FROM vendor_invoice WHERE company_id = ? AND id = ?) ${sql.forUpdate}`,
    [companyId, companyId, invoiceId],
  );
  const purchase = order ?? null;
  const [head] = await sql.rows<
    Columns<VendorInvoice, 'number vendorId vendorNumber currency net tax total rate ownNet ownTax'> &
      Columns<OpenItem, OwedColumns> & {
        openItemId: number;
        own: string;
        reverses: string | null;
        reversedBy: string | null;
        take: number;
      }
  >(
    `SELECT i.number, i.vendor_id, i.vendor_number, i.currency, i.net, i.tax, i.total, i.rate, i.own_net, i.own_tax,
            ${ownCurrency('i.company_id')} AS own, oi.id AS open_item_id, oi.amount, oi.settled, oi.own_amount, oi.own_settled,
            (SELECT o.number FROM vendor_invoice o WHERE o.company_id = i.company_id AND o.id = i.reverses_id) AS reverses,
            (SELECT b.number FROM vendor_invoice b WHERE b.company_id = i.company_id AND b.reverses_id = i.id) AS reversed_by,
            (SELECT COUNT(*) FROM vendor_invoice n WHERE n.company_id = i.company_id AND n.vendor_id = i.vendor_id
                AND n.vendor_number = i.vendor_number) AS take
       FROM vendor_invoice i JOIN open_item oi ON oi.company_id = i.company_id AND oi.vendor_invoice_id = i.id
      WHERE i.company_id = ? AND i.id = ? ${sql.forUpdate}`,
    [companyId, invoiceId],
  );
  const {
    openItemId,
    reverses,
    reversedBy,
    take,
    own,
    ownNet,
    ownTax,
    amount,
    settled,
    ownAmount,
    ownSettled,
    ...row
  } = orNotFound(head, 'This vendor invoice');
  return {
    agreements,
    purchase,
    openItemId,
    take,
    invoice: {
      id: invoiceId,
      ...row,
      own: { currency: own, net: ownNet, tax: ownTax, total: dec(ownNet).plus(ownTax).toFixed() },
      owed: { amount, settled, ownAmount, ownSettled },
      purchaseId: purchase?.id ?? null,
    },
    reverses,
    reversedBy,
    ...(await postedBy(sql, companyId, invoiceId)),
  } satisfies TakeBackGround & Record<string, unknown>;
}

/** The lines, taxes and journal entries of a vendor's invoice. */
async function postedBy(
  sql: Sql,
  companyId: number,
  invoiceId: number,
): Promise<Pick<TakeBackGround, 'lines' | 'taxes' | 'entries'>> {
  const lines = await sql.rows<
    Columns<
      VendorInvoiceLine,
      'receiptLineId purchaseLineId quantity unitPrice net receivedCost receivedValue priceDifference agreedNet taxCodeId taxRate'
    > & { agreementLineId: number | null }
  >(
    `SELECT l.receipt_line_id, l.purchase_line_id, pl.agreement_line_id, l.quantity, l.unit_price, l.net, l.received_cost, l.received_value,
            l.price_difference,
            l.agreed_net, l.tax_code_id, l.tax_rate
       FROM vendor_invoice_line l
       JOIN purchase_order_line pl ON pl.company_id = l.company_id AND pl.id = l.purchase_line_id
      WHERE l.company_id = ? AND l.invoice_id = ? ORDER BY l.id`,
    [companyId, invoiceId],
  );
  const taxes = await sql.rows<Columns<InvoiceTax, 'taxCode taxRate base tax'>>(
    "SELECT tax_code, tax_rate, base, tax FROM invoice_tax WHERE company_id = ? AND document_kind = 'VI' AND document_id = ?",
    [companyId, invoiceId],
  );
  const entries = await sql.rows<{ role: AccountRole; accountId: number; amount: string; foreign: string | null }>(
    `SELECT COALESCE(a.posting_role, a.shares_role) AS role, e.account_id, e.amount, e.foreign_amount AS \`foreign\` FROM journal j
       JOIN journal_entry e ON e.company_id = j.company_id AND e.journal_id = j.id
       JOIN account a ON a.company_id = e.company_id AND a.id = e.account_id
      WHERE j.company_id = ? AND j.document_kind = 'VI' AND j.document_id = ? ORDER BY e.id`,
    [companyId, invoiceId],
  );
  return {
    lines: lines,
    taxes: taxes,
    entries: entries,
  };
}
