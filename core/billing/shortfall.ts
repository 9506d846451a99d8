import { addDays, dec, documentTotals, known, type Day, type ExchangeOf } from '@core/kernel';
import { rateRefusals } from '@core/ledger';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import { ownTotals, type OwnTotals } from './customer-invoice';

/** The draft of a charge for what was not taken of an agreement. */
export interface ShortfallGround {
  agreement: { number: string; currency: string };
  state: string;
  lines: readonly { taxCode: string; taxRate: string; net: string }[];
  /** Days until it is due. */
  termsDays: number;
  /** What its currency is worth on the day it is charged. // P8 */
  exchange: ExchangeOf;
}

export interface ShortfallEffects {
  net: string;
  tax: string;
  total: string;
  rate: string;
  own: OwnTotals;
  taxes: { taxCode: string; taxRate: string; base: string; tax: string }[];
  invoiceDate: Day;
  dueDate: Day;
  currency: string;
}

const stateRefusals = ({ state, agreement }: Pick<ShortfallGround, 'agreement' | 'state'>): Refusal[] =>
  state === 'draft' ? [] : [refuse('shortfall-not-draft', '', { agreement: agreement.number, state })];

/** Charges what was not taken: an invoice of the draft's lines, with their taxes. // A11 P3 */
export function decideShortfall(ground: ShortfallGround, workDate: Day): Decision<ShortfallEffects> {
  const { agreement, lines, termsDays } = ground;
  const refusals = [...stateRefusals(ground), ...rateRefusals(ground.exchange, '')];
  return decided(refusals, () => {
    const exchange = known(ground.exchange);
    const totals = documentTotals(
      lines.map((line) => ({ taxCode: line.taxCode, taxRate: line.taxRate, net: dec(line.net) })),
      agreement.currency,
    );
    return {
      net: totals.net.toFixed(),
      tax: totals.tax.toFixed(),
      total: totals.total.toFixed(),
      rate: exchange.rate,
      own: ownTotals(totals.net, totals.tax, exchange),
      taxes: totals.taxes.map((tax) => ({ ...tax, base: tax.base.toFixed(), tax: tax.tax.toFixed() })),
      invoiceDate: workDate,
      dueDate: addDays(workDate, termsDays),
      currency: agreement.currency,
    };
  });
}

/** Drops the draft: nothing is charged after all. // A11 */
export function decideDropShortfall(
  ground: Pick<ShortfallGround, 'agreement' | 'state'>,
): Decision<{ agreement: string }> {
  return decided(stateRefusals(ground), () => ({ agreement: ground.agreement.number }));
}
