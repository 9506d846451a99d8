import {
  dec,
  isDecimalText,
  isDay,
  least,
  lineAmount,
  most,
  priceText,
  sum,
  ZERO,
  type Day,
  type Dec,
} from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import type { Route } from '@core/catalogue';
import { agreedPrice, type PriceTerm } from './price';
import { leftUnderLimit } from './progress';
import type { AgreementState, LimitPolicy } from './terms';

/** A line of the agreement as it stands, with what the order line takes from its item. */
export interface ReleasableLine extends PriceTerm {
  id: number;
  lineNo: number;
  committed: string;
  released: string;
  leastRelease: string;
  releaseMultiple: string;
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
    /** Null for what a split line sells beyond the limit, at the price without the agreement. */
    agreementLineId: number | null;
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
 * Decides a release: one order for one ship-to, with a ship date per line. // A2 A3 A5 A6
 * Several asked lines of one agreement line are held together against its limit, its least release and its price breaks.
 */
export function decideRelease(ground: ReleaseGround, asked: ReleaseAsked, workDate: Day): Decision<ReleaseEffects> {
  const refusals = [...agreementRefusals(ground, workDate), ...headRefusals(ground, asked)];
  const warnings: Refusal[] = [];
  const wanted = asked.lines.map((line, index) => ({ ...line, index })).filter((line) => line.quantity.trim() !== '');
  if (wanted.length === 0) {
    refusals.push(refuse('nothing-asked', 'lines', { what: 'a quantity' }));
  }
  const good = wanted.flatMap((want): Want[] => {
    const line = ground.lines.find((each) => each.id === want.agreementLineId);
    const found = line
      ? wantRefusals(want, line, workDate)
      : [refuse('unknown', `lines.${want.index}.agreementLineId`, { what: 'This agreement line' })];
    refusals.push(...found);
    return line && found.length === 0 ? [{ ...want, line, shipDate: want.shipDate! }] : [];
  });
  const lines: ReleaseEffects['lines'] = [];
  for (const line of ground.lines) {
    const wants = good.filter((want) => want.line === line);
    if (wants.length > 0) lines.push(...linesOf(ground, line, wants, refusals, warnings));
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

/** One asked line that can be read. */
interface Want {
  index: number;
  quantity: string;
  shipDate: Day;
  line: ReleasableLine;
}

function wantRefusals(
  want: { index: number; quantity: string; shipDate: Day | null },
  line: ReleasableLine,
  workDate: Day,
): Refusal[] {
  const at = (field: string) => `lines.${want.index}.${field}`;
  const refusals = quantityRefusals(want.quantity, at('quantity'));
  const multiple = dec(line.releaseMultiple);
  if (refusals.length === 0 && multiple.gt(0) && !dec(want.quantity).mod(multiple).eq(0)) {
    refusals.push(
      refuse('not-a-multiple', at('quantity'), { quantity: want.quantity, multiple: line.releaseMultiple }),
    );
  }
  return [...refusals, ...shipDateRefusals(want.shipDate, at('shipDate'), workDate)];
}

/** The order lines of one agreement line; what stands against them goes to `refusals` and `warnings`. // A3 A5 A6 */
function linesOf(
  ground: ReleaseGround,
  line: ReleasableLine,
  wants: readonly Want[],
  refusals: Refusal[],
  warnings: Refusal[],
): ReleaseEffects['lines'] {
  const { agreement } = ground;
  const total = sum(wants.map((want) => dec(want.quantity)));
  const left = most(ZERO, leftUnderLimit(line.committed, line.released, agreement.tolerancePercent));
  const last = wants.at(-1)!;
  const field = `lines.${last.index}.quantity`;
  if (total.lt(line.leastRelease) && !total.eq(left)) {
    const facts = { item: line.item.number, asked: total.toFixed(), least: line.leastRelease };
    refusals.push(refuse('below-least', field, facts));
  }
  const price = agreedPrice(line, total, line.item.listPrice);
  const over = total.gt(left);
  if (over && agreement.limitPolicy !== 'keep') {
    const word = agreement.limitPolicy === 'split' ? splitWord : overLimit;
    const list = agreement.limitPolicy === 'refuse' ? refusals : warnings;
    list.push(word(ground, line, { asked: total, left, price }, field));
  }
  if (!over || agreement.limitPolicy !== 'split') {
    return wants.map((want) => orderLine(ground, want, dec(want.quantity), price, true));
  }
  let fits = left;
  return wants.flatMap((want) => {
    const agreed = least(fits, dec(want.quantity));
    const rest = dec(want.quantity).minus(agreed);
    fits = fits.minus(agreed);
    return [
      ...(agreed.gt(0) ? [orderLine(ground, want, agreed, price, true)] : []),
      ...(rest.gt(0) ? [orderLine(ground, want, rest, dec(line.item.listPrice), false)] : []),
    ];
  });
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

interface Limit {
  asked: Dec;
  left: Dec;
  price: Dec;
}

function overLimit(ground: ReleaseGround, line: ReleasableLine, { asked, left }: Limit, field: string): Refusal {
  return refuse('above-limit', field, {
    item: line.item.number,
    unit: line.item.unit,
    asked: asked.toFixed(),
    left: left.toFixed(),
    agreement: ground.agreement.number,
  });
}

function splitWord(ground: ReleaseGround, line: ReleasableLine, { asked, left, price }: Limit, field: string): Refusal {
  return refuse('split-at-limit', field, {
    item: line.item.number,
    fits: left.toFixed(),
    rest: asked.minus(left).toFixed(),
    price: priceText(price, ground.agreement.currency),
    list: priceText(line.item.listPrice, ground.agreement.currency),
    agreement: ground.agreement.number,
  });
}

function orderLine(
  ground: ReleaseGround,
  { line, shipDate }: Want,
  quantity: Dec,
  unitPrice: Dec,
  agreed: boolean,
): ReleaseEffects['lines'][number] {
  const { item } = line;
  return {
    agreementLineId: agreed ? line.id : null,
    itemId: item.id,
    quantity: quantity.toFixed(),
    unitPrice: unitPrice.toFixed(),
    listPrice: item.listPrice,
    amount: lineAmount(quantity, unitPrice, ground.agreement.currency).toFixed(),
    taxCodeId: item.taxCodeId,
    taxRate: item.taxRate,
    route: item.route,
    shipDate,
  };
}

function grownBy(lines: ReleaseEffects['lines']): ReleaseEffects['released'] {
  const byLine = new Map<number, { quantity: Dec; value: Dec }>();
  for (const line of lines) {
    if (line.agreementLineId === null) continue;
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
