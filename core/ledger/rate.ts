import type { ExchangeOf } from '@core/kernel';
import { refuse, type Refusal } from '@core/refusals';

/** Without a rate of its day or an earlier one nothing is posted. // P8 */
export function rateRefusals({ currency, rate, day }: ExchangeOf, field: string): Refusal[] {
  return rate === null ? [refuse('no-rate', field, { currency, day })] : [];
}
