const PLURALS = new Intl.PluralRules('en');

/** Units written as symbols have no plural (SI, and what stands beside it). */
const SYMBOLS = new Set('mm cm m km m² m³ ml l hl mg g kg t lb oz ft in s min h kWh pcs'.split(' '));

/** `1 piece`, `12 pieces`, `2 boxes`, `40 kg`: a quantity, as it is to be shown, with its unit. */
export function inUnits(quantity: string, unit: string): string {
  const one = PLURALS.select(Number(quantity.replaceAll(',', ''))) === 'one';
  return `${quantity} ${one || SYMBOLS.has(unit) ? unit : manyOf(unit)}`;
}

function manyOf(unit: string): string {
  if (/(s|x|ch|sh)$/.test(unit)) return `${unit}es`;
  return /[^aeiou]y$/.test(unit) ? `${unit.slice(0, -1)}ies` : `${unit}s`;
}

/** Units that are measured in words; every other unit is counted. */
const MEASURES =
  /^(milli|centi|kilo|deci|hecto)?(met(re|er)|lit(re|er)|gram|gramme)s?$|^(tonne|ton|hour|minute|second|day|foot|feet|inch|yard|pound|ounce|gallon|square met(re|er)|cubic met(re|er))s?$/i;

/** Whether a unit is counted in whole ones: a piece or a box is, a metre or a kg is not. */
export function isWholeUnit(unit: string): boolean {
  return unit === 'pcs' || !(SYMBOLS.has(unit) || MEASURES.test(unit));
}
