import { dec, isDay, isDecimalText, roundHalfAway, sum, type Day } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';

export const SUPPORT_STATES = ['running', 'stopped'] as const;
export type SupportState = (typeof SUPPORT_STATES)[number];

/** What a vendor owes us for each of an item, or of the items of a group, that we sell. // S13 */
export interface SupportLine {
  id: number;
  supportId: number;
  itemId: number | null;
  groupId: number | null;
  /** For one of the item's own unit, in the company's currency. */
  perUnit: string;
  firstDay: Day;
  lastDay: Day;
  /** Only what is sold to one customer, to a price group, or by a promotion; nulls for all. */
  customerId: number | null;
  priceGroupId: number | null;
  promotionId: number | null;
  running: boolean;
}

/** A line of an invoice as it stands by now. */
export interface SoldLine {
  id: number;
  invoiceDay: Day;
  itemId: number;
  groupId: number | null;
  customerId: number;
  priceGroupId: number | null;
  promotionId: number | null;
  /** Invoiced and not credited, in the item's own unit. */
  quantity: string;
  /** What was accrued of it before, by line of support. */
  before: readonly { supportLineId: number; perUnit: string; quantity: string; amount: string }[];
}

export interface Accrual {
  supportId: number;
  supportLineId: number;
  invoiceLineId: number;
  perUnit: string;
  /** Above zero where more was sold, below where it came back. */
  quantity: string;
  amount: string;
  day: Day;
}

const PLACES = 2;

const isFor = (support: SupportLine, sold: SoldLine): boolean =>
  support.running &&
  support.firstDay <= sold.invoiceDay &&
  sold.invoiceDay <= support.lastDay &&
  (support.itemId !== null ? support.itemId === sold.itemId : support.groupId === sold.groupId) &&
  (support.customerId === null || support.customerId === sold.customerId) &&
  (support.priceGroupId === null || support.priceGroupId === sold.priceGroupId) &&
  (support.promotionId === null || support.promotionId === sold.promotionId);

/**
 * What vendors owe us for invoice lines since these were looked at last: so much for each that is invoiced and not
 * credited, less what was accrued. A line keeps what it was first accrued at, also once its support is over or stopped.
 * Asked again with nothing new it answers none. O(lines × support lines). // S13
 */
export function accrualsOf(lines: readonly SoldLine[], supports: readonly SupportLine[], today: Day): Accrual[] {
  return lines.flatMap((line) =>
    supports.flatMap((support): Accrual[] => {
      const had = line.before.filter(({ supportLineId }) => supportLineId === support.id);
      if (had.length === 0 && !isFor(support, line)) return [];
      const perUnit = had[0]?.perUnit ?? support.perUnit;
      const whole = roundHalfAway(dec(line.quantity).times(perUnit), PLACES);
      const amount = whole.minus(sum(had.map((each) => dec(each.amount))));
      const quantity = dec(line.quantity).minus(sum(had.map((each) => dec(each.quantity))));
      if (quantity.eq(0)) return [];
      return [
        {
          supportId: support.supportId,
          supportLineId: support.id,
          invoiceLineId: line.id,
          perUnit,
          quantity: quantity.toFixed(),
          amount: amount.toFixed(),
          day: had.length === 0 ? line.invoiceDay : today,
        },
      ];
    }),
  );
}

export interface SupportTyped {
  name: string;
  vendorId: number | null;
  customerId: number | null;
  priceGroupId: number | null;
  promotionId: number | null;
  firstDay: string | null;
  lastDay: string | null;
  lines: readonly { id: number | null; itemId: number | null; groupId: number | null; perUnit: string }[];
}

export interface SupportGround {
  now: { number: string; vendorId: number; lines: readonly { id: number; lineNo: number; used: boolean }[] } | null;
  vendorIds: readonly number[];
  customerIds: readonly number[];
  priceGroupIds: readonly number[];
  promotionIds: readonly number[];
  itemIds: readonly number[];
  groupIds: readonly number[];
}

export interface SupportSaved {
  name: string;
  vendorId: number;
  customerId: number | null;
  priceGroupId: number | null;
  promotionId: number | null;
  firstDay: Day;
  lastDay: Day;
  lines: { id: number | null; itemId: number | null; groupId: number | null; perUnit: string }[];
  removedLineIds: number[];
}

/** What a vendor promised us for what we sell, in whole: whose, when, on what, how much each. // S13 */
export function decideSupport(ground: SupportGround, typed: SupportTyped): Decision<SupportSaved> {
  const { now } = ground;
  const refusals: Refusal[] = [];
  const name = typed.name.trim();
  if (name === '') refusals.push(refuse('required', 'name', { what: 'The name' }));
  const vendorId = now?.vendorId ?? typed.vendorId;
  if (vendorId === null) refusals.push(refuse('required', 'vendorId', { what: 'The vendor' }));
  else if (!ground.vendorIds.includes(vendorId)) refusals.push(refuse('unknown', 'vendorId', { what: 'This vendor' }));
  const whose = [typed.customerId, typed.priceGroupId].filter((id) => id !== null);
  if (whose.length > 1) {
    refusals.push(refuse('either-or', 'priceGroupId', { one: 'one customer', other: 'a price group' }));
  }
  const known = (field: string, id: number | null, ids: readonly number[], what: string) => {
    if (id !== null && !ids.includes(id)) refusals.push(refuse('unknown', field, { what }));
  };
  known('customerId', typed.customerId, ground.customerIds, 'This customer');
  known('priceGroupId', typed.priceGroupId, ground.priceGroupIds, 'This price group');
  known('promotionId', typed.promotionId, ground.promotionIds, 'This promotion');
  const says = { firstDay: 'The first day', lastDay: 'The last day' } as const;
  const bad = (['firstDay', 'lastDay'] as const).filter((field) => typed[field] === null || !isDay(typed[field]));
  for (const field of bad) {
    const code = typed[field] === null ? 'required' : 'not-a-day';
    refusals.push(refuse(code, field, { what: says[field] }));
  }
  if (bad.length === 0 && typed.lastDay! < typed.firstDay!) {
    refusals.push(
      refuse('days-order', 'lastDay', { what: says.lastDay, day: typed.lastDay!, earliest: typed.firstDay! }),
    );
  }
  if (typed.lines.length === 0) refusals.push(refuse('required', 'lines', { what: 'What it is for' }));
  typed.lines.forEach((line, at) => {
    const field = (each: string) => `lines.${at}.${each}`;
    if (line.itemId === null && line.groupId === null) {
      refusals.push(refuse('required', field('itemId'), { what: 'An item or a group' }));
    }
    if (line.itemId !== null && line.groupId !== null) {
      refusals.push(refuse('either-or', field('groupId'), { one: 'one item', other: 'a group of items' }));
    }
    known(field('itemId'), line.itemId, ground.itemIds, 'This item');
    known(field('groupId'), line.groupId, ground.groupIds, 'This group');
    if (line.id !== null && !now?.lines.some(({ id }) => id === line.id)) {
      refusals.push(refuse('unknown', field('id'), { what: 'This line' }));
    }
    const text = line.perUnit.trim();
    if (text === '') refusals.push(refuse('required', field('perUnit'), { what: 'How much for each' }));
    else if (!isDecimalText(text, 'price')) {
      refusals.push(refuse('not-a-number', field('perUnit'), { what: 'How much for each' }));
    } else if (dec(text).lte(0))
      refusals.push(refuse('not-above-zero', field('perUnit'), { what: 'How much for each' }));
  });
  const removed = (now?.lines ?? []).filter(({ id }) => !typed.lines.some((line) => line.id === id));
  for (const { lineNo, used } of removed) {
    if (used) refusals.push(refuse('support-line-used', 'lines', { support: now!.number, line: String(lineNo) }));
  }
  return decided(refusals, () => ({
    name,
    vendorId: vendorId!,
    customerId: typed.customerId,
    priceGroupId: typed.priceGroupId,
    promotionId: typed.promotionId,
    firstDay: typed.firstDay!,
    lastDay: typed.lastDay!,
    lines: typed.lines.map(({ id, itemId, groupId, perUnit }) => ({ id, itemId, groupId, perUnit })),
    removedLineIds: removed.map(({ id }) => id),
  }));
}
