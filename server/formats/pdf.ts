import type { Content, TableCell } from 'pdfmake/interfaces';
import { dayText, dec, decimalText } from '@core/kernel';

export const FAINT = '#5d6f6c';

/** In groups of three, with a minus as the one sign for less than nothing. */
const grouped = (text: string) => text.replace(/\B(?=(\d{3})+(?!\d))/g, ',').replace('-', '−');

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

/** A document of ours before it is set: plain data, so that it can be set on another thread. */
export interface Unset {
  number: string;
  party: string;
  company: string;
  content: Content[];
}
