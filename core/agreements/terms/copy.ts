import type { Day } from '@core/kernel';
import { decided, type Decision } from '@core/refusals';
import { committedLine, type AgreementEffects, type AgreementTerms, type TypedTerm } from './terms';

/** An agreement that is copied, with its terms and lines as they stand. */
export interface CopyGround {
  head: { currency: string; firstDay: Day; lastDay: Day; priority: number; basis: AgreementTerms['basis'] };
  terms: Omit<AgreementEffects, 'currency' | 'firstDay' | 'lastDay' | 'signedOn' | 'priority' | 'lines'>;
  lines: readonly { term: TypedTerm; listPrice: string }[];
}

/** The same terms as a new draft for the same party; it is not signed, and nothing was taken of it. // A14 */
export function decideCopy({ head, terms, lines }: CopyGround): Decision<AgreementEffects> {
  const { currency, firstDay, lastDay, priority, basis } = head;
  return decided([], () => ({
    ...terms,
    currency,
    firstDay,
    lastDay,
    signedOn: null,
    priority,
    lines: lines.map(({ term, listPrice }) => committedLine(term, basis, listPrice, currency)),
  }));
}
