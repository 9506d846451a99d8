import { format } from 'date-fns/format';
import { ms } from 'date-fns/locale/ms';
import { parseISO } from 'date-fns/parseISO';
import { dayText, type Day } from './day';
import { inUnits } from './units';

/** What our papers and letters are written in, by party. (ISO 639-1) */
export const LANGUAGES = ['en', 'ms'] as const;
export type Language = (typeof LANGUAGES)[number];

/** A day with its year: `Mon 1 Mar 2027`, `Isn 1 Mac 2027`. */
export const dayIn = (day: Day, language: Language): string =>
  language === 'en' ? dayText(day, '') : format(parseISO(day), 'EEE d MMM yyyy', { locale: ms });

/** A quantity with its unit; Malay has no plural of one. */
export const unitsIn = (quantity: string, unit: string, language: Language): string =>
  language === 'en' ? inUnits(quantity, unit) : `${quantity} ${unit}`;
