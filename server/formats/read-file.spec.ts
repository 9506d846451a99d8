import { strToU8, zipSync } from 'fflate';
import { tableIn, xmlIn } from './read-file';
import { READ_BOUNDS } from './read-bounds';

const MAIN = 'http://schemas.openxmlformats.org/spreadsheetml/2006/main';
const RELATIONS = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships';
const PACKAGE = 'http://schemas.openxmlformats.org/package/2006';

/** A workbook of one sheet, with whatever stands in and beside its rows. */
function workbook(sheet: string, more: Record<string, Uint8Array> = {}): Buffer {
  const rels = (inside: string) => strToU8(`<Relationships xmlns="${PACKAGE}/relationships">${inside}</Relationships>`);
  return Buffer.from(
    zipSync({
      '[Content_Types].xml': strToU8(
        `<Types xmlns="${PACKAGE}/content-types"><Default Extension="xml" ContentType="application/xml"/></Types>`,
      ),
      '_rels/.rels': rels(`<Relationship Id="r1" Type="${RELATIONS}/officeDocument" Target="xl/workbook.xml"/>`),
      'xl/workbook.xml': strToU8(
        `<workbook xmlns="${MAIN}" xmlns:r="${RELATIONS}"><sheets><sheet name="A" sheetId="1" r:id="r1"/></sheets></workbook>`,
      ),
      'xl/_rels/workbook.xml.rels': rels(
        `<Relationship Id="r1" Type="${RELATIONS}/worksheet" Target="worksheets/sheet1.xml"/>`,
      ),
      'xl/worksheets/sheet1.xml': strToU8(`<worksheet xmlns="${MAIN}">${sheet}</worksheet>`),
      ...more,
    }),
  );
}

const cell = (at: string, text: string) => `<c r="${at}" t="inlineStr"><is><t>${text}</t></is></c>`;
const ROWS = `<sheetData><row r="1">${cell('A1', 'item')}${cell('B1', 'quantity')}</row>
  <row r="2">${cell('A2', 'FC-10')}<c r="B2"><v>2</v></c></row></sheetData>`;
const TABLE = [
  ['item', 'quantity'],
  ['FC-10', '2'],
];

describe('files that are brought in', () => {
  it.each([
    ['columns as far as a billion', workbook(`<cols><col min="1" max="1000000000" width="9"/></cols>${ROWS}`)],
    ['merged cells as far as they go', workbook(`${ROWS}<mergeCells><mergeCell ref="A1:XFD1048576"/></mergeCells>`)],
    [
      'a rule over every cell',
      workbook(`${ROWS}<dataValidations><dataValidation sqref="A1:XFD1048576" type="whole"/></dataValidations>`),
    ],
    ['a size that it has not', workbook(`<dimension ref="A1:ZZZ1000000000"/>${ROWS}`)],
    ['a part that nobody reads and unpacks to much', workbook(ROWS, { 'xl/media/a.png': new Uint8Array(90_000_000) })],
  ])('are read for their rows alone, with %s', async (_what, content) => {
    expect(await tableIn('a.xlsx', content)).toEqual(TABLE);
  });

  const far = (row: string) => workbook(`<sheetData><row r="1">${cell('A1', 'item')}</row>${row}</sheetData>`);
  it.each([
    ['a row far down', far(`<row r="1000000000">${cell('A1000000000', 'x')}</row>`), 'file-too-long'],
    ['a cell far right', far(`<row r="2">${cell('XFD2', 'x')}</row>`), 'file-too-long'],
    ['a sheet that unpacks to much', workbook('<sheetData>'.padEnd(90_000_000, ' ')), 'file-too-heavy'],
    ['parts without end', workbook(ROWS, manyParts()), 'file-too-heavy'],
    ['a text without end', workbook(ROWS.replace('FC-10', 'x'.repeat(39_000_000))), 'file-too-heavy'],
    ['a sheet nested without end', workbook('<a>'.repeat(3_000_000)), 'file-unreadable'],
    ['no workbook in it', Buffer.from(zipSync({ 'a.txt': strToU8('a') })), 'file-unreadable'],
  ])('are refused with %s', async (_what, content, code) => {
    expect(await tableIn('a.xlsx', content)).toMatchObject({ code });
  });

  function manyParts(): Record<string, Uint8Array> {
    return Object.fromEntries(Array.from({ length: READ_BOUNDS.parts }, (_, at) => [`xl/media/${at}`, strToU8('a')]));
  }

  it.each([
    ['time', { megabytes: 256, seconds: 0.001 }],
    ['memory', { megabytes: 6, seconds: 100 }],
  ])('are refused where they take more %s than they may, whatever they are', async (_what, costs) => {
    const cells = Array.from({ length: 150 }, () => `<c><v>1</v></c>`).join('');
    const rows = `<row>${cells}</row>`.repeat(5000);
    const found = await tableIn('a.xlsx', workbook(`<sheetData>${rows}</sheetData>`), costs);
    expect(found).toMatchObject({ code: 'file-too-heavy' });
  });

  it('are refused at their bound as CSV, not after', async () => {
    const rows = (count: number) => Buffer.from(`item,quantity\n${'FC-10,2\n'.repeat(count)}`);
    expect(await tableIn('a.csv', rows(READ_BOUNDS.rows - 1))).toHaveLength(READ_BOUNDS.rows);
    expect(await tableIn('a.csv', rows(READ_BOUNDS.rows))).toMatchObject({ code: 'file-too-long' });
    expect(await tableIn('a.csv', Buffer.from('x'.repeat(READ_BOUNDS.record * 2)))).toMatchObject({
      code: 'file-unreadable',
    });
    expect(await tableIn('a.csv', Buffer.from(','.repeat(READ_BOUNDS.columns)))).toMatchObject({
      code: 'file-too-long',
    });
  });

  it('are refused as XML that nests without end', async () => {
    expect(await xmlIn('a.xml', Buffer.from('<a>'.repeat(200_000)))).toMatchObject({
      code: expect.any(String) as string,
    });
    const deep = `${'<a>'.repeat(100_000)}${'</a>'.repeat(100_000)}`;
    expect(await xmlIn('a.xml', Buffer.from(deep))).toMatchObject({ code: expect.stringMatching(/^file-/) as string });
    expect(await xmlIn('a.xml', Buffer.from('<a><b>1</b></a>'))).toMatchObject({ name: 'a' });
  });

  it('are read one after the other where several come at once', async () => {
    const all = await Promise.all(Array.from({ length: 6 }, () => tableIn('a.xlsx', workbook(ROWS))));
    expect(all).toEqual(Array.from({ length: 6 }, () => TABLE));
  });
});
