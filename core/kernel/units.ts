/** `1 piece`, `12 pieces`, `2 boxes`: a quantity, as it is to be shown, with its unit. */
export function inUnits(quantity: string, unit: string): string {
  if (quantity === '1') return `1 ${unit}`;
  return `${quantity} ${unit}${/(s|x|ch|sh)$/.test(unit) ? 'es' : 's'}`;
}
