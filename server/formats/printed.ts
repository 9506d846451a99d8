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
import {
  addressWindow,
  footOf,
  letterhead,
  payTo,
  ourLetterhead,
  partyOnPaper,
  type Letterhead,
  type OnPaper,
} from './letterhead';
import { day, FAINT, facts, fixed, headCell, quantity, rightCell, type Unset } from './pdf';
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
  lines: { item: string; what: string; quantity: string; unitPrice: string; amount: string; tax?: string }[];
  totals: (readonly [string, string])[];
  closing: string;
  /** Something is to be paid to us. */
  pays?: boolean;
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

/** Tax by code, as an authority asks for it: rate and what it is of. */
const taxed = (taxes: readonly { taxCode: string; taxRate: string; base: string; tax: string }[], currency: string) =>
  taxes.map(
    (tax) => [`${tax.taxCode}: ${tax.taxRate} % of ${fixed(tax.base, currencyPlaces(currency))}`, tax.tax] as const,
  );

/** An item as the party knows it, with our own number in small where that is another. */
const theirs = (names: ReadonlyMap<number, string>, item: { id: number | null; number: string }) => {
  const own = item.id === null ? undefined : names.get(item.id);
  return own && own !== item.number ? `${own}\n${item.number}` : item.number;
};

/** What a customer calls items of ours. */
async function theirNumbers(
  sql: Sql,
  companyId: number,
  customerId: number,
  items: readonly { id: number | null }[],
): Promise<Map<number, string>> {
  const rows = await sql.rows<{ itemId: number; number: string }>(
    'SELECT item_id, number FROM customer_item WHERE company_id = ? AND customer_id = ? AND item_id IN (?)',
    [companyId, customerId, items.flatMap(({ id }) => (id === null ? [] : [id]))],
  );
  return new Map(rows.map(({ itemId, number }) => [itemId, number]));
}

const allowedText = ({ measure, from, perCent }: { measure: AllowanceMeasure; from: string; perCent: string }) =>
  `Allowance ${perCent} % from ${quantity(from)} ${ALLOWANCE_UNITS[measure]}`.trimEnd();

async function orderConfirmation({ sql, companyId, id }: Sheet): Promise<Printed> {
  const sheet = await openOrder(sql, companyId, id);
  const names = await theirNumbers(
    sql,
    companyId,
    sheet.customer.id,
    sheet.lines.map(({ item }) => item),
  );
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
          item: theirs(names, line.item),
          what: `${line.item.name}${chosen(line.options)}\nships ${day(line.shipDate)}`,
          tax: line.taxCode,
          quantity: inUnits(quantity(sold.toFixed()), line.sold.unit),
          unitPrice: sold.gt(0) ? dec(line.amount).div(sold).round(4).toFixed() : '0',
          amount: line.amount,
        };
      }),
    totals: [['Net', sheet.totals.net], ...taxed(sheet.totals.taxes, sheet.currency), ['Total', sheet.totals.total]],
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
  const names = await theirNumbers(
    sql,
    companyId,
    sheet.party.id,
    sheet.lines.map(({ item }) => item),
  );
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
      item: theirs(names, line.item),
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
  const names = await theirNumbers(
    sql,
    companyId,
    sheet.party.id,
    sheet.lines.map(({ item }) => item),
  );
  const orders = [sheet.source, ...sheet.alsoFor];
  const many = orders.length > 1;
  const { shipped, orderOf } = await goodsOf(sql, companyId, id);
  return {
    title: 'Invoice',
    number: sheet.document.number,
    party: { ...sheet.party, side: 'customer' },
    facts: [
      ...(sheet.source.kind === 'SO' ? [['Your reference', await referencesOf(sql, companyId, orders)] as const] : []),
      [
        sheet.source.kind === 'AG' ? 'Agreement' : many ? 'Our orders' : 'Our order',
        orders.map(({ number }) => number).join(', '),
      ],
      ['Dated', day(sheet.invoiceDate)],
      // When it was supplied, where that is not the day of the invoice.
      ...(shipped ? [['Supplied', shipped] as const] : []),
      ['Due', `${day(sheet.dueDate)}, ${sheet.terms}`],
      ...(sheet.reason ? [['It', sheet.reason] as const] : []),
    ],
    currency: sheet.currency,
    lines: sheet.lines.map((line) => ({
      item: theirs(names, line.item),
      what: `${line.item.name}${chosen(options.get(line.orderLineId ?? 0))}\n${[...(many ? [orderOf.get(line.orderLineId ?? 0) ?? ''] : []), line.covers.number].filter(Boolean).join(', ')}${numbered(line.numbers)}`,
      tax: line.taxCode,
      quantity: inUnits(quantity(line.quantity), line.item.unit),
      unitPrice: line.unitPrice,
      amount: dec(line.net).plus(line.allowance).toFixed(),
    })),
    totals: [
      ...sheet.allowances.map((each) => [allowedText(each), dec(each.amount).neg().toFixed()] as const),
      ['Net', sheet.net],
      ...taxed(sheet.taxes, sheet.currency),
      ['Total', sheet.total],
      ...sheet.lessened.map(
        (each) => [`${each.how} ${each.document.number}`, dec(each.amount).neg().toFixed()] as const,
      ),
      ...(sheet.lessened.length > 0 ? [['Still owed', sheet.owed] as const] : []),
    ],
    pays: dec(sheet.owed).gt(0),
    closing: '',
  };
}

/** The days goods of an invoice went out, as one or from the first to the last; and the order of each of its lines. */
async function goodsOf(sql: Sql, companyId: number, id: number) {
  const rows = await sql.rows<{ orderLineId: number; order: string; day: string }>(
    `SELECT l.order_line_id, o.number AS \`order\`, s.posted_on AS day FROM customer_invoice_line l
       JOIN shipment_line sl ON sl.company_id = l.company_id AND sl.id = l.shipment_line_id
       JOIN shipment s ON s.company_id = sl.company_id AND s.id = sl.shipment_id
       JOIN sales_order_line ol ON ol.company_id = l.company_id AND ol.id = l.order_line_id
       JOIN sales_order o ON o.company_id = ol.company_id AND o.id = ol.order_id
      WHERE l.company_id = ? AND l.invoice_id = ? ORDER BY s.posted_on`,
    [companyId, id],
  );
  const [first, last] = [rows[0]?.day, rows.at(-1)?.day];
  return {
    shipped: first === undefined ? '' : first === last ? day(first) : `${day(first)} to ${day(last!)}`,
    orderOf: new Map(rows.map((row) => [row.orderLineId, row.order])),
  };
}

async function creditNote({ sql, companyId, id }: Sheet): Promise<Printed> {
  const sheet = await openCreditNote(sql, companyId, id);
  const names = await theirNumbers(
    sql,
    companyId,
    sheet.party.id,
    sheet.lines.map(({ item }) => item),
  );
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
      item: theirs(names, line.item),
      what: `${line.item.name}${numbered(line.numbers)}`,
      tax: line.taxCode,
      quantity: line.quantity === '0' ? 'price only' : inUnits(quantity(line.quantity), line.item.unit),
      unitPrice: line.unitPrice,
      amount: line.net,
    })),
    totals: [
      ['Net', sheet.net],
      ...taxed(sheet.taxes, sheet.currency),
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

/** A trade document before it is set; null for a kind that is not printed. */
export async function unsetDocument(
  sql: Sql,
  companyId: number,
  document: { kind: DocumentKind; id: number },
): Promise<(Omit<Unset, 'party'> & Pick<PrintedFile, 'title' | 'party'>) | null> {
  const printed = await PRINTED[document.kind]?.({ sql, companyId, id: document.id });
  if (!printed) return null;
  const [us, them] = [await ourLetterhead(sql, companyId), await partyOnPaper(sql, companyId, printed.party)];
  return {
    title: printed.title,
    number: printed.number,
    company: us.name,
    party: printed.party,
    content: contentOf(printed, us, them),
    foot: footOf(us),
  };
}

/** A trade document as it goes to its party; null for a kind that is not printed. */
export async function printedDocument(
  sql: Sql,
  companyId: number,
  document: { kind: DocumentKind; id: number },
): Promise<PrintedFile | null> {
  const made = await unsetDocument(sql, companyId, document);
  if (!made) return null;
  const { title, party, ...rest } = made;
  const unset = { ...rest, party: party.name };
  return {
    name: `${unset.number}.pdf`,
    title,
    number: unset.number,
    party,
    content: (by) => madeFile({ kind: 'pdf', unset }, by),
  };
}

function contentOf(printed: Printed, us: Letterhead, them: OnPaper): Content[] {
  return [
    letterhead(us),
    {
      columns: [
        { width: 240, ...addressWindow(us, them) },
        { width: '*', ...facts(printed.facts) },
      ],
      columnGap: 24,
    } as Content,
    { text: `${printed.title} ${printed.number}`, fontSize: 16, margin: [0, 6, 0, 8] },
    ...(printed.lines.length > 0 ? [lineTable(printed)] : []),
    ...totalsOf(printed),
    ...[printed.pays ? payTo(us, printed.number) : '', printed.closing]
      .filter(Boolean)
      .map((text): Content => ({ text, margin: [0, 24, 0, 0] })),
  ];
}

const small = (text: string): Content => ({ text, fontSize: 8, color: FAINT });

/** A text of several lines: the first as it is, the others small under it. */
const stacked = (text: string): TableCell => {
  const [name = '', ...more] = text.split('\n');
  return { stack: [name, ...more.map(small)] };
};

function lineTable({ lines, currency }: Printed): Content {
  const places = currencyPlaces(currency ?? '');
  const price = (text: string) => fixed(text, Math.max(places, text.split('.')[1]?.length ?? 0));
  const taxes = currency !== null && lines.some(({ tax }) => tax);
  const body = lines.map((line, at): TableCell[] => [
    { text: String(at + 1), color: FAINT },
    stacked(line.item),
    stacked(line.what),
    rightCell(line.quantity),
    ...(currency === null ? [] : [rightCell(price(line.unitPrice))]),
    ...(taxes ? [line.tax ?? ''] : []),
    ...(currency === null ? [] : [rightCell(fixed(line.amount, places))]),
  ]);
  const head = [
    headCell(''),
    headCell('Item'),
    headCell('What'),
    headCell('Quantity', true),
    ...(currency === null ? [] : [headCell('Price', true)]),
    ...(taxes ? [headCell('Tax')] : []),
    ...(currency === null ? [] : [headCell(`Amount, ${currency}`, true)]),
  ];
  return {
    table: {
      headerRows: 1,
      dontBreakRows: true,
      widths: head.map((_cell, at) => (at === 2 ? '*' : 'auto')),
      body: [head, ...body],
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
