import { decideOpenItems } from '@core/billing';
import { bothOf, dec, sum, type ExchangeOf } from '@core/kernel';
import { openingItemJournal } from '@core/ledger';
import * as contract from '@api/billing';
import { defineAct, takeNumbers } from '../acts';
import { exchangeOn, foreignOf } from '../catalogue';
import type { Columns, Sql } from '../db';
import { postJournals } from '../ledger';
import type { Customer } from '../parties/tables';
import { customerInvoiceTable, openItemTable, vendorInvoiceTable } from './tables';

type Side = 'customer' | 'vendor';

/** What was owed before Kampong: an invoice each, its open item, and a journal against the opening balance. // U3 P3 */
export const openItems = defineAct(contract.openItems, {
  right: 'payments',
  says: 'say what was owed before',
  done: 'what was owed opened',
  async load(tx, { side, lines }, { companyId, workDate }) {
    const parties = await tx.rows<Columns<Customer, 'id number name currency'>>(
      `SELECT id, number, name, currency FROM ${side} WHERE company_id = ? AND (number IN (?) OR name IN (?)) ORDER BY id`,
      [companyId, ...Array<string[]>(2).fill([...new Set(lines.map(({ party }) => party.trim()))])],
    );
    const used = await usedNumbers(tx, companyId, side, [...new Set(lines.map(({ number }) => number.trim()))]);
    const known = lines.map((line) => {
      const text = line.party.trim().toLowerCase();
      const byNumber = parties.filter(({ number }) => number.toLowerCase() === text);
      const named = byNumber.length > 0 ? byNumber : parties.filter(({ name }) => name.toLowerCase() === text);
      const party = named.length === 1 ? named[0]! : null;
      const number = line.number.trim().toLowerCase();
      return {
        party,
        used:
          used.find(
            (each) => each.number.toLowerCase() === number && (side === 'customer' || each.partyId === party?.id),
          ) ?? null,
      };
    });
    const currencies = new Set(
      lines.map(({ currency }, at) => currency.trim().toUpperCase() || (known[at]!.party?.currency ?? '')),
    );
    const exchanges = new Map<string, ExchangeOf>();
    for (const currency of currencies) {
      if (/^[A-Z]{3}$/.test(currency)) exchanges.set(currency, await exchangeOn(tx, companyId, currency, workDate));
    }
    const takes =
      side === 'customer'
        ? []
        : await tx.rows<{ vendorId: number; number: string; times: number }>(
            `SELECT vendor_id, LOWER(vendor_number) AS number, COUNT(*) AS times FROM vendor_invoice
              WHERE company_id = ? AND vendor_number IN (?) GROUP BY vendor_id, LOWER(vendor_number)`,
            [companyId, [...new Set(lines.map(({ number }) => number.trim()))]],
          );
    const [series] = await tx.rows<{ prefix: string; first: number }>(
      "SELECT prefix, first_serial AS first FROM number_series WHERE company_id = ? AND kind = 'CI'",
      [companyId],
    );
    return { lines: known, exchanges, takes, series: series ?? { prefix: 'CI-', first: 1 } };
  },
  decide: (ground, input, { workDate }) => decideOpenItems(ground, input, workDate),
  also: ({ side }) =>
    side === 'customer'
      ? [{ right: 'customer-invoices', says: 'invoice customers' }]
      : [{ right: 'vendor-invoices', says: 'enter vendor invoices' }],
  posts: (_effects, { workDate }) => workDate,
  preview: ({ lines, same }) => ({
    lines: lines.length,
    same,
    own: sum(lines.map(({ own }) => dec(own))).toFixed(),
  }),
  async write(tx, { side, lines }, { exchanges, takes }, doer) {
    const { companyId, workDate } = doer;
    if (lines.length === 0) return { made: [], touched: [] };
    const kind = side === 'customer' ? ('CI' as const) : ('VI' as const);
    const number = await takeNumbers(tx, companyId, {
      JR: lines.length,
      ...(side === 'vendor' ? { VI: lines.length } : {}),
    });
    const numbers = lines.map((line) => (side === 'customer' ? line.number : number('VI')));
    const amounts = (line: (typeof lines)[number]) => ({
      currency: line.currency,
      invoiceDate: line.invoiceDate,
      dueDate: line.dueDate,
      net: line.amount,
      tax: '0',
      total: line.amount,
      rate: line.rate,
      ownNet: line.own,
      ownTax: '0',
      opening: true,
    });
    const ids =
      side === 'customer'
        ? await tx.insert(
            customerInvoiceTable,
            lines.map((line, at) => ({
              companyId,
              number: numbers[at]!,
              customerId: line.partyId,
              orderId: null,
              ...amounts(line),
            })),
          )
        : await tx.insert(
            vendorInvoiceTable,
            lines.map((line, at) => ({
              companyId,
              number: numbers[at]!,
              vendorId: line.partyId,
              purchaseOrderId: null,
              vendorNumber: line.number,
              // It was opened and taken back before.
              take:
                takes.find((each) => each.vendorId === line.partyId && each.number === line.number.toLowerCase())
                  ?.times ?? 0,
              ...amounts(line),
            })),
          );
    await tx.insertPlain(
      openItemTable,
      lines.map((line, at) => ({
        companyId,
        ...(side === 'customer'
          ? { customerId: line.partyId, customerInvoiceId: ids[at]! }
          : { vendorId: line.partyId, vendorInvoiceId: ids[at]! }),
        currency: line.currency,
        dueDate: line.dueDate,
        amount: line.amount,
        ownAmount: line.own,
      })),
    );
    await postJournals(
      tx,
      doer,
      lines.map((line, at) => ({
        number: number('JR'),
        source: { kind, id: ids[at]! },
        postedOn: workDate,
        opening: true,
        entries: openingItemJournal(side, bothOf(line.amount, line.own)),
        currency: foreignOf(exchanges.get(line.currency)!),
        ...(side === 'customer' ? { customerId: line.partyId } : { vendorId: line.partyId }),
      })),
    );
    return { made: ids.map((id, at) => ({ kind, id, number: numbers[at]! })), touched: [] };
  },
});

/** Invoices that have such a number: a customer's ours, a vendor's theirs, and stands. */
async function usedNumbers(sql: Sql, companyId: number, side: Side, numbers: readonly string[]) {
  const rows = await sql.rows<{
    number: string;
    document: string;
    /** 1 where it opened the books and stands. */
    opening: number;
    partyId: number;
    currency: string;
    total: string;
  }>(
    side === 'customer'
      ? `SELECT i.number, i.number AS document, i.customer_id AS party_id, i.currency, i.total,
                i.opening AND NOT EXISTS (SELECT 1 FROM credit_note n WHERE n.company_id = i.company_id AND n.customer_invoice_id = i.id) AS opening
           FROM customer_invoice i FORCE INDEX (customer_invoice_number) WHERE i.company_id = ? AND i.number IN (?)`
      : `SELECT i.vendor_number AS number, i.number AS document, i.vendor_id AS party_id, i.currency, i.total, i.opening AND TRUE AS opening
           FROM vendor_invoice i WHERE i.company_id = ? AND i.vendor_number IN (?) AND i.reverses_id IS NULL
            AND NOT EXISTS (SELECT 1 FROM vendor_invoice b WHERE b.company_id = i.company_id AND b.reverses_id = i.id)`,
    [companyId, numbers],
  );
  return rows.map((row) => ({ ...row, opening: row.opening === 1 }));
}
