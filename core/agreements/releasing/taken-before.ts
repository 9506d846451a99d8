import { dec, isMoneyText, lineAmount, readTypedDecimal, type Dec } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import type { AgreementState } from '../terms/terms';

/** What a line of what was taken before names, as the company knows it. */
export interface TakenBeforeGround {
  /** By line: null where no agreement goes by that number, or no line of it is about that item. */
  lines: readonly {
    agreement: { id: number; number: string; state: AgreementState; currency: string } | null;
    line: {
      id: number;
      /** The price of one, where it is fixed. */
      unitPrice: string | null;
      /** What is told of it so far. */
      taken: { quantity: string; value: string };
    } | null;
  }[];
}

export interface TakenBeforeTyped {
  /** `item`: of an item by its number, of a group by its code; empty for an agreement's only line. */
  lines: readonly { agreement: string; item: string; quantity: string; value: string }[];
}

export interface TakenBeforeEffects {
  lines: {
    index: number;
    agreementId: number;
    lineId: number;
    quantity: string;
    value: string;
    /** What that is more than was told before, on the line's counters. */
    more: { quantity: string; value: string };
  }[];
  same: number;
}

/**
 * What was released, shipped and invoiced of an agreement before Kampong, told as a whole and not as more: the same
 * file again changes nothing, another figure changes it by the difference. It counts on the line as releases do, and in
 * no rebate, for what that earned is in the books it comes from. O(lines). // U3 A4 A5
 */
export function decideTakenBefore(ground: TakenBeforeGround, typed: TakenBeforeTyped): Decision<TakenBeforeEffects> {
  const refusals: Refusal[] = [];
  if (typed.lines.length === 0) refusals.push(refuse('no-lines', 'lines', { document: 'What was taken before' }));
  const first = new Map<number, number>();
  let same = 0;
  const lines = typed.lines.flatMap((told, index): TakenBeforeEffects['lines'] => {
    const at = (field: string) => `lines.${index}.${field}`;
    const before = refusals.length;
    const { agreement, line } = ground.lines[index]!;
    if (!agreement) {
      refusals.push(refuse('unknown', at('agreement'), { what: `The agreement ${told.agreement.trim()}` }));
      return [];
    }
    if (agreement.state !== 'in-force' && agreement.state !== 'paused') {
      const facts = { agreement: agreement.number, state: agreement.state };
      refusals.push(refuse('agreement-not-in-force', at('agreement'), facts));
    }
    if (!line) {
      const facts = { agreement: agreement.number, item: told.item.trim() };
      refusals.push(refuse('line-not-of-agreement', at('item'), facts));
      return [];
    }
    const again = first.get(line.id);
    if (again !== undefined) refusals.push(refuse('named-again', at('item'), { line: String(again + 1) }));
    else first.set(line.id, index);
    const quantity = figure(told.quantity, 'quantity', at('quantity'), 'The quantity', refusals);
    const value = valueOf(told.value, quantity, line.unitPrice, agreement.currency, at('value'), refusals);
    if (refusals.length > before) return [];
    const more = { quantity: quantity!.minus(line.taken.quantity), value: value!.minus(line.taken.value) };
    if (more.quantity.eq(0) && more.value.eq(0)) {
      same += 1;
      return [];
    }
    return [
      {
        index,
        agreementId: agreement.id,
        lineId: line.id,
        quantity: quantity!.toFixed(),
        value: value!.toFixed(),
        more: { quantity: more.quantity.toFixed(), value: more.value.toFixed() },
      },
    ];
  });
  return decided(refusals, () => ({ lines, same }));
}

/** What it came to: as told, else at the line's price. */
function valueOf(
  typed: string,
  quantity: Dec | null,
  unitPrice: string | null,
  currency: string,
  field: string,
  refusals: Refusal[],
): Dec | null {
  if (typed.trim() === '' && unitPrice !== null) {
    return quantity && lineAmount(quantity, dec(unitPrice), currency);
  }
  const value = figure(typed, 'price', field, 'The value', refusals);
  if (value === null || isMoneyText(value.toFixed(), currency)) return value;
  refusals.push(refuse('not-a-number', field, { what: `The value in ${currency}` }));
  return null;
}

function figure(typed: string, of: 'quantity' | 'price', field: string, what: string, refusals: Refusal[]): Dec | null {
  const read = readTypedDecimal(typed, of);
  if (typed.trim() === '') refusals.push(refuse('required', field, { what }));
  else if (read === null) refusals.push(refuse('not-a-number', field, { what }));
  else if (dec(read).lt(0)) refusals.push(refuse('below-zero', field, { what }));
  else return dec(read);
  return null;
}
