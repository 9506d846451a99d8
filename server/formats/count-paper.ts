import type { Content, TableCell } from 'pdfmake/interfaces';
import type { Sql } from '../db';
import { openCount } from '../stock';
import { barCode, bothCodes } from './bar-code';
import { day, FAINT, facts, headCell, quantity, rightCell, type Unset } from './pdf';

type Count = Awaited<ReturnType<typeof openCount>>;

async function companyName(sql: Sql, companyId: number): Promise<string> {
  const [company] = await sql.rows<{ name: string }>('SELECT name FROM company WHERE id = ?', [companyId]);
  return company!.name;
}

/** A count sheet on paper: a bar code and a gap for each item; a blind one does not tell what is known. // W6 */
export async function countPaper(sql: Sql, companyId: number, id: number): Promise<Unset> {
  const count = await openCount(sql, companyId, id);
  const company = await companyName(sql, companyId);
  return { number: count.document.number, party: count.location, company, content: sheetOf(count, company) };
}

function sheetOf(count: Count, company: string): Content[] {
  const open = count.state === 'open';
  const told = !(open && count.blind);
  const head = ['', 'Item', 'What', ...(told ? ['Known'] : []), 'Counted', 'Unit'];
  const rows = count.rows.map((row): TableCell[] => [
    barCode(row.item.number, 92) as TableCell,
    row.item.number,
    row.item.name,
    ...(told ? [rightCell(row.known === '' ? '' : quantity(row.known))] : []),
    rightCell(row.counted === null ? '................' : quantity(row.counted)),
    row.item.unit,
  ]);
  return [
    { text: company, fontSize: 9, color: FAINT },
    { text: `Count ${count.document.number}`, fontSize: 18, margin: [0, 2, 0, 8] },
    facts([
      ['Place', count.location],
      ['Of', count.group || 'all that is there'],
      [open ? 'Begun' : 'Posted', day(open ? count.begunOn : count.postedOn)],
      ...((open ? [['Counted by', '']] : []) as [string, string][]),
    ]),
    {
      table: {
        headerRows: 1,
        dontBreakRows: true,
        widths: [96, 66, '*', ...(told ? [50] : []), 70, 44],
        body: [head.map((text) => headCell(text, text === 'Known' || text === 'Counted')), ...rows],
      },
      layout: 'lightHorizontalLines',
    },
  ];
}

/** What is on one label. */
interface Label {
  number: string;
  name: string;
  unit: string;
}

/** Labels, three side by side: an item's number as text and as bar code, and its name. // W6 */
export async function countLabels(sql: Sql, companyId: number, id: number): Promise<Unset> {
  const count = await openCount(sql, companyId, id);
  const company = await companyName(sql, companyId);
  const labels = count.rows.map(({ item }) => item);
  return { number: count.document.number, party: count.location, company, content: labelsOf(labels, company) };
}

/** The label of one item. */
export async function itemLabel(sql: Sql, companyId: number, itemId: number): Promise<Unset | null> {
  const [item] = await sql.rows<Label>('SELECT number, name, unit FROM item WHERE company_id = ? AND id = ?', [
    companyId,
    itemId,
  ]);
  if (!item) return null;
  const company = await companyName(sql, companyId);
  return { number: item.number, party: item.name, company, content: labelsOf([item], company) };
}

const SIDE_BY_SIDE = 3;

function labelsOf(labels: readonly Label[], company: string): Content[] {
  const cells = labels.map(({ number, name, unit }): TableCell => ({
    stack: [
      { text: company, fontSize: 7, color: FAINT },
      { text: number, fontSize: 15, bold: true },
      { text: `${name}, by ${unit}`, fontSize: 8, margin: [0, 0, 0, 4] },
      bothCodes(number, 100),
    ],
    margin: [4, 6, 4, 8],
  }));
  const rows: TableCell[][] = [];
  for (let at = 0; at < cells.length; at += SIDE_BY_SIDE) {
    const row = cells.slice(at, at + SIDE_BY_SIDE);
    rows.push([...row, ...Array.from({ length: SIDE_BY_SIDE - row.length }, (): TableCell => '')]);
  }
  const widths = Array.from({ length: SIDE_BY_SIDE }, () => '*');
  return [{ table: { widths, dontBreakRows: true, body: rows.length > 0 ? rows : [['', '', '']] } }];
}
