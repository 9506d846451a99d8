import pdfmake from 'pdfmake';
import { FAINT, type Unset } from './pdf';
import { FALLBACK_FONTS, isFontFile, readable } from './set-text';

// One of the fonts every reader of PDF has; what it lacks is in parts of one that ships with Kampong.
pdfmake.setFonts({
  Helvetica: {
    normal: 'Helvetica',
    bold: 'Helvetica-Bold',
    italics: 'Helvetica-Oblique',
    bolditalics: 'Helvetica-BoldOblique',
  },
  ...FALLBACK_FONTS,
});
// Nothing is fetched or read from elsewhere while a document is made.
pdfmake.setUrlAccessPolicy(() => false);
pdfmake.setLocalAccessPolicy((path) => path.startsWith('Helvetica') || isFontFile(path));

/** The bytes of a document of ours: A4, its number and page at every foot. O(lines), some milliseconds each. */
export function setPdf({ number, party, company, content, foot = company, of = 'of' }: Unset): Promise<Buffer> {
  return pdfmake
    .createPdf({
      info: { title: `${number} ${party}`, author: company },
      pageSize: 'A4',
      pageMargins: [48, 54, 48, 54],
      defaultStyle: { font: 'Helvetica', fontSize: 10, lineHeight: 1.15 },
      footer: (page: number, pages: number) => ({
        columns: readable([
          { text: `${number} · ${foot}`, width: '*' },
          { text: `${page} ${of} ${pages}`, alignment: 'right', width: 80 },
        ]),
        margin: [48, 18, 48, 0],
        fontSize: 8,
        color: FAINT,
      }),
      content: readable(content),
    })
    .getBuffer();
}
