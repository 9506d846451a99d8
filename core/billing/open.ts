import { dec, isMoneyText, known, ownOf, priceText, readTypedDecimal, type Day, type ExchangeOf } from '@core/kernel';
import { rateRefusals } from '@core/ledger';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import { readTypedDay } from '@core/typed';

/** Characters of an invoice's number at most: of one of ours, and of a vendor's own. */
const MOST_OF_NUMBER = { customer: 16, vendor: 60 } as const;

/** What a line of open items names, as the company knows it. */
export interface OpenItemsGround {
  /** By line: null where no party, or more than one, goes by that number or name; `used` is who has that number already. */
  lines: readonly {
    party: { id: number; name: string; currency: string } | null;
    used: { document: string; opening: boolean; partyId: number; currency: string; total: string } | null;
  }[];
  /** How our own invoices are numbered: what stands before a serial, and the first that is ours. */
  series: { prefix: string; first: number };
  /** What the currencies asked for are worth on the work date, by code; one that is not known is left out. */
  exchanges: ReadonlyMap<string, ExchangeOf>;
}

export interface OpenItemsTyped {
  side: 'customer' | 'vendor';
  lines: readonly {
    party: string;
    /** The invoice's number: ours where a customer owes it, theirs where a vendor is owed. */
    number: string;
    invoiced: string;
    due: string;
    /** What is still owed of it. */
    amount: string;
    /** The party's where it is empty. */
    currency: string;
  }[];
}

export interface OpenItemsEffects {
  side: 'customer' | 'vendor';
  lines: {
    index: number;
    partyId: number;
    number: string;
    invoiceDate: Day;
    dueDate: Day;
    currency: string;
    amount: string;
    rate: string;
    /** In the company's currency. // P8 */
    own: string;
  }[];
  /** Lines that stand already, as they are told here. */
  same: number;
}

/**
 * What customers owed and vendors were owed before Kampong: an invoice each, without order and lines, against the
 * opening balance, in its currency at the rate of the work date. The same file again changes nothing; what was opened
 * otherwise is named. O(lines). // U3 P3 P8
 */
export function decideOpenItems(
  ground: OpenItemsGround,
  typed: OpenItemsTyped,
  workDate: Day,
): Decision<OpenItemsEffects> {
  const refusals: Refusal[] = [];
  if (typed.lines.length === 0) refusals.push(refuse('no-lines', 'lines', { document: 'What is owed' }));
  const first = new Map<string, number>();
  let same = 0;
  const lines = typed.lines.flatMap((line, index): OpenItemsEffects['lines'] => {
    const at = (field: string) => `lines.${index}.${field}`;
    const before = refusals.length;
    const { party, used } = ground.lines[index]!;
    if (!party) refusals.push(refuse('unknown', at('party'), { what: `The ${typed.side} ${line.party.trim()}` }));
    const number = line.number.trim();
    const currency = line.currency.trim().toUpperCase() || (party?.currency ?? '');
    refusals.push(...numberRefusals(typed.side, number, ground.series, at('number')));
    const key = `${typed.side === 'vendor' ? (party?.id ?? 0) : ''} ${number.toLowerCase()}`;
    const again = first.get(key);
    if (number !== '' && again !== undefined) {
      refusals.push(refuse('named-again', at('number'), { line: String(again + 1) }));
    } else first.set(key, index);
    const amount = amountOf(line.amount, currency, at('amount'), refusals);
    const invoiceDate = dayOf(line.invoiced, 'The day it was invoiced', at('invoiced'), workDate, refusals);
    const dueDate = dayOf(line.due, 'The day it is due', at('due'), workDate, refusals);
    if (invoiceDate && invoiceDate > workDate) {
      refusals.push(refuse('not-a-day', at('invoiced'), { what: 'A day after the work date' }));
    }
    if (invoiceDate && dueDate && dueDate < invoiceDate) {
      refusals.push(refuse('due-before-invoiced', at('due'), {}));
    }
    if (party && used && amount !== null) {
      if (used.opening && used.partyId === party.id && used.currency === currency && dec(used.total).eq(amount)) {
        same += 1;
        return [];
      }
      refusals.push(
        refuse(used.opening ? 'opened-otherwise' : 'number-used', at('number'), {
          number,
          document: used.document,
          total: priceText(used.total, used.currency),
          currency: used.currency,
        }),
      );
    }
    const exchange = ground.exchanges.get(currency);
    if (party && !exchange) {
      refusals.push(refuse('unknown', at('currency'), { what: `The currency ${currency}` }));
    }
    if (exchange) refusals.push(...rateRefusals(exchange, at('currency')));
    if (refusals.length > before) return [];
    const rate = known(exchange!);
    return [
      {
        index,
        partyId: party!.id,
        number,
        invoiceDate: invoiceDate!,
        dueDate: dueDate!,
        currency,
        amount: amount!,
        rate: rate.rate,
        own: ownOf(amount!, rate).toFixed(),
      },
    ];
  });
  return decided(refusals, () => ({ side: typed.side, lines, same }));
}

/** A number as the old books had it, and none that a document of ours would come to have. */
function numberRefusals(
  side: 'customer' | 'vendor',
  number: string,
  series: OpenItemsGround['series'],
  field: string,
): Refusal[] {
  const what = 'The number of the invoice';
  if (number === '') return [refuse('required', field, { what })];
  const most = MOST_OF_NUMBER[side];
  if (number.length > most) return [refuse('too-long', field, { what, most: String(most) })];
  // Serials before our first are of the books before.
  const serial = number.slice(series.prefix.length);
  const ours =
    number.toLowerCase().startsWith(series.prefix.toLowerCase()) &&
    /^\d+$/.test(serial) &&
    Number(serial) >= series.first;
  return side === 'customer' && ours ? [refuse('number-of-series', field, { number })] : [];
}

function amountOf(typed: string, currency: string, field: string, refusals: Refusal[]): string | null {
  const what = 'What is owed';
  const read = readTypedDecimal(typed, 'price');
  if (typed.trim() === '') refusals.push(refuse('required', field, { what }));
  else if (read === null) refusals.push(refuse('not-a-number', field, { what }));
  else if (dec(read).lte(0)) refusals.push(refuse('owed-not-above-zero', field, {}));
  else if (currency !== '' && !isMoneyText(read, currency)) {
    refusals.push(refuse('not-a-number', field, { what: `${what} in ${currency}` }));
  } else return dec(read).toFixed();
  return null;
}

function dayOf(typed: string, what: string, field: string, workDate: Day, refusals: Refusal[]): Day | null {
  if (typed.trim() === '') refusals.push(refuse('required', field, { what }));
  else {
    const day = readTypedDay(typed, workDate);
    if (day !== null) return day;
    refusals.push(refuse('not-a-day', field, { what }));
  }
  return null;
}
