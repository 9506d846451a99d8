import pdfmake from 'pdfmake';
import type { Content, TableCell } from 'pdfmake/interfaces';
import { dayText, dec, decimalText } from '@core/kernel';

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

export const FAINT = '#5d6f6c';

const grouped = (text: string) => text.replace(/\B(?=(\d{3})+(?!\d))/g, ',');

/** `12345.6` with places as `12,345.60`. */
export function fixed(text: string, places: number): string {
  const [whole, part] = dec(text).toFixed(places).split('.') as [string, string?];
  return grouped(whole) + (part ? `.${part}` : '');
}

export function quantity(text: string): string {
  const [whole, part] = decimalText(text).split('.') as [string, string?];
  return grouped(whole) + (part ? `.${part}` : '');
}

/** A day with its year; a dash for none. */
export const day = (text: string | null) => (text === null ? '-' : dayText(text, ''));

/** Names with their texts, side by side. */
export function facts(rows: readonly (readonly [string, string])[]): Content {
  return {
    table: { widths: [110, '*'], body: rows.map(([name, text]) => [{ text: name, color: FAINT }, text]) },
    layout: 'noBorders',
    margin: [0, 0, 0, 14],
  };
}

export const headCell = (text: string, right = false): TableCell => ({
  text,
  bold: true,
  alignment: right ? 'right' : 'left',
});
export const rightCell = (text: string, bold = false): TableCell => ({ text, bold, alignment: 'right' });

/** The bytes of a document of ours: A4, its number and page at every foot. */
export function pdfOf(number: string, party: string, company: string, content: Content[]): Promise<Buffer> {
  return pdfmake
    .createPdf({
      info: { title: `${number} ${party}`, author: company },
      pageSize: 'A4',
      pageMargins: [48, 54, 48, 54],
      defaultStyle: { font: 'Helvetica', fontSize: 10, lineHeight: 1.15 },
      footer: (page: number, pages: number) => ({
        columns: [{ text: `${number} · ${company}` }, { text: `${page} of ${pages}`, alignment: 'right' }],
        margin: [48, 18, 48, 0],
        fontSize: 8,
        color: FAINT,
      }),
      content,
    })
    .getBuffer();
}
