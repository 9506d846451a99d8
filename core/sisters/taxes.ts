import { dec } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';

/** The tax of a line of a sister's invoice. */
export interface LineTax {
  code: string;
  /** In per cent. */
  rate: string;
  /** Which of ours it is; null where nobody said. */
  ours: number | null;
  /** What our purchase is taxed at; null where there is none. */
  ownRate: string | null;
}

/** A tax that is none of ours: at another rate than our purchase, and nobody said which it is. // X1 */
export const isUnpaired = ({ ours, rate, ownRate }: LineTax): boolean =>
  ours === null && ownRate !== null && !dec(rate).eq(ownRate);

export interface PairedTax {
  theirTaxCodeId: number;
  /** Null for none: that of the purchase holds. */
  taxCodeId: number | null;
}

/** Says which of our taxes a sister's are. // X1 */
export function decideTaxes(
  { ours, theirs }: { ours: readonly { id: number }[]; theirs: readonly { id: number }[] },
  { taxes }: { taxes: readonly PairedTax[] },
): Decision<{ taxes: PairedTax[] }> {
  const refusals: Refusal[] = [];
  if (taxes.length === 0) refusals.push(refuse('nothing-asked', 'taxes', { what: 'a tax' }));
  taxes.forEach(({ theirTaxCodeId, taxCodeId }, at) => {
    if (!theirs.some(({ id }) => id === theirTaxCodeId))
      refusals.push(refuse('unknown', `taxes.${at}.theirTaxCodeId`, { what: 'Their tax' }));
    if (taxCodeId !== null && !ours.some(({ id }) => id === taxCodeId))
      refusals.push(refuse('unknown', `taxes.${at}.taxCodeId`, { what: 'This tax' }));
  });
  return decided(refusals, () => ({ taxes: [...taxes] }));
}
