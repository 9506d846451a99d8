import type { Content, TableCell } from 'pdfmake/interfaces';
import { PAPER_WORDS, type PaperWords } from '@core/formats';
import { currencyPlaces, dayIn, dec, documentTotals, unitsIn, type DocumentKind, type Language } from '@core/kernel';
import { ALLOWANCE_UNITS, type AllowanceMeasure } from '@core/pricing';
import type { Right } from '@api/access';
import { openCreditNote, openInvoice } from '../billing';
import { chosenNames } from '../catalogue';
import { TABLE_OF, type Sql, type Columns } from '../db';
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
import { FAINT, facts, fixed, headCell, quantity, rightCell, type Unset } from './pdf';
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

type Sheet = { sql: Sql; companyId: number; id: number; words: PaperWords };

const address = (
  to: { label: string; street: string; town: string; postcode: string } | null,
  { letterhead: words }: PaperWords,
) => (to ? `${to.label}, ${to.street}, ${to.postcode} ${to.town}` : words.ourPlace);

/** A day with its year; a dash for none. */
const dayOn = (day: string | null, { language }: PaperWords) => (day === null ? '-' : dayIn(day, language));

/** The numbers of a line's pieces, in a line of their own. // P6 */
const numbered = (numbers: readonly { number: string }[], { line }: PaperWords) =>
  numbers.length === 0
    ? ''
    : `\n${numbers.length === 1 ? line.number : line.numbers} ${numbers.map(({ number }) => number).join(', ')}`;

/** What was chosen for a line, in a line of its own. // W2 */
const chosen = (options: readonly { name: string }[] = [], { line }: PaperWords) =>
  options.length === 0 ? '' : `\n${line.with} ${options.map(({ name }) => name).join(', ')}`;

/** Tax by code, as an authority asks for it: rate and what it is of. */
const taxed = (
  taxes: readonly { taxCode: string; taxRate: string; base: string; tax: string }[],
  currency: string,
  { total }: PaperWords,
) =>
  taxes.map(
    (tax) =>
      [`${tax.taxCode}: ${tax.taxRate} % ${total.of} ${fixed(tax.base, currencyPlaces(currency))}`, tax.tax] as const,
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

const allowedText = (
  { measure, from, perCent }: { measure: AllowanceMeasure; from: string; perCent: string },
  { total }: PaperWords,
) => `${total.allowance} ${perCent} % ${total.from} ${quantity(from)} ${ALLOWANCE_UNITS[measure]}`.trimEnd();

async function orderConfirmation({ sql, companyId, id, words }: Sheet): Promise<Printed> {
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
        ? words.title.draft
        : sheet.revision > 0
          ? words.title.revisedConfirmation
          : words.title.confirmation,
    number: sheet.number,
    party: { ...sheet.customer, side: 'customer' },
    facts: [
      [words.fact.reference, sheet.customerReference || '-'],
      [words.fact.ordered, dayOn(sheet.orderDate, words)],
      // It is instead of what was sent before. // S8
      ...(sheet.revision > 0 ? [[words.fact.revision, String(sheet.revision)] as const] : []),
      [words.fact.goesTo, address(sheet.shipTo, words)],
      [words.fact.terms, sheet.terms],
      ...(sheet.agreement ? [[words.fact.releasedFrom, sheet.agreement.number] as const] : []),
    ],
    currency: sheet.currency,
    lines: sheet.lines
      .filter((line) => line.cancelled !== line.quantity)
      .map((line) => {
        const sold = dec(line.quantity).minus(line.cancelled).div(line.sold.factor);
        return {
          item: theirs(names, line.item),
          what: `${line.item.name}${chosen(line.options, words)}\n${words.line.ships} ${dayOn(line.shipDate, words)}`,
          tax: line.taxCode,
          quantity: unitsIn(quantity(sold.toFixed()), line.sold.unit, words.language),
          unitPrice: sold.gt(0) ? dec(line.amount).div(sold).round(4).toFixed() : '0',
          amount: line.amount,
        };
      }),
    totals: [
      [words.total.net, sheet.totals.net],
      ...taxed(sheet.totals.taxes, sheet.currency, words),
      [words.total.total, sheet.totals.total],
    ],
    closing: '',
  };
}

async function purchaseOrder({ sql, companyId, id, words }: Sheet): Promise<Printed> {
  const sheet = await openPurchase(sql, companyId, id);
  const totals = documentTotals(
    sheet.lines.map((line) => ({ taxCode: '', taxRate: '0', net: dec(line.amount) })),
    sheet.currency,
  );
  return {
    title: sheet.revision > 0 ? words.title.revisedPurchase : words.title.purchase,
    number: sheet.number,
    party: { ...sheet.vendor, side: 'vendor' },
    facts: [
      [words.fact.ordered, dayOn(sheet.orderDate, words)],
      // It is instead of what was sent before. // S8
      ...(sheet.revision > 0 ? [[words.fact.revision, String(sheet.revision)] as const] : []),
      [
        words.fact.deliverTo,
        sheet.customer
          ? `${sheet.customer.name}, ${address(sheet.shipTo, words)}`
          : `${words.letterhead.us}, ${sheet.location!.name}`,
      ],
      [words.fact.terms, sheet.terms],
    ],
    currency: sheet.currency,
    lines: sheet.lines
      .filter(({ quantity: asked }) => asked !== '0')
      .map((line) => ({
        item: line.item.number,
        what: `${line.item.name}\n${words.line.due} ${dayOn(line.dueDate, words)}`,
        quantity: unitsIn(quantity(line.quantity), line.item.unit, words.language),
        unitPrice: line.unitPrice,
        amount: line.amount,
      })),
    totals: [[words.total.netTaxApart, totals.net.toFixed()]],
    closing: words.closing.purchase,
  };
}

async function deliveryNote({ sql, companyId, id, words }: Sheet): Promise<Printed> {
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
    title: sheet.reverses ? words.title.deliveryBack : words.title.delivery,
    number: sheet.document.number,
    party: { ...sheet.party, side: 'customer' },
    facts: [
      [words.fact.reference, await referencesOf(sql, companyId, sheet.sources)],
      [
        sheet.sources.length > 1 ? words.fact.ourOrders : words.fact.ourOrder,
        sheet.sources.map(({ number }) => number).join(', '),
      ],
      [words.fact.shipped, dayOn(sheet.postedOn, words)],
      [words.fact.goesTo, address(to ?? null, words)],
      ...(sheet.reverses ? [[words.fact.takesBack, sheet.reverses.number] as const] : []),
    ],
    currency: null,
    lines: sheet.lines.map((line) => ({
      item: theirs(names, line.item),
      what: `${line.item.name}${chosen(options.get(line.orderLineId ?? 0), words)}${numbered(line.numbers, words)}${sheet.sources.length > 1 ? `\n${line.source.number}` : ''}`,
      quantity: unitsIn(quantity(line.quantity), line.item.unit, words.language),
      unitPrice: '0',
      amount: '0',
    })),
    totals: [],
    closing: words.closing.delivery,
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

async function invoice({ sql, companyId, id, words }: Sheet): Promise<Printed> {
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
  const { shipped, orderOf } = await goodsOf(sql, companyId, id, words);
  return {
    title: words.title.invoice,
    number: sheet.document.number,
    party: { ...sheet.party, side: 'customer' },
    facts: [
      ...(sheet.source.kind === 'SO'
        ? [[words.fact.reference, await referencesOf(sql, companyId, orders)] as const]
        : []),
      [
        sheet.source.kind === 'AG' ? words.fact.agreement : many ? words.fact.ourOrders : words.fact.ourOrder,
        orders.map(({ number }) => number).join(', '),
      ],
      [words.fact.dated, dayOn(sheet.invoiceDate, words)],
      // When it was supplied, where that is not the day of the invoice.
      ...(shipped ? [[words.fact.supplied, shipped] as const] : []),
      [words.fact.due, `${dayOn(sheet.dueDate, words)}, ${sheet.terms}`],
      ...(sheet.reason ? [[words.fact.note, sheet.reason] as const] : []),
    ],
    currency: sheet.currency,
    lines: sheet.lines.map((line) => ({
      item: theirs(names, line.item),
      what: `${line.item.name}${chosen(options.get(line.orderLineId ?? 0), words)}\n${[...(many ? [orderOf.get(line.orderLineId ?? 0) ?? ''] : []), line.covers.number].filter(Boolean).join(', ')}${numbered(line.numbers, words)}`,
      tax: line.taxCode,
      quantity: unitsIn(quantity(line.quantity), line.item.unit, words.language),
      unitPrice: line.unitPrice,
      amount: dec(line.net).plus(line.allowance).toFixed(),
    })),
    totals: [
      ...sheet.allowances.map((each) => [allowedText(each, words), dec(each.amount).neg().toFixed()] as const),
      [words.total.net, sheet.net],
      ...taxed(sheet.taxes, sheet.currency, words),
      [words.total.total, sheet.total],
      ...sheet.lessened.map(
        (each) =>
          [
            `${each.how === 'drawn from' ? words.total.drawnFrom : words.total.setOff} ${each.document.number}`,
            dec(each.amount).neg().toFixed(),
          ] as const,
      ),
      ...(sheet.lessened.length > 0 ? [[words.total.stillOwed, sheet.owed] as const] : []),
    ],
    pays: dec(sheet.owed).gt(0),
    closing: '',
  };
}

/** The days goods of an invoice went out, as one or from the first to the last; and the order of each of its lines. */
async function goodsOf(sql: Sql, companyId: number, id: number, words: PaperWords) {
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
    shipped:
      first === undefined
        ? ''
        : first === last
          ? dayOn(first, words)
          : `${dayOn(first, words)} ${words.letterhead.to} ${dayOn(last!, words)}`,
    orderOf: new Map(rows.map((row) => [row.orderLineId, row.order])),
  };
}

async function creditNote({ sql, companyId, id, words }: Sheet): Promise<Printed> {
  const sheet = await openCreditNote(sql, companyId, id);
  const names = await theirNumbers(
    sql,
    companyId,
    sheet.party.id,
    sheet.lines.map(({ item }) => item),
  );
  return {
    title: words.title.credit,
    number: sheet.document.number,
    party: { ...sheet.party, side: 'customer' },
    facts: [
      [sheet.against.kind === 'AG' ? words.fact.rebateOf : words.fact.against, sheet.against.number],
      [words.fact.dated, dayOn(sheet.creditDate, words)],
      [words.fact.why, sheet.reason || '-'],
    ],
    currency: sheet.currency,
    lines: sheet.lines.map((line) => ({
      item: theirs(names, line.item),
      what: `${line.item.name}${numbered(line.numbers, words)}`,
      tax: line.taxCode,
      quantity:
        line.quantity === '0' ? words.line.priceOnly : unitsIn(quantity(line.quantity), line.item.unit, words.language),
      unitPrice: line.unitPrice,
      amount: line.net,
    })),
    totals: [
      [words.total.net, sheet.net],
      ...taxed(sheet.taxes, sheet.currency, words),
      [words.total.total, sheet.total],
      ...sheet.setOff.map(
        (each) => [`${words.total.setOff} ${each.document.number}`, dec(each.amount).neg().toFixed()] as const,
      ),
      ...(sheet.setOff.length > 0 ? [[words.total.toYourCredit, sheet.left] as const] : []),
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
  /** What its party reads. */
  language: Language;
  /** Its bytes, made when they are asked for. */
  content(by: Making): Promise<Buffer>;
}

/** What a document's party reads. */
async function languageOf(
  sql: Sql,
  companyId: number,
  { kind, id }: { kind: DocumentKind; id: number },
): Promise<Language> {
  const side = kind === 'PO' ? 'vendor' : 'customer';
  const [party] = await sql.rows<{ language: Language }>(
    `SELECT p.language FROM ${TABLE_OF[kind]} d JOIN ${side} p ON p.company_id = d.company_id AND p.id = d.${side}_id
      WHERE d.company_id = ? AND d.id = ?`,
    [companyId, id],
  );
  return party?.language ?? 'en';
}

/** What the company writes at the end of such a document; empty for nothing. */
async function textOf(sql: Sql, companyId: number, kind: DocumentKind, language: Language): Promise<string> {
  const [text] = await sql.rows<{ words: string }>(
    'SELECT words FROM paper_text WHERE company_id = ? AND document_kind = ? AND language = ?',
    [companyId, kind, language],
  );
  return text?.words ?? '';
}

/** A trade document before it is set; null for a kind that is not printed. */
export async function unsetDocument(
  sql: Sql,
  companyId: number,
  document: { kind: DocumentKind; id: number },
): Promise<(Omit<Unset, 'party'> & Pick<PrintedFile, 'title' | 'party' | 'language'>) | null> {
  const print = PRINTED[document.kind];
  if (!print) return null;
  const words = PAPER_WORDS[await languageOf(sql, companyId, document)];
  const printed = await print({ sql, companyId, id: document.id, words });
  const [us, them] = [await ourLetterhead(sql, companyId), await partyOnPaper(sql, companyId, printed.party)];
  return {
    title: printed.title,
    number: printed.number,
    company: us.name,
    party: printed.party,
    content: contentOf(printed, us, them, words, await textOf(sql, companyId, document.kind, words.language)),
    foot: footOf(us, words),
    of: words.letterhead.of,
    language: words.language,
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
  const { title, party, language, ...rest } = made;
  const unset = { ...rest, party: party.name };
  return {
    name: `${unset.number}.pdf`,
    title,
    number: unset.number,
    party,
    language,
    content: (by) => madeFile({ kind: 'pdf', unset }, by),
  };
}

function contentOf(printed: Printed, us: Letterhead, them: OnPaper, words: PaperWords, text: string): Content[] {
  return [
    letterhead(us, words),
    {
      columns: [
        { width: 240, ...addressWindow(us, them, words) },
        { width: '*', ...facts(printed.facts) },
      ],
      columnGap: 24,
    } as Content,
    { text: `${printed.title} ${printed.number}`, fontSize: 16, margin: [0, 6, 0, 8] },
    ...(printed.lines.length > 0 ? [lineTable(printed, words)] : []),
    ...totalsOf(printed, words),
    ...[printed.pays ? payTo(us, printed.number, words) : '', text, printed.closing]
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

function lineTable({ lines, currency }: Printed, words: PaperWords): Content {
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
    headCell(words.head.item),
    headCell(words.head.what),
    headCell(words.head.quantity, true),
    ...(currency === null ? [] : [headCell(words.head.price, true)]),
    ...(taxes ? [headCell(words.head.tax)] : []),
    ...(currency === null ? [] : [headCell(`${words.head.amount}, ${currency}`, true)]),
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

function totalsOf({ totals, currency }: Printed, words: PaperWords): Content[] {
  if (totals.length === 0 || currency === null) return [];
  const places = currencyPlaces(currency);
  const strong = (name: string) => [words.total.total, words.total.stillOwed, words.total.toYourCredit].includes(name);
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
