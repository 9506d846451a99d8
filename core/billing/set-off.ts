import { carriedOf, dec, isMoneyText, priceText, readTypedDecimal, sum, type OwedInBoth } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import type { OwedInvoice, SetOffOfInvoice } from './credit-note';

/** What stands to a party's credit, and what it may be set off against. */
export interface SetOffGround {
  side: 'customer' | 'vendor';
  /** The credit: its document's number, and its open item, below zero. */
  credit: { number: string; owed: OwedInBoth };
  currency: string;
  /** The company's currency. */
  own: string;
  /** Open invoices of the same party in the same currency, oldest first. */
  open: readonly OwedInvoice[];
}

export interface SetOffTyped {
  /** By invoice, what of the credit goes there; empty for nothing. */
  lines: readonly { openItemId: number; amount: string }[];
}

export interface SetOffEffects {
  side: 'customer' | 'vendor';
  setOffs: SetOffOfInvoice[];
  amount: string;
  /** To their credit afterwards. */
  left: string;
}

/**
 * Sets what stands to a party's credit off against invoices of theirs, each as far as typed: never more than is owed of
 * one, nor than there is. O(lines). // P3 P8
 */
export function decideSetOff(ground: SetOffGround, typed: SetOffTyped): Decision<SetOffEffects> {
  const { currency, own, open } = ground;
  const refusals: Refusal[] = [];
  let used = positive(ground.credit.owed);
  const there = dec(used.amount).minus(used.settled);
  const wanted = typed.lines.map((line, at) => ({ ...line, at })).filter(({ amount }) => amount.trim() !== '');
  if (wanted.length === 0) refusals.push(refuse('nothing-asked', 'lines', { what: 'an amount to set off' }));
  const read = wanted.flatMap(({ openItemId, amount: text, at }) => {
    const field = `lines.${at}.amount`;
    const invoice = open.find((each) => each.openItemId === openItemId);
    const amount = readTypedDecimal(text, 'price');
    if (!invoice) refusals.push(refuse('unknown', field, { what: 'This invoice' }));
    else if (amount === null || (currency !== '' && !isMoneyText(amount.replace('-', ''), currency))) {
      refusals.push(refuse('not-a-number', field, { what: `The amount in ${currency}` }));
    } else if (dec(amount).lte(0)) refusals.push(refuse('not-above-zero', field, { what: 'The amount' }));
    else if (dec(amount).gt(dec(invoice.owed.amount).minus(invoice.owed.settled))) {
      const owed = dec(invoice.owed.amount).minus(invoice.owed.settled);
      refusals.push(
        refuse('above-owed', field, {
          invoice: invoice.number,
          asked: priceText(amount, currency),
          owed: priceText(owed, currency),
        }),
      );
    } else return [{ invoice, amount: dec(amount) }];
    return [];
  });
  const whole = sum(read.map(({ amount }) => amount));
  if (whole.gt(there)) {
    refusals.push(
      refuse('above-the-credit', 'lines', {
        credit: ground.credit.number,
        asked: priceText(whole, currency),
        left: priceText(there, currency),
      }),
    );
  }
  return decided(refusals, () => {
    const setOffs = read.map(({ invoice, amount }): SetOffOfInvoice => {
      const ownCredit = carriedOf(used, amount, own);
      const ownInvoice = carriedOf(invoice.owed, amount, own);
      used = {
        ...used,
        settled: dec(used.settled).plus(amount).toFixed(),
        ownSettled: dec(used.ownSettled).plus(ownCredit).toFixed(),
      };
      return {
        openItemId: invoice.openItemId,
        number: invoice.number,
        amount: amount.toFixed(),
        ownInvoice: ownInvoice.toFixed(),
        ownCredit: ownCredit.toFixed(),
      };
    });
    return { side: ground.side, setOffs, amount: whole.toFixed(), left: there.minus(whole).toFixed() };
  });
}

/** A credit's open item as what there is of it. */
function positive(owed: OwedInBoth): OwedInBoth {
  const less = (text: string) => dec(text).neg().toFixed();
  return {
    amount: less(owed.amount),
    settled: less(owed.settled),
    ownAmount: less(owed.ownAmount),
    ownSettled: less(owed.ownSettled),
  };
}
