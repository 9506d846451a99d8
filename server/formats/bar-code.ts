import { toSVG } from 'bwip-js/node';
import type { Content } from 'pdfmake/interfaces';

/** A text as Code 128 (ISO/IEC 15417), to be set in a document: what a hand scanner types. Some tenths of a millisecond. */
export function barCode(text: string, width: number): Content {
  return { svg: toSVG({ bcid: 'code128', text, height: 9, includetext: false }), width };
}

/** A text as QR code (ISO/IEC 18004), for a telephone's camera. Some milliseconds. // C7 */
export function qrCode(text: string, width: number): Content {
  return { svg: toSVG({ bcid: 'qrcode', text }), width };
}

/** A number both ways, beside each other: for a hand scanner and for a camera. */
export const bothCodes = (text: string, width: number): Content => ({
  columns: [
    { width: width + 20, stack: [barCode(text, width)] },
    { width: 'auto', stack: [qrCode(text, 44)] },
  ],
});
