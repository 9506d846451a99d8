import { ALLOWANCE_UNITS, type AllowanceMeasure } from '@core/pricing';
import { quantity } from '../kit/formats';

/** `Allowance by weight: 2 % from 500 kg; 642 kg here`: one row above an invoice's net. // R2 */
export function allowanceText(given: {
  measure: AllowanceMeasure;
  reached: string;
  from: string;
  perCent: string;
}): string {
  const unit = ALLOWANCE_UNITS[given.measure];
  const said = (measure: string) => `${quantity(measure)}${unit && ` ${unit}`}`;
  const from = given.from === '0' ? '' : ` from ${said(given.from)}`;
  return `Allowance by ${given.measure}: ${given.perCent} %${from}; ${said(given.reached)} here`;
}
