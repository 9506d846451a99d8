/**
 * Codes of units (UN/ECE Recommendation 20, and of packages 21 behind an X) and their names here, the one that is written
 * first; other codes stand as they are.
 */
const UNITS: readonly (readonly [code: string, unit: string])[] = [
  ...(['EA', 'C62', 'H87', 'NMP'] as const).map((code) => [code, 'piece'] as const),
  ...(['XBX', 'BX'] as const).map((code) => [code, 'box'] as const),
  ...(['XPX', 'PF'] as const).map((code) => [code, 'pallet'] as const),
  ...(['XBG', 'BG'] as const).map((code) => [code, 'bag'] as const),
  ...(['XDR', 'DR'] as const).map((code) => [code, 'drum'] as const),
  ...(['XCT', 'CT'] as const).map((code) => [code, 'carton'] as const),
  ...(['XRO', 'RO'] as const).map((code) => [code, 'roll'] as const),
  ...(['XPK', 'PK'] as const).map((code) => [code, 'pack'] as const),
  ...(['XCA', 'XBO', 'XCY'] as const).map((code, at) => [code, ['can', 'bottle', 'cylinder'][at]!] as const),
  ['ST', 'sheet'],
  ['SET', 'set'],
  ['PR', 'pair'],
  ['DZN', 'dozen'],
  ['MTR', 'metre'],
  ['MTR', 'm'],
  ['CMT', 'cm'],
  ['MMT', 'mm'],
  ['MTK', 'm2'],
  ['MTQ', 'm3'],
  ['KGM', 'kilogram'],
  ['KGM', 'kg'],
  ['GRM', 'g'],
  ['TNE', 'tonne'],
  ['LTR', 'litre'],
  ['LTR', 'l'],
  ['HUR', 'hour'],
];
/** The unit of a code; the code of a unit. */
export const UNIT_OF = new Map([...UNITS].reverse());
export const CODE_OF = new Map([...UNITS].reverse().map(([code, unit]) => [unit, code]));
/** Whether two names are of one unit: `kg` and `kilogram`. */
export const isSameUnit = (one: string, other: string): boolean =>
  one === other || (CODE_OF.has(one) && CODE_OF.get(one) === CODE_OF.get(other));
/** Mutually defined: the name is in a note of the line. */
export const OTHER_UNIT = 'ZZ';
