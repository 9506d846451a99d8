/** A country by its code (ISO 3166-1 alpha-2), in English; the code itself where it is none, nothing for nothing. */
export function countryName(code: string, language = 'en'): string {
  if (!/^[A-Za-z]{2}$/.test(code)) return code;
  return new Intl.DisplayNames(language, { type: 'region', fallback: 'code' }).of(code.toUpperCase()) ?? code;
}
