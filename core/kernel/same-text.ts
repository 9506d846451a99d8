/**
 * What two texts have in common where names are told apart as the database does: not by case, marks on letters, width,
 * or spaces at the end. `Hôtels` and `hotels`, `１２` and `12`, `ß` and `SS` are one. (Unicode UTS 10, primary strength)
 */
export function sameText(text: string): string {
  if (PLAIN.test(text)) return text.toLowerCase().trimEnd();
  return text.normalize('NFKD').replace(/\p{M}/gu, '').toLowerCase().replaceAll('ß', 'ss').trimEnd();
}

/** Letters, digits and signs that are all there is to them: most numbers and codes. */
const PLAIN = /^[\x20-\x7e]*$/;
