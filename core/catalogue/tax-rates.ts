import type { Day } from '@core/kernel';
import { decided, refuse, type Decision } from '@core/refusals';

/** A rate that holds for a tax code from a day on, and was not taken yet. */
export interface RateToCome {
  id: number;
  taxCodeId: number;
  firstDay: Day;
  rate: string;
}

export interface TaxRateEffects {
  /** The rate of each code from now on. */
  rates: { taxCodeId: number; rate: string }[];
  /** What is taken by that, also those a later one overtook. */
  taken: number[];
}

/**
 * Gives tax codes the rates whose day has come, of several the latest, each once: what somebody keeps of a code by hand
 * afterwards holds. // U2
 */
export function decideTaxRates(toCome: readonly RateToCome[], workDate: Day): Decision<TaxRateEffects> {
  const due = toCome.filter(({ firstDay }) => firstDay <= workDate).sort((a, b) => (a.firstDay < b.firstDay ? -1 : 1));
  return decided(due.length === 0 ? [refuse('nothing-to-take', '', {})] : [], () => ({
    rates: [...new Map(due.map(({ taxCodeId, rate }) => [taxCodeId, rate]))].map(([taxCodeId, rate]) => ({
      taxCodeId,
      rate,
    })),
    taken: due.map(({ id }) => id),
  }));
}
