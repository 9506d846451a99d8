import type { Content, TableCell } from 'pdfmake/interfaces';
import { reminderWords } from '@core/agreements';
import { currencyPlaces } from '@core/kernel';
import type { Sql } from '../db';
import { openAgreement } from '../agreements';
import { day, FAINT, facts, fixed, headCell, quantity, rightCell } from './pdf';
import { madeFile, type Making } from './write-file';

type Sheet = Awaited<ReturnType<typeof openAgreement>>;

/** An agreement as a printed document: who, when, what is committed at which prices, and every term beside. */
export async function agreementPdf(
  sql: Sql,
  companyId: number,
  id: number,
): Promise<{ name: string; party: Sheet['party']; side: Sheet['side']; content(by: Making): Promise<Buffer> }> {
  const sheet = await openAgreement(sql, companyId, id);
  const [company] = await sql.rows<{ name: string }>('SELECT name FROM company WHERE id = ?', [companyId]);
  const { number, party, side } = sheet;
  const unset = { number, party: party.name, company: company!.name, content: contentOf(sheet, company!.name) };
  return { name: `${number}.pdf`, party, side, content: (by) => madeFile({ kind: 'pdf', unset }, by) };
}

function contentOf(sheet: Sheet, company: string): Content[] {
  const selling = sheet.side === 'selling';
  return [
    { text: company, fontSize: 9, color: FAINT },
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
      ...(sheet.wholeLimit ? [['Limit on the whole', wholeWords(sheet)] as const] : []),
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

/** `MYR 50000` of an amount, `1000 kg` of a quantity. // A5 */
const wholeWords = ({ wholeLimit, currency }: Sheet): string =>
  wholeLimit.includes(' ') ? wholeLimit : `${currency} ${fixed(wholeLimit, currencyPlaces(currency))}`;

const LIMITS: Record<Sheet['limitPolicy'], string> = {
  refuse: 'nothing is released beyond it',
  warn: 'more may be released at the agreed price, with a word',
  keep: 'more may be released at the agreed price',
  split: 'what is beyond it goes at the price without the agreement',
};

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
  return {
    table: {
      headerRows: 1,
      widths: ['auto', '*', 'auto', 'auto', 'auto'],
      body: [
        [
          headCell('Item'),
          headCell('What'),
          headCell('Committed', true),
          headCell('Price', true),
          headCell(`Value, ${currency}`, true),
        ],
        ...sheet.lines.map((line) => [
          line.item?.number ?? line.group?.code ?? 'everything',
          whatOf(line),
          rightCell(basis === 'quantity' ? `${quantity(line.committed)} ${line.item!.unit}` : ''),
          rightCell(priceOf(line, places)),
          rightCell(fixed(line.committedValue, places)),
        ]),
        [
          { text: 'Together', bold: true, colSpan: 4 },
          '',
          '',
          '',
          rightCell(fixed(sheet.values.committed, places), true),
        ],
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
  return { stack: [name, ...(more.length > 0 ? [{ text: more.join('; '), fontSize: 8, color: FAINT }] : [])] };
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
