import type { AllowanceMeasure } from '@core/pricing';
import { quantity } from '../kit/formats';

export const MEASURES: Record<AllowanceMeasure, { name: string; unit: string }> = {
  weight: { name: 'weight', unit: 'kg' },
  volume: { name: 'volume', unit: 'm³' },
  quantity: { name: 'quantity', unit: 'units' },
  amount: { name: 'amount', unit: '' },
};

/** `Allowance by weight: 2 % from 500 kg, it has 642`: one row above an invoice's net. // R2 */
export function allowanceText(given: {
  measure: AllowanceMeasure;
  reached: string;
  from: string;
  perCent: string;
}): string {
  const { name, unit } = MEASURES[given.measure];
  const from =
    given.from === '0' ? '' : ` from ${quantity(given.from)}${unit && ` ${unit}`}, it has ${quantity(given.reached)}`;
  return `Allowance by ${name}: ${given.perCent} %${from}`;
}
