/**
 * What two texts have in common where names are told apart as the database does: not by case, marks on letters, width,
 * or spaces at the end. `Hôtels` and `hotels`, `１２` and `12`, `ß` and `SS` are one. (Unicode UTS 10, primary strength)
 */
export function sameText(text: string): string {
  return text.normalize('NFKD').replace(/\p{M}/gu, '').toLowerCase().replaceAll('ß', 'ss').trimEnd();
}
