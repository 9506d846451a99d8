import { dec, roundHalfAway, sum, ZERO, type Day } from '@core/kernel';
import { rateFor, type CommissionBase, type CommissionRate, type EarnedAt } from './rates';

/** A line of an invoice as it stands by now, in the company's currency. */
export interface InvoicedLine {
  id: number;
  invoiceDay: Day;
  priceGroupId: number | null;
  itemGroupId: number | null;
  /** What is left of it net, and of its margin, once credit notes are taken off. */
  net: string;
  margin: string;
  /** How much of what is owed for its invoice is paid: 0 to 1. */
  paid: string;
  /** Who shares its order's commission; none where nobody does. */
  shares: readonly { personId: number; perCent: string }[];
  /** What was earned of it before, by person, with the terms it was earned by. */
  before: readonly EarnedBefore[];
}

export interface EarnedBefore extends RateTerms {
  personId: number;
  amount: string;
}

export interface RateTerms {
  perCent: string;
  of: CommissionBase;
  at: EarnedAt;
}

/** What is earned of a line since it was looked at last; below zero takes back. */
export interface Earning extends RateTerms {
  lineId: number;
  personId: number;
  /** The person's part of the line, in per cent; 0 where they share it no more. */
  share: string;
  /** What it is reckoned of: the line's net or margin, paid or not. */
  base: string;
  amount: string;
  day: Day;
}

/** Places commission is kept to, in the company's currency. */
const PLACES = 2;

/**
 * What is earned of invoice lines since they were looked at last: what each person has by now, less what they had. A line
 * keeps the terms it was first earned by; its shares are those of its order by now. Parts of one line sum to the whole to
 * the cent where all share one rate. Asked again with nothing new it answers none. O(lines × shares). // S12
 */
export function earningsOf(lines: readonly InvoicedLine[], rates: readonly CommissionRate[], today: Day): Earning[] {
  return lines.flatMap((line) => {
    const people = [...new Set([...line.shares, ...line.before].map(({ personId }) => personId))];
    const had = (personId: number) =>
      sum(line.before.filter((each) => each.personId === personId).map(({ amount }) => dec(amount)));
    let shared = ZERO;
    return people.flatMap((personId): Earning[] => {
      const terms = termsOf(line, personId, rates);
      if (terms === null) return [];
      const share = dec(line.shares.find((each) => each.personId === personId)?.perCent ?? '0');
      const base = dec(terms.of === 'net' ? line.net : line.margin);
      const whole = base
        .times(terms.perCent)
        .div(100)
        .times(terms.at === 'payment' ? line.paid : '1');
      // Laid end to end, so that parts of one rate sum to its whole.
      const reached = (upTo: typeof shared) => roundHalfAway(whole.times(upTo).div(100), PLACES);
      const now = reached(shared.plus(share)).minus(reached(shared));
      shared = shared.plus(share);
      const amount = now.minus(had(personId));
      if (amount.eq(0)) return [];
      const first = !line.before.some((each) => each.personId === personId) && terms.at === 'invoice';
      return [
        {
          lineId: line.id,
          personId,
          share: share.toFixed(),
          base: base.toFixed(),
          amount: amount.toFixed(),
          ...terms,
          day: first ? line.invoiceDay : today,
        },
      ];
    });
  });
}

/** The terms somebody earns a line by: those they did first, else those of the rate that holds. */
function termsOf(line: InvoicedLine, personId: number, rates: readonly CommissionRate[]): RateTerms | null {
  const kept = line.before.find((each) => each.personId === personId);
  const { priceGroupId, itemGroupId, invoiceDay: day } = line;
  const found = kept ?? rateFor(rates, { personId, priceGroupId, itemGroupId, day });
  return found && { perCent: found.perCent, of: found.of, at: found.at };
}
