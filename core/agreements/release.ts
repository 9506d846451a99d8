import { dec, isDecimalText, isDay, lineAmount, ZERO, type Day, type Dec } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import type { Route } from '@core/catalogue';
import { leftUnderLimit } from './progress';
import type { AgreementState, LimitPolicy } from './terms';

/** A line of the agreement as it stands, with what the order line takes from its item. */
export interface ReleasableLine {
  id: number;
  lineNo: number;
  committed: string;
  released: string;
  unitPrice: string;
  item: {
    id: number;
    number: string;
    unit: string;
    route: Route;
    listPrice: string;
    taxCodeId: number;
    taxRate: string;
  };
}

export interface ReleaseGround {
  agreement: {
    id: number;
    number: string;
    state: AgreementState;
    firstDay: Day;
    lastDay: Day;
    limitPolicy: LimitPolicy;
    tolerancePercent: string;
    currency: string;
  };
  customer: { id: number; name: string; referenceRequired: boolean };
  /** Ids of the customer's ship-to addresses. */
  shipToIds: readonly number[];
  lines: readonly ReleasableLine[];
}

/** As typed. Lines with an empty quantity are not asked for. */
export interface ReleaseAsked {
  shipToId: number | null;
  customerReference: string;
  lines: { agreementLineId: number; quantity: string; shipDate: Day | null }[];
}

export interface ReleaseEffects {
  order: {
    customerId: number;
    agreementId: number;
    shipToId: number;
    customerReference: string;
    orderDate: Day;
    currency: string;
  };
  lines: {
    agreementLineId: number;
    itemId: number;
    quantity: string;
    unitPrice: string;
    listPrice: string;
    amount: string;
    taxCodeId: number;
    taxRate: string;
    route: Route;
    shipDate: Day;
  }[];
  /** What each agreement line's released counter grows by, in quantity and value. // A4 */
  released: { agreementLineId: number; quantity: string; value: string }[];
}

/**
 * Decides a release: one order for one ship-to, with a ship date per line. // A2 A5 A6
 * Several asked lines of one agreement line are held together against its limit.
 */
export function decideRelease(ground: ReleaseGround, asked: ReleaseAsked, workDate: Day): Decision<ReleaseEffects> {
  const refusals = [...agreementRefusals(ground, workDate), ...headRefusals(ground, asked)];
  const warnings: Refusal[] = [];
  const wanted = asked.lines.map((line, index) => ({ ...line, index })).filter((line) => line.quantity.trim() !== '');
  if (wanted.length === 0) {
    refusals.push(refuse('nothing-asked', 'lines', { what: 'a quantity' }));
  }
  const askedOfLine = new Map<number, Dec>();
  const lines: ReleaseEffects['lines'] = [];
  for (const want of wanted) {
    const at = (field: string) => `lines.${want.index}.${field}`;
    const line = ground.lines.find((each) => each.id === want.agreementLineId);
    if (!line) {
      refusals.push(refuse('unknown', at('agreementLineId'), { what: 'This agreement line' }));
      continue;
    }
    const before = refusals.length;
    refusals.push(...quantityRefusals(want.quantity, at('quantity')));
    refusals.push(...shipDateRefusals(want.shipDate, at('shipDate'), workDate));
    if (refusals.length > before) continue;
    const total = (askedOfLine.get(line.id) ?? ZERO).plus(want.quantity);
    askedOfLine.set(line.id, total);
    const over = overLimit(ground, line, total, at('quantity'));
    if (over) (ground.agreement.limitPolicy === 'refuse' ? refusals : warnings).push(over);
    lines.push(orderLine(ground, line, want.quantity, want.shipDate!));
  }
  return decided(
    refusals,
    () => ({
      order: {
        customerId: ground.customer.id,
        agreementId: ground.agreement.id,
        shipToId: asked.shipToId!,
        customerReference: asked.customerReference.trim(),
        orderDate: workDate,
        currency: ground.agreement.currency,
      },
      lines,
      released: grownBy(lines),
    }),
    warnings,
  );
}

/** Why nothing at all can be released from the agreement on that day; none where it can. // A2 */
export function agreementRefusals(ground: Pick<ReleaseGround, 'agreement'>, workDate: Day): Refusal[] {
  const { number, state, firstDay, lastDay } = ground.agreement;
  if (state !== 'in-force') {
    return [refuse('agreement-not-in-force', '', { agreement: number, state })];
  }
  if (workDate < firstDay || workDate > lastDay) {
    return [
      refuse('outside-period', '', {
        agreement: number,
        first: firstDay,
        last: lastDay,
        day: workDate,
      }),
    ];
  }
  return [];
}

function headRefusals(ground: ReleaseGround, asked: ReleaseAsked): Refusal[] {
  const refusals: Refusal[] = [];
  if (asked.shipToId === null) {
    refusals.push(refuse('required', 'shipToId', { what: 'The ship-to address' }));
  } else if (!ground.shipToIds.includes(asked.shipToId)) {
    refusals.push(refuse('unknown', 'shipToId', { what: 'This ship-to address' }));
  }
  if (ground.customer.referenceRequired && asked.customerReference.trim() === '') {
    refusals.push(refuse('reference-required', 'customerReference', { customer: ground.customer.name }));
  }
  return refusals;
}

function quantityRefusals(quantity: string, field: string): Refusal[] {
  if (!isDecimalText(quantity, 'quantity')) {
    return [refuse('not-a-number', field, { what: 'The quantity' })];
  }
  return dec(quantity).gt(0) ? [] : [refuse('not-above-zero', field, { what: 'The quantity' })];
}

function shipDateRefusals(shipDate: Day | null, field: string, workDate: Day): Refusal[] {
  if (shipDate === null) return [refuse('required', field, { what: 'The ship date' })];
  if (!isDay(shipDate)) return [refuse('not-a-day', field, { what: 'The ship date' })];
  return shipDate < workDate ? [refuse('ship-date-past', field, { day: shipDate, workDate })] : [];
}

function overLimit(ground: ReleaseGround, line: ReleasableLine, total: Dec, field: string): Refusal | null {
  const left = leftUnderLimit(line.committed, line.released, ground.agreement.tolerancePercent);
  if (total.lte(left)) return null;
  return refuse('above-limit', field, {
    item: line.item.number,
    unit: line.item.unit,
    asked: total.toFixed(),
    left: left.lt(0) ? '0' : left.toFixed(),
    agreement: ground.agreement.number,
  });
}

function orderLine(
  ground: ReleaseGround,
  line: ReleasableLine,
  quantity: string,
  shipDate: Day,
): ReleaseEffects['lines'][number] {
  const { item } = line;
  const amount = lineAmount(dec(quantity), dec(line.unitPrice), ground.agreement.currency);
  return {
    agreementLineId: line.id,
    itemId: item.id,
    quantity,
    unitPrice: line.unitPrice,
    listPrice: item.listPrice,
    amount: amount.toFixed(),
    taxCodeId: item.taxCodeId,
    taxRate: item.taxRate,
    route: item.route,
    shipDate,
  };
}

function grownBy(lines: ReleaseEffects['lines']): ReleaseEffects['released'] {
  const byLine = new Map<number, { quantity: Dec; value: Dec }>();
  for (const line of lines) {
    const grown = byLine.get(line.agreementLineId) ?? { quantity: ZERO, value: ZERO };
    byLine.set(line.agreementLineId, {
      quantity: grown.quantity.plus(line.quantity),
      value: grown.value.plus(line.amount),
    });
  }
  return [...byLine].map(([agreementLineId, grown]) => ({
    agreementLineId,
    quantity: grown.quantity.toFixed(),
    value: grown.value.toFixed(),
  }));
}
