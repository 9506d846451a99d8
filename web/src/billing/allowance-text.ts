import type { AllowanceMeasure } from '@core/pricing';
import { quantity } from '../kit/formats';

export const MEASURES: Record<AllowanceMeasure, { name: string; unit: string }> = {
  weight: { name: 'weight', unit: 'kg' },
  volume: { name: 'volume', unit: 'm³' },
  quantity: { name: 'quantity', unit: 'units' },
  amount: { name: 'amount', unit: '' },
};

/** `Allowance by weight: 2 % from 500 kg; 642 kg here`: one row above an invoice's net. // R2 */
export function allowanceText(given: {
  measure: AllowanceMeasure;
  reached: string;
  from: string;
  perCent: string;
}): string {
  const { name, unit } = MEASURES[given.measure];
  const said = (measure: string) => `${quantity(measure)}${unit && ` ${unit}`}`;
  const from = given.from === '0' ? '' : ` from ${said(given.from)}`;
  return `Allowance by ${name}: ${given.perCent} %${from}; ${said(given.reached)} here`;
}
