import type { Content, TableCell } from 'pdfmake/interfaces';
import { dayText, decimalText, groupedText } from '@core/kernel';

export const FAINT = '#5d6f6c';

export { fixedText as fixed } from '@core/kernel';

export function quantity(text: string): string {
  const [whole, part] = decimalText(text).split('.') as [string, string?];
  return groupedText(whole) + (part ? `.${part}` : '');
}

/** A day with its year; a dash for none. */
export const day = (text: string | null) => (text === null ? '-' : dayText(text, ''));

/** Names with their texts, side by side. */
export function facts(rows: readonly (readonly [string, string])[]) {
  return {
    table: { widths: [110, '*'], body: rows.map(([name, text]) => [{ text: name, color: FAINT }, text]) },
    layout: 'noBorders',
    margin: [0, 0, 0, 14],
  } satisfies Content;
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
  /** What stands at the foot of every page, beside its number; the company's name where nothing is said. */
  foot?: string;
  /** Between the number of a page and how many there are; `of` where nothing is said. */
  of?: string;
}
