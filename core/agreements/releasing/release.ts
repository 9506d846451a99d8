import { AMOUNT_BOUND, dec, isDecimalText, isDay, lineAmount, most, sum, ZERO, type Day, type Dec } from '@core/kernel';
import { refuse, type Decision, type Refusal } from '@core/refusals';
import { countedOn, leftOnWhole, overWholes } from './whole-limit';
import { covers, leftOn, splitAtLimit, type Offer, type Portion } from './offered';
import { agreedPrice } from '../terms/price';
import { overLimit, overLimitOf, splitWord, splitWordOf } from './release-limit';
import {
  type ReleaseItem,
  type ReleasableLine,
  type ReleaseGround,
  type ReleaseAsked,
  type ReleaseEffects,
} from './release-ground';

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
  const readable = wanted.flatMap((want): Want[] => {
    const line = ground.lines.find((each) => each.id === want.agreementLineId);
    const item = line && (line.item ?? ground.items.get(want.itemId ?? 0));
    const found = line
      ? wantRefusals(want, line, item, workDate)
      : [refuse('unknown', `lines.${want.index}.agreementLineId`, { what: 'This agreement line' })];
    refusals.push(...found);
    return line && item && found.length === 0 ? [{ ...want, line, item, shipDate: want.shipDate! }] : [];
  });
  const good = readable.map((want) => ({ ...want, item: pricedWithout(ground, want, readable) }));
  const portioned: Portioned[] = [];
  for (const line of ground.lines) {
    const wants = good.filter((want) => want.line === line);
    if (wants.length > 0)
      portioned.push(...portionsOf(ground, line, { wants, shipToId: asked.shipToId }, refusals, warnings));
  }
  const lines = portioned.map(({ want, portion }) => orderLine(want, portion));
  const whole = overWholes(new Map(ground.lines.map(({ id }) => [id, ground.agreement])), grownBy(lines), 'lines');
  refusals.push(...whole.refused);
  warnings.push(...whole.warned);
  if (lines.some(({ amount }) => dec(amount).gte(AMOUNT_BOUND))) refusals.push(refuse('amount-too-large', 'lines', {}));
  const effects: ReleaseEffects = {
    order: {
      side: ground.agreement.side,
      partyId: ground.party.id,
      agreementId: ground.agreement.id,
      shipToId: ground.agreement.side === 'selling' ? asked.shipToId : null,
      customerReference: asked.customerReference.trim(),
      orderDate: workDate,
      currency: ground.agreement.currency,
    },
    lines,
    released: grownBy(lines),
    asked: pricesAsked(ground, asked, portioned),
  };
  return refusals.length > 0 ? { ok: false, refusals, effects } : { ok: true, effects, warnings };
}

/** An asked item at the price it would have without the agreement, of all of it that is asked. // R1 */
function pricedWithout(ground: ReleaseGround, { item, shipDate }: Want, all: readonly Want[]): ReleaseItem {
  if (!ground.priceWithout) return item;
  const ofItem = sum(all.filter((each) => each.item.id === item.id).map((each) => dec(each.quantity)));
  return { ...item, listPrice: ground.priceWithout(item, ofItem, shipDate) };
}

/** A portion of an asked line, as it will be sold. */
interface Portioned {
  want: Want;
  portion: Portion;
}

/** What each asked line costs: one of it at the price of all that is asked of its item, and the amount of its portions. */
function pricesAsked(
  ground: ReleaseGround,
  asked: ReleaseAsked,
  portioned: readonly Portioned[],
): ReleaseEffects['asked'] {
  const found = asked.lines.map((each) => {
    const line = ground.lines.find(({ id }) => id === each.agreementLineId);
    const item = line && (line.item ?? ground.items.get(each.itemId ?? 0));
    const quantity = isDecimalText(each.quantity, 'quantity') ? dec(each.quantity) : ZERO;
    return { line, item, quantity };
  });
  return found.map(({ line, item }, index) => {
    if (!line || !item) return { unitPrice: null, amount: null };
    const ofItem = sum(found.filter((each) => each.line === line && each.item === item).map((each) => each.quantity));
    const own = portioned.filter(({ want }) => want.index === index);
    const day = asked.lines[index]!.shipDate ?? '';
    const listPrice = own[0]?.want.item.listPrice ?? ground.priceWithout?.(item, ofItem, day) ?? item.listPrice;
    return {
      unitPrice: agreedPrice(line, ofItem, listPrice).toFixed(),
      amount: own.length > 0 ? sum(own.map(({ portion }) => portion.amount)).toFixed() : null,
    };
  });
}

/**
 * What a release shows before it is done: the order it makes, what is left of every line under its limit, and on the
 * whole where that has one. // A4 A5 A6
 */
export function releasePreview({ lines, released, asked }: ReleaseEffects, { agreement, lines: all }: ReleaseGround) {
  const { whole, tolerancePercent } = agreement;
  return {
    whole: whole
      ? { left: leftOnWhole(whole, tolerancePercent).minus(countedOn(whole, released)).toFixed(), unit: whole.unit }
      : null,
    net: sum(lines.map((line) => dec(line.amount))).toFixed(),
    lines,
    asked,
    left: all.map((line) => {
      const grown = released.find((each) => each.agreementLineId === line.id);
      const taken = agreement.basis === 'quantity' ? grown?.quantity : grown?.value;
      return {
        agreementLineId: line.id,
        left: leftOn({ agreement, line })
          .minus(taken ?? ZERO)
          .toFixed(),
      };
    }),
  };
}

/** One asked line that can be read. */
interface Want {
  index: number;
  quantity: string;
  shipDate: Day;
  line: ReleasableLine;
  item: ReleaseItem;
}

function wantRefusals(
  want: { index: number; itemId?: number | null; quantity: string; shipDate: Day | null },
  line: ReleasableLine,
  item: ReleaseItem | undefined,
  workDate: Day,
): Refusal[] {
  const at = (field: string) => `lines.${want.index}.${field}`;
  const refusals: Refusal[] = [];
  if (!item) {
    refusals.push(refuse(want.itemId ? 'unknown' : 'required', at('itemId'), { what: 'The item' }));
  } else if (!covers(line, item.id, item.groupId)) {
    refusals.push(refuse('agreement-not-covering', at('itemId'), { item: item.number }));
  } else if (typeof item.approvedInstead === 'string') {
    const facts = { vendor: 'This vendor', item: item.number, approved: item.approvedInstead };
    refusals.push(refuse('vendor-not-approved', at('quantity'), facts));
  }
  refusals.push(...quantityRefusals(want.quantity, at('quantity')));
  const multiple = dec(line.releaseMultiple);
  if (refusals.length === 0 && multiple.gt(0) && !dec(want.quantity).mod(multiple).eq(0)) {
    refusals.push(
      refuse('not-a-multiple', at('quantity'), { quantity: want.quantity, multiple: line.releaseMultiple }),
    );
  }
  return [...refusals, ...shipDateRefusals(want.shipDate, at('shipDate'), workDate)];
}

/** The portions of what is asked of one agreement line; what stands against them goes to `refusals` and `warnings`. // A3 A5 A6 */
function portionsOf(
  ground: ReleaseGround,
  line: ReleasableLine,
  { wants, shipToId }: { wants: readonly Want[]; shipToId: number | null },
  refusals: Refusal[],
  warnings: Refusal[],
): Portioned[] {
  const { agreement } = ground;
  const left = most(ZERO, leftOn({ agreement, line }));
  const last = wants.at(-1)!;
  const field = `lines.${last.index}.quantity`;
  const priced = wants.map((want) => {
    const ofItem = sum(wants.filter((each) => each.item.id === want.item.id).map((each) => dec(each.quantity)));
    return { ...want, ofItem, asked: dec(want.quantity), price: agreedPrice(line, ofItem, want.item.listPrice) };
  });
  const total = sum(priced.map((want) => want.asked));
  if (total.lt(line.leastRelease) && !(agreement.basis === 'quantity' && total.eq(left))) {
    const facts = { item: last.item.number, asked: total.toFixed(), least: line.leastRelease };
    refusals.push(refuse('below-least', field, facts));
  }
  const value = sum(priced.map((want) => lineAmount(want.asked, want.price, agreement.currency)));
  const over = agreement.basis === 'quantity' ? total.gt(left) : value.gt(left);
  if (over && agreement.limitPolicy !== 'keep') {
    const limit = { asked: agreement.basis === 'quantity' ? total : value, left, price: priced.at(-1)!.price };
    const word = agreement.limitPolicy === 'split' ? splitWord : overLimit;
    const list = agreement.limitPolicy === 'refuse' ? refusals : warnings;
    list.push(word(ground, last.item, limit, field));
  }
  if (!over || agreement.limitPolicy !== 'split') {
    return priced.map((want) => {
      const amount = lineAmount(want.asked, want.price, agreement.currency);
      return { want, portion: { quantity: want.asked, unitPrice: want.price, amount, agreed: amount } };
    });
  }
  let room = left;
  return priced.flatMap((want) => {
    const without = ground.restWithout?.(want.item, want.ofItem, want.shipDate, shipToId);
    const asked = { quantity: want.asked, price: want.price, listPrice: dec(want.item.listPrice), without };
    const portions = splitAtLimit(asked, room, agreement);
    for (const portion of portions) {
      if (portion.agreed !== null) {
        room = room.minus(agreement.basis === 'quantity' ? portion.quantity : portion.agreed);
      }
    }
    return portions.map((portion) => ({ want, portion }));
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
  if (ground.agreement.side === 'buying') return refusals;
  if (asked.shipToId === null) {
    refusals.push(refuse('required', 'shipToId', { what: 'The ship-to address' }));
  } else if (!ground.shipToIds.includes(asked.shipToId)) {
    refusals.push(refuse('unknown', 'shipToId', { what: 'This ship-to address' }));
  }
  if (ground.party.referenceRequired && asked.customerReference.trim() === '') {
    refusals.push(refuse('reference-required', 'customerReference', { customer: ground.party.name }));
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

function orderLine({ line, item, shipDate }: Want, portion: Portion): ReleaseEffects['lines'][number] {
  const { quantity, unitPrice, amount, agreed } = portion;
  return {
    agreementLineId: agreed === null ? null : line.id,
    itemId: item.id,
    quantity: quantity.toFixed(),
    unitPrice: unitPrice.toFixed(),
    listPrice: item.listPrice,
    amount: amount.toFixed(),
    agreedAmount: agreed === null || agreed.eq(amount) ? null : agreed.toFixed(),
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
      value: grown.value.plus(line.agreedAmount ?? line.amount),
    });
  }
  return [...byLine].map(([agreementLineId, grown]) => ({
    agreementLineId,
    quantity: grown.quantity.toFixed(),
    value: grown.value.toFixed(),
  }));
}

/**
 * What a quantity becomes under an offer with that much room: its portions, what is refused, what is worth a word.
 * For lines that are not released but priced by an agreement. // A5 A13
 */
export function portionsUnder(
  { agreement, line }: Offer,
  item: { number: string; unit: string; listPrice: string },
  quantity: Dec,
  room: Dec,
  field: string,
): { portions: Portion[]; refused: Refusal[]; warned: Refusal[] } {
  const price = agreedPrice(line, quantity, item.listPrice);
  const amount = lineAmount(quantity, price, agreement.currency);
  const asked = agreement.basis === 'quantity' ? quantity : amount;
  const whole = [{ quantity, unitPrice: price, amount, agreed: amount }];
  if (asked.lte(room) || agreement.limitPolicy === 'keep') return { portions: whole, refused: [], warned: [] };
  const over = overLimitOf(agreement, item, asked, room, field);
  if (agreement.limitPolicy === 'refuse') return { portions: [], refused: [over], warned: [] };
  if (agreement.limitPolicy === 'warn') return { portions: whole, refused: [], warned: [over] };
  return {
    portions: splitAtLimit({ quantity, price, listPrice: dec(item.listPrice) }, room, agreement),
    refused: [],
    warned: [splitWordOf(agreement, item, { asked, left: most(ZERO, room), price }, field)],
  };
}
