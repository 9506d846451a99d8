import { most, priceText, ZERO, type Dec } from '@core/kernel';
import { refuse, type Refusal } from '@core/refusals';
import { type OfferingAgreement } from './offered';
import { type ReleaseItem, type ReleaseGround } from './release-ground';

/** What is asked and left, in units or in value, and the agreed price. */
export interface Limit {
  asked: Dec;
  left: Dec;
  price: Dec;
}

export function overLimit({ agreement }: ReleaseGround, item: ReleaseItem, limit: Limit, field: string): Refusal {
  return overLimitOf(agreement, item, limit.asked, limit.left, field);
}

/** What says that more is asked than is left, in units or in value as the agreement counts. // A5 */
export function overLimitOf(
  agreement: Pick<OfferingAgreement, 'basis' | 'currency' | 'number'>,
  item: { number: string; unit: string },
  asked: Dec,
  left: Dec,
  field: string,
): Refusal {
  const { currency, number } = agreement;
  return agreement.basis === 'quantity'
    ? refuse('above-limit', field, {
        item: item.number,
        unit: item.unit,
        asked: asked.toFixed(),
        left: most(ZERO, left).toFixed(),
        agreement: number,
      })
    : refuse('above-value', field, {
        item: item.number,
        asked: priceText(asked, currency),
        left: priceText(most(ZERO, left), currency),
        currency,
        agreement: number,
      });
}

export function splitWord({ agreement }: ReleaseGround, item: ReleaseItem, limit: Limit, field: string): Refusal {
  return splitWordOf(agreement, item, limit, field);
}

/** What says how a line is split at the limit. // A5 */
export function splitWordOf(
  agreement: Pick<OfferingAgreement, 'basis' | 'currency' | 'number'>,
  item: { number: string; listPrice: string },
  { asked, left, price }: Limit,
  field: string,
): Refusal {
  const { currency, number } = agreement;
  const list = priceText(item.listPrice, currency);
  return agreement.basis === 'quantity'
    ? refuse('split-at-limit', field, {
        item: item.number,
        fits: left.toFixed(),
        rest: asked.minus(left).toFixed(),
        price: priceText(price, currency),
        list,
        agreement: number,
      })
    : refuse('split-in-value', field, {
        item: item.number,
        fits: priceText(left, currency),
        currency,
        list,
        agreement: number,
      });
}
