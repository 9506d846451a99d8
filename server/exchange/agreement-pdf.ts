import pdfmake from 'pdfmake';
import type { Content, TableCell } from 'pdfmake/interfaces';
import { reminderWords } from '@core/agreements';
import { currencyPlaces, dayText, dec, decimalText } from '@core/kernel';
import type { Sql } from '../db/database';
import { openAgreement } from '../agreements';

// One of the fonts every reader of PDF has.
pdfmake.setFonts({
  Helvetica: {
    normal: 'Helvetica',
    bold: 'Helvetica-Bold',
    italics: 'Helvetica-Oblique',
    bolditalics: 'Helvetica-BoldOblique',
  },
});
// Nothing is fetched or read from elsewhere while a document is made.
pdfmake.setUrlAccessPolicy(() => false);
pdfmake.setLocalAccessPolicy((path) => path.startsWith('Helvetica'));

type Sheet = Awaited<ReturnType<typeof openAgreement>>;

const grouped = (text: string) => text.replace(/\B(?=(\d{3})+(?!\d))/g, ',');
const fixed = (text: string, places: number) => {
  const [whole, part] = dec(text).toFixed(places).split('.') as [string, string?];
  return grouped(whole) + (part ? `.${part}` : '');
};
const quantity = (text: string) => {
  const [whole, part] = decimalText(text).split('.') as [string, string?];
  return grouped(whole) + (part ? `.${part}` : '');
};
const day = (text: string | null) => (text === null ? '-' : dayText(text, ''));

/** An agreement as a printed document: who, when, what is committed at which prices, and every term beside. */
export async function agreementPdf(
  sql: Sql,
  companyId: number,
  id: number,
): Promise<{ name: string; content: Buffer }> {
  const sheet = await openAgreement(sql, companyId, id);
  const [company] = await sql.rows<{ name: string }>('SELECT name FROM company WHERE id = ?', [companyId]);
  const document = pdfmake.createPdf({
    info: { title: `${sheet.number} ${sheet.party.name}`, author: company!.name },
    pageSize: 'A4',
    pageMargins: [48, 54, 48, 54],
    defaultStyle: { font: 'Helvetica', fontSize: 10, lineHeight: 1.15 },
    footer: (page: number, pages: number) => ({
      columns: [{ text: `${sheet.number} · ${company!.name}` }, { text: `${page} of ${pages}`, alignment: 'right' }],
      margin: [48, 18, 48, 0],
      fontSize: 8,
      color: '#5d6f6c',
    }),
    content: contentOf(sheet, company!.name),
  });
  return { name: `${sheet.number}.pdf`, content: await document.getBuffer() };
}

function contentOf(sheet: Sheet, company: string): Content[] {
  const selling = sheet.side === 'selling';
  return [
    { text: company, fontSize: 9, color: '#5d6f6c' },
    { text: `Blanket agreement ${sheet.number}`, fontSize: 18, margin: [0, 2, 0, 2] },
    { text: sheet.title, fontSize: 12, margin: [0, 0, 0, 12] },
    facts([
      [selling ? 'Customer' : 'Vendor', `${sheet.party.name} (${sheet.party.number})`],
      ['Period', `${day(sheet.firstDay)} to ${day(sheet.lastDay)}`],
      ['Signed', day(sheet.signedOn)],
      ['State', sheet.state.replace('-', ' ')],
      ['Commits to', sheet.basis === 'quantity' ? 'quantities of items' : `amounts in ${sheet.currency}`],
      [
        'Above the limit',
        LIMITS[sheet.limitPolicy] + (sheet.tolerancePercent === '0' ? '' : `, ${sheet.tolerancePercent} % tolerance`),
      ],
      ...rebateFacts(sheet),
      ...(sheet.reminders.length > 0
        ? [['Reminders', sheet.reminders.map(reminderWords).join('; ').replace('−', '-')] as const]
        : []),
    ]),
    lineTable(sheet),
    ...(sheet.notes ? [{ text: sheet.notes, margin: [0, 12, 0, 0] } as Content] : []),
    {
      columns: [signature(company), signature(sheet.party.name)],
      columnGap: 40,
      margin: [0, 60, 0, 0],
      unbreakable: true,
    },
  ];
}

const LIMITS: Record<Sheet['limitPolicy'], string> = {
  refuse: 'nothing is released beyond it',
  warn: 'more may be released at the agreed price, with a word',
  keep: 'more may be released at the agreed price',
  split: 'what is beyond it goes at the price without the agreement',
};

function facts(rows: readonly (readonly [string, string])[]): Content {
  return {
    table: { widths: [110, '*'], body: rows.map(([name, text]) => [{ text: name, color: '#5d6f6c' }, text]) },
    layout: 'noBorders',
    margin: [0, 0, 0, 14],
  };
}

function rebateFacts({ rebate, currency }: Sheet): (readonly [string, string])[] {
  if (rebate.kind === 'none') return [];
  const rate = (text: string) => (rebate.by === 'value' ? `${text} %` : `${currency} ${text} each`);
  const from = (text: string) =>
    rebate.by === 'value' ? `${currency} ${fixed(text, currencyPlaces(currency))}` : quantity(text);
  const how = rebate.kind === 'whole' ? 'the reached rate on everything' : 'each tier on its own slice';
  return [
    ['Rebate', `${rebate.tiers.map((tier) => `${rate(tier.rate)} from ${from(tier.from)}`).join('; ')} (${how})`],
  ];
}

function lineTable(sheet: Sheet): Content {
  const { currency, basis } = sheet;
  const places = currencyPlaces(currency);
  const head = (text: string, right = false): TableCell => ({ text, bold: true, alignment: right ? 'right' : 'left' });
  const right = (text: string, bold = false): TableCell => ({ text, bold, alignment: 'right' });
  return {
    table: {
      headerRows: 1,
      widths: ['auto', '*', 'auto', 'auto', 'auto'],
      body: [
        [head('Item'), head('What'), head('Committed', true), head('Price', true), head(`Value, ${currency}`, true)],
        ...sheet.lines.map((line) => [
          line.item?.number ?? line.group?.code ?? 'everything',
          whatOf(line),
          right(basis === 'quantity' ? `${quantity(line.committed)} ${line.item!.unit}` : ''),
          right(priceOf(line, places)),
          right(fixed(line.committedValue, places)),
        ]),
        [{ text: 'Together', bold: true, colSpan: 4 }, '', '', '', right(fixed(sheet.values.committed, places), true)],
      ],
    },
    layout: 'lightHorizontalLines',
  };
}

function whatOf(line: Sheet['lines'][number]): TableCell {
  const more = [
    ...line.breaks.map(
      (each) => `${line.priceKind === 'discount' ? `${each.value} % off` : each.value} from ${quantity(each.from)}`,
    ),
    ...(line.leastRelease === '0' ? [] : [`at least ${quantity(line.leastRelease)} a release`]),
    ...(line.releaseMultiple === '0' ? [] : [`in multiples of ${quantity(line.releaseMultiple)}`]),
    ...(line.notes ? [line.notes] : []),
  ];
  const name = line.item?.name ?? line.group?.name ?? 'all items';
  return { stack: [name, ...(more.length > 0 ? [{ text: more.join('; '), fontSize: 8, color: '#5d6f6c' }] : [])] };
}

function priceOf(line: Sheet['lines'][number], places: number): string {
  if (line.priceKind === 'none') return 'list';
  if (line.priceKind === 'discount') return `${line.priceValue} % off list`;
  return fixed(line.priceValue, Math.max(places, line.priceValue.split('.')[1]?.length ?? 0));
}

const signature = (name: string): Content => ({
  stack: [
    { canvas: [{ type: 'line', x1: 0, y1: 0, x2: 200, y2: 0, lineWidth: 0.7 }] },
    { text: `For ${name}, date`, fontSize: 8, margin: [0, 3, 0, 0] },
  ],
});
