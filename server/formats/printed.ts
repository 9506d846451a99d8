import type { Content, TableCell } from 'pdfmake/interfaces';
import { currencyPlaces, dec, documentTotals, inUnits, type DocumentKind } from '@core/kernel';
import { ALLOWANCE_UNITS, type AllowanceMeasure } from '@core/pricing';
import type { Right } from '@api/access';
import { openCreditNote, openInvoice } from '../billing';
import { chosenNames } from '../catalogue';
import type { Sql, Columns } from '../db';
import { openOrder } from '../orders';
import { openPurchase } from '../purchasing';
import { openShipment } from '../stock';
import { day, FAINT, facts, fixed, headCell, quantity, rightCell } from './pdf';
import { madeFile, type Making } from './write-file';
import type { ShipTo } from '../parties/tables';

/** What is printed of a trade document. */
interface Printed {
  title: string;
  number: string;
  party: { id: number; name: string; number: string; side: 'customer' | 'vendor' };
  facts: (readonly [string, string])[];
  /** Null for what is not told on it: a delivery note names no price. */
  currency: string | null;
  lines: { item: string; what: string; quantity: string; unitPrice: string; amount: string }[];
  totals: (readonly [string, string])[];
  closing: string;
}

type Sheet = { sql: Sql; companyId: number; id: number };

const address = (to: { label: string; street: string; town: string; postcode: string } | null) =>
  to ? `${to.label}, ${to.street}, ${to.postcode} ${to.town}` : 'our place';

/** The numbers of a line's pieces, in a line of their own. // P6 */
const numbered = (numbers: readonly { number: string }[]) =>
  numbers.length === 0
    ? ''
    : `\n${numbers.length === 1 ? 'No.' : 'Nos.'} ${numbers.map(({ number }) => number).join(', ')}`;

/** What was chosen for a line, in a line of its own. // W2 */
const chosen = (options: readonly { name: string }[] = []) =>
  options.length === 0 ? '' : `\nwith ${options.map(({ name }) => name).join(', ')}`;

const taxed = (taxes: readonly { taxRate: string; base: string; tax: string }[]) =>
  taxes.map((tax) => [`Tax ${tax.taxRate} % of ${fixed(tax.base, 2)}`, tax.tax] as const);

const allowedText = ({ measure, from, perCent }: { measure: AllowanceMeasure; from: string; perCent: string }) =>
  `Allowance ${perCent} % from ${quantity(from)} ${ALLOWANCE_UNITS[measure]}`.trimEnd();

async function orderConfirmation({ sql, companyId, id }: Sheet): Promise<Printed> {
  const sheet = await openOrder(sql, companyId, id);
  return {
    title:
      sheet.state === 'draft'
        ? 'Draft of an order'
        : sheet.revision > 0
          ? 'Revised order confirmation'
          : 'Order confirmation',
    number: sheet.number,
    party: { ...sheet.customer, side: 'customer' },
    facts: [
      ['Your reference', sheet.customerReference || '-'],
      ['Ordered', day(sheet.orderDate)],
      // It is instead of what was sent before. // S8
      ...(sheet.revision > 0 ? [['Revision', String(sheet.revision)] as const] : []),
      ['Goes to', address(sheet.shipTo)],
      ['Terms', sheet.terms],
      ...(sheet.agreement ? [['Released from', sheet.agreement.number] as const] : []),
    ],
    currency: sheet.currency,
    lines: sheet.lines
      .filter((line) => line.cancelled !== line.quantity)
      .map((line) => {
        const sold = dec(line.quantity).minus(line.cancelled).div(line.sold.factor);
        return {
          item: line.item.number,
          what: `${line.item.name}${chosen(line.options)}\nships ${day(line.shipDate)}`,
          quantity: inUnits(quantity(sold.toFixed()), line.sold.unit),
          unitPrice: sold.gt(0) ? dec(line.amount).div(sold).round(4).toFixed() : '0',
          amount: line.amount,
        };
      }),
    totals: [['Net', sheet.totals.net], ...taxed(sheet.totals.taxes), ['Total', sheet.totals.total]],
    closing: '',
  };
}

async function purchaseOrder({ sql, companyId, id }: Sheet): Promise<Printed> {
  const sheet = await openPurchase(sql, companyId, id);
  const totals = documentTotals(
    sheet.lines.map((line) => ({ taxCode: '', taxRate: '0', net: dec(line.amount) })),
    sheet.currency,
  );
  return {
    title: sheet.revision > 0 ? 'Revised purchase order' : 'Purchase order',
    number: sheet.number,
    party: { ...sheet.vendor, side: 'vendor' },
    facts: [
      ['Ordered', day(sheet.orderDate)],
      // It is instead of what was sent before. // S8
      ...(sheet.revision > 0 ? [['Revision', String(sheet.revision)] as const] : []),
      [
        'Deliver to',
        sheet.customer ? `${sheet.customer.name}, ${address(sheet.shipTo)}` : `us, ${sheet.location!.name}`,
      ],
      ['Terms', sheet.terms],
    ],
    currency: sheet.currency,
    lines: sheet.lines
      .filter(({ quantity: asked }) => asked !== '0')
      .map((line) => ({
        item: line.item.number,
        what: `${line.item.name}\ndue ${day(line.dueDate)}`,
        quantity: inUnits(quantity(line.quantity), line.item.unit),
        unitPrice: line.unitPrice,
        amount: line.amount,
      })),
    totals: [['Net, tax apart', totals.net.toFixed()]],
    closing: 'Please confirm the due dates, and name our number on your delivery note and invoice.',
  };
}

async function deliveryNote({ sql, companyId, id }: Sheet): Promise<Printed> {
  const sheet = await openShipment(sql, companyId, id);
  const [to] = await sql.rows<Columns<ShipTo, 'label street town postcode'>>(
    `SELECT st.label, st.street, st.town, st.postcode FROM shipment s
       JOIN ship_to st ON st.company_id = s.company_id AND st.id = s.ship_to_id
      WHERE s.company_id = ? AND s.id = ?`,
    [companyId, id],
  );
  const options = await chosenNames(sql, companyId, sheet.lines);
  return {
    title: sheet.reverses ? 'Delivery taken back' : 'Delivery note',
    number: sheet.document.number,
    party: { ...sheet.party, side: 'customer' },
    facts: [
      ['Your reference', await referencesOf(sql, companyId, sheet.sources)],
      [sheet.sources.length > 1 ? 'Our orders' : 'Our order', sheet.sources.map(({ number }) => number).join(', ')],
      ['Shipped', day(sheet.postedOn)],
      ['Goes to', address(to ?? null)],
      ...(sheet.reverses ? [['Takes back', sheet.reverses.number] as const] : []),
    ],
    currency: null,
    lines: sheet.lines.map((line) => ({
      item: line.item.number,
      what: `${line.item.name}${chosen(options.get(line.orderLineId ?? 0))}${numbered(line.numbers)}${sheet.sources.length > 1 ? `\n${line.source.number}` : ''}`,
      quantity: inUnits(quantity(line.quantity), line.item.unit),
      unitPrice: '0',
      amount: '0',
    })),
    totals: [],
    closing: 'Received in good order:',
  };
}

/** What the customer calls some of our orders, each once; a dash where they said nothing. */
async function referencesOf(sql: Sql, companyId: number, orders: readonly { id: number }[]): Promise<string> {
  const rows = await sql.rows<{ reference: string }>(
    `SELECT DISTINCT customer_reference AS reference FROM sales_order
      WHERE company_id = ? AND id IN (?) AND customer_reference <> '' ORDER BY reference`,
    [companyId, orders.map(({ id }) => id)],
  );
  return rows.map(({ reference }) => reference).join(', ') || '-';
}

async function invoice({ sql, companyId, id }: Sheet): Promise<Printed> {
  const sheet = await openInvoice(sql, companyId, 'customer', id);
  const options = await chosenNames(sql, companyId, sheet.lines);
  return {
    title: 'Invoice',
    number: sheet.document.number,
    party: { ...sheet.party, side: 'customer' },
    facts: [
      [sheet.source.kind === 'AG' ? 'Agreement' : 'Our order', sheet.source.number],
      ['Dated', day(sheet.invoiceDate)],
      ['Due', `${day(sheet.dueDate)}, ${sheet.terms}`],
      ...(sheet.reason ? [['It', sheet.reason] as const] : []),
    ],
    currency: sheet.currency,
    lines: sheet.lines.map((line) => ({
      item: line.item.number,
      what: `${line.item.name}${chosen(options.get(line.orderLineId ?? 0))}\n${line.covers.number}${numbered(line.numbers)}`,
      quantity: inUnits(quantity(line.quantity), line.item.unit),
      unitPrice: line.unitPrice,
      amount: dec(line.net).plus(line.allowance).toFixed(),
    })),
    totals: [
      ...sheet.allowances.map((each) => [allowedText(each), dec(each.amount).neg().toFixed()] as const),
      ['Net', sheet.net],
      ...taxed(sheet.taxes),
      ['Total', sheet.total],
      ...sheet.lessened.map(
        (each) => [`${each.how} ${each.document.number}`, dec(each.amount).neg().toFixed()] as const,
      ),
      ...(sheet.lessened.length > 0 ? [['Still owed', sheet.owed] as const] : []),
    ],
    closing: '',
  };
}

async function creditNote({ sql, companyId, id }: Sheet): Promise<Printed> {
  const sheet = await openCreditNote(sql, companyId, id);
  return {
    title: 'Credit note',
    number: sheet.document.number,
    party: { ...sheet.party, side: 'customer' },
    facts: [
      [sheet.against.kind === 'AG' ? 'Rebate of' : 'Against', sheet.against.number],
      ['Dated', day(sheet.creditDate)],
      ['Why', sheet.reason || '-'],
    ],
    currency: sheet.currency,
    lines: sheet.lines.map((line) => ({
      item: line.item.number,
      what: `${line.item.name}${numbered(line.numbers)}`,
      quantity: line.quantity === '0' ? 'price only' : inUnits(quantity(line.quantity), line.item.unit),
      unitPrice: line.unitPrice,
      amount: line.net,
    })),
    totals: [
      ['Net', sheet.net],
      ...taxed(sheet.taxes),
      ['Total', sheet.total],
      ...sheet.setOff.map(
        (each) => [`Set off against ${each.document.number}`, dec(each.amount).neg().toFixed()] as const,
      ),
      ...(sheet.setOff.length > 0 ? [['Stands to your credit', sheet.left] as const] : []),
    ],
    closing: '',
  };
}

/** The right that a print asks for, where it tells more than its document tells everybody. // G7 */
export const PRINT_RIGHT: Partial<Record<DocumentKind, Right>> = {
  AG: 'see-agreements',
  PO: 'see-costs',
  CI: 'see-debts',
  CN: 'see-debts',
};

const PRINTED: Partial<Record<DocumentKind, (sheet: Sheet) => Promise<Printed>>> = {
  SO: orderConfirmation,
  PO: purchaseOrder,
  SH: deliveryNote,
  CI: invoice,
  CN: creditNote,
};

export interface PrintedFile {
  name: string;
  title: string;
  number: string;
  party: { id: number; name: string; side: 'customer' | 'vendor' };
  /** Its bytes, made when they are asked for. */
  content(by: Making): Promise<Buffer>;
}

/** A trade document as it goes to its party; null for a kind that is not printed. */
export async function printedDocument(
  sql: Sql,
  companyId: number,
  document: { kind: DocumentKind; id: number },
): Promise<PrintedFile | null> {
  const printed = await PRINTED[document.kind]?.({ sql, companyId, id: document.id });
  if (!printed) return null;
  const [company] = await sql.rows<{ name: string }>('SELECT name FROM company WHERE id = ?', [companyId]);
  const { title, number, party } = printed;
  const unset = { number, party: party.name, company: company!.name, content: contentOf(printed, company!.name) };
  return { name: `${number}.pdf`, title, number, party, content: (by) => madeFile({ kind: 'pdf', unset }, by) };
}

function contentOf(printed: Printed, company: string): Content[] {
  return [
    { text: company, fontSize: 9, color: FAINT },
    { text: `${printed.title} ${printed.number}`, fontSize: 18, margin: [0, 2, 0, 2] },
    { text: `${printed.party.name} (${printed.party.number})`, fontSize: 12, margin: [0, 0, 0, 12] },
    facts(printed.facts),
    ...(printed.lines.length > 0 ? [lineTable(printed)] : []),
    ...totalsOf(printed),
    ...(printed.closing ? [{ text: printed.closing, margin: [0, 24, 0, 0] } as Content] : []),
  ];
}

function lineTable({ lines, currency }: Printed): Content {
  const places = currencyPlaces(currency ?? '');
  const what = (text: string): TableCell => {
    const [name = '', ...more] = text.split('\n');
    return { stack: [name, ...more.map((each) => ({ text: each, fontSize: 8, color: FAINT }))] };
  };
  const price = (text: string) => fixed(text, Math.max(places, text.split('.')[1]?.length ?? 0));
  const head = [headCell('Item'), headCell('What'), headCell('Quantity', true)];
  const rows = lines.map((line) => [line.item, what(line.what), rightCell(line.quantity)] as TableCell[]);
  if (currency === null)
    return {
      table: { headerRows: 1, widths: ['auto', '*', 'auto'], body: [head, ...rows] },
      layout: 'lightHorizontalLines',
    };
  return {
    table: {
      headerRows: 1,
      widths: ['auto', '*', 'auto', 'auto', 'auto'],
      body: [
        [...head, headCell('Price', true), headCell(`Amount, ${currency}`, true)],
        ...rows.map((row, index) => [
          ...row,
          rightCell(price(lines[index]!.unitPrice)),
          rightCell(fixed(lines[index]!.amount, places)),
        ]),
      ],
    },
    layout: 'lightHorizontalLines',
  };
}

function totalsOf({ totals, currency }: Printed): Content[] {
  if (totals.length === 0 || currency === null) return [];
  const places = currencyPlaces(currency);
  const strong = (name: string) => ['Total', 'Still owed', 'Stands to your credit'].includes(name);
  return [
    {
      table: {
        widths: ['*', 'auto'],
        body: totals.map(([name, amount]) => [
          rightCell(name, strong(name)),
          rightCell(fixed(amount, places), strong(name)),
        ]),
      },
      layout: 'noBorders',
      margin: [0, 8, 0, 0],
      unbreakable: true,
    },
  ];
}
