import { dec, documentTotals, most, priceText, ZERO, type Day, type Dec } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import {
  optionRefusals,
  routeFits,
  routeIsBought,
  routeIsMade,
  ROUTE_NAMES,
  type OptionGroup,
  type Route,
} from '@core/catalogue';
import type { OrderState } from './ground';

/** How a customer stands: what they owe and have on order, and the permits they hold. // S4 S5 */
export interface CustomerStanding {
  name: string;
  currency: string;
  referenceRequired: boolean;
  /** What they may owe at most, orders included; null for no limit. */
  creditLimit: string | null;
  /** What they owe, tax included. */
  balance: string;
  /** Confirmed and not invoiced on their other orders, tax included. */
  onOrder: string;
  /** Whose permits these are: the person it is for, where one is named, and the customer as a whole. // C1 */
  permitsOf: string;
  permits: readonly { id: number; typeId: number; firstDay: Day; lastDay: Day }[];
}

export interface ConfirmGround {
  order: { number: string; state: OrderState; shipToId: number | null; customerReference: string };
  customer: CustomerStanding;
  lines: readonly {
    lineNo: number;
    unitPrice: string;
    amount: string;
    taxCode: string;
    taxRate: string;
    /** Why it is sold for nothing; empty where it is not. */
    reason: string;
    shipDate: Day;
    route: Route;
    /** What is chosen for it. */
    optionIds: readonly number[];
    item: {
      number: string;
      stocked: boolean;
      hasVendor: boolean;
      obtained: string;
      /** What may be chosen for it. */
      options: readonly OptionGroup[];
      /** The kind of permit it needs; null for none. */
      permit: { id: number; name: string } | null;
    };
  }[];
}

/** Who confirms: whether they may let an order pass over the credit limit, and why they do. */
export interface Confirmer {
  mayPassCredit: boolean;
  creditReason: string;
}

export interface ConfirmEffects {
  state: OrderState;
  /** The permit each line goes out under, in the lines' order. // S5 */
  permits: (number | null)[];
  /** Why it passes over the limit; empty where it does not. */
  creditReason: string;
}

/** What a customer's credit is after an order: the limit, what is used with it, and by how much that is too much. // S4 */
export function creditWith(customer: CustomerStanding, lines: ConfirmGround['lines']): { used: Dec; over: Dec } | null {
  if (customer.creditLimit === null) return null;
  const { total } = documentTotals(
    lines.map((line) => ({ ...line, net: dec(line.amount) })),
    customer.currency,
  );
  const used = dec(customer.balance).plus(customer.onOrder).plus(total);
  return { used, over: most(ZERO, used.minus(customer.creditLimit)) };
}

/** Confirms a draft order: every check at once, each at its field. // S2 S4 S5 */
export function decideConfirm(ground: ConfirmGround, workDate: Day, by: Confirmer): Decision<ConfirmEffects> {
  const { order, customer, lines } = ground;
  const refusals: Refusal[] = [];
  if (order.state !== 'draft') {
    refusals.push(refuse('order-not-draft', '', { order: order.number, state: order.state }));
  }
  if (order.shipToId === null) {
    refusals.push(refuse('required', 'shipToId', { what: 'The ship-to address' }));
  }
  if (customer.referenceRequired && order.customerReference.trim() === '') {
    refusals.push(refuse('reference-required', 'customerReference', { customer: customer.name }));
  }
  if (lines.length === 0) refusals.push(refuse('no-lines', 'lines', { document: order.number }));
  const permits = lines.map((line, index) => {
    refusals.push(...routeAndPrice(line, index, workDate), ...permitRefusals(customer, line, index));
    return permitFor(customer, line);
  });
  const credit = creditRefusals(customer, lines, by);
  refusals.push(...credit.refusals);
  return decided(refusals, () => ({
    state: 'confirmed' as const,
    permits,
    creditReason: credit.over ? by.creditReason.trim() : '',
  }));
}

/** A customer who would owe more than they may, where nobody who may lets that pass and says why. // S4 */
export function creditRefusals(
  customer: CustomerStanding,
  lines: ConfirmGround['lines'],
  by: Confirmer,
): { over: boolean; refusals: Refusal[] } {
  const credit = creditWith(customer, lines);
  if (credit === null || credit.over.lte(0)) return { over: false, refusals: [] };
  if (by.mayPassCredit && by.creditReason.trim() !== '') return { over: true, refusals: [] };
  const { currency, name, creditLimit } = customer;
  const facts = {
    customer: name,
    currency,
    limit: priceText(creditLimit!, currency),
    over: priceText(credit.over, currency),
  };
  const code = by.mayPassCredit ? 'over-credit-why' : 'over-credit';
  return { over: true, refusals: [refuse(code, 'creditReason', facts)] };
}

/** A line of an item that needs a permit its customer has not. // S5 */
export function permitRefusals(
  customer: CustomerStanding,
  line: ConfirmGround['lines'][number],
  index: number,
): Refusal[] {
  if (!line.item.permit || permitFor(customer, line) !== null) return [];
  const facts = { customer: customer.permitsOf, permit: line.item.permit.name, item: line.item.number };
  return [refuse('permit-missing', `lines.${index}.itemId`, { ...facts, day: line.shipDate })];
}

/** What stands against one line going out as it says. // S2 */
export function routeAndPrice(line: ConfirmGround['lines'][number], index: number, workDate: Day): Refusal[] {
  const refusals: Refusal[] = [];
  const at = (field: string) => `lines.${index}.${field}`;
  const item = line.item.number;
  if (dec(line.unitPrice).lte(0) && line.reason === '') refusals.push(refuse('price-missing', at('price'), { item }));
  if (line.shipDate < workDate) {
    refusals.push(refuse('ship-date-past', at('shipDate'), { day: line.shipDate, workDate }));
  }
  if (routeIsMade(line.route)) {
    refusals.push(...optionRefusals(item, line.item.options, line.optionIds, at('optionIds')));
  }
  if (!routeFits(line.route, line.item)) {
    refusals.push(
      routeIsBought(line.route)
        ? refuse('no-vendor', at('route'), { item })
        : refuse('route-not-kept', at('route'), { item, route: ROUTE_NAMES[line.route] }),
    );
  }
  return refusals;
}

/** The permit valid on the ship date that lasts longest; null where none is needed or none is valid. // S5 */
export function permitFor(
  customer: Pick<CustomerStanding, 'permits'>,
  line: { shipDate: Day; item: { permit: { id: number } | null } },
): number | null {
  const { permit } = line.item;
  if (!permit) return null;
  const [found] = customer.permits
    .filter((each) => each.typeId === permit.id && each.firstDay <= line.shipDate && each.lastDay >= line.shipDate)
    .sort((a, b) => (a.lastDay === b.lastDay ? a.id - b.id : a.lastDay < b.lastDay ? 1 : -1));
  return found?.id ?? null;
}

/** What may become of a supply whose order is cancelled. // S8 */
export const SUPPLY_FATES = ['cancel', 'loose', 'stock'] as const;
export type SupplyFate = (typeof SUPPLY_FATES)[number];

/** A purchase order that brings something for an order. */
export interface TiedSupply {
  id: number;
  number: string;
  state: string;
  /** It goes straight to the customer. */
  straight: boolean;
  tieIds: readonly number[];
  /** What of these ties was received. */
  received: string;
  /** Other orders it is for. */
  others: readonly string[];
}

/** What may become of a supply: what is for others too, or not placed any more, can only be parted. */
export function fatesOf({ straight, others, state }: TiedSupply): SupplyFate[] {
  if (others.length > 0 || state !== 'placed') return ['loose'];
  return straight ? ['cancel', 'loose', 'stock'] : ['cancel', 'loose'];
}

export interface CancelTyped {
  supplies: readonly { purchaseId: number; fate: SupplyFate }[];
}

export interface CancelGround {
  order: { number: string; state: OrderState };
  lines: readonly {
    id: number;
    quantity: string;
    /** Given up before: that went back to its agreement then. */
    cancelled: string;
    amount: string;
    agreementLineId: number | null;
    agreedAmount: string | null;
  }[];
  /** Purchase orders tied to the order's lines. */
  supplies: readonly TiedSupply[];
  moved: boolean;
}

export interface CancelEffects {
  state: OrderState;
  lineIds: number[];
  /** Given back to the agreement, as negative growth. // S6 */
  released: { agreementLineId: number; quantity: string; value: string }[];
  /** What becomes of each supply: all are parted from the order first. */
  supplies: { supply: TiedSupply; fate: SupplyFate }[];
}

/**
 * Cancels a whole order nothing came or was shipped on; its quantity goes back to its agreement. Of each purchase that was
 * made for it one says what becomes of it. // S6 S8 L4
 */
export function decideCancel(ground: CancelGround, typed: CancelTyped): Decision<CancelEffects> {
  const { order } = ground;
  const refusals: Refusal[] = [];
  if (order.state !== 'draft' && order.state !== 'confirmed') {
    refusals.push(refuse('order-not-draft', '', { order: order.number, state: order.state }));
  } else if (ground.moved || ground.supplies.some(({ received }) => dec(received).gt(0))) {
    refusals.push(refuse('order-moved', '', { order: order.number }));
  } else {
    ground.supplies.forEach((supply) => {
      const refusal = fateRefusal(order.number, supply, typed);
      if (refusal) refusals.push(refusal);
    });
  }
  return decided(refusals, () => ({
    supplies: ground.supplies.map((supply) => ({
      supply,
      fate: typed.supplies.find(({ purchaseId }) => purchaseId === supply.id)!.fate,
    })),
    state: 'cancelled' as const,
    lineIds: ground.lines.map((line) => line.id),
    released: ground.lines
      .filter((line) => line.agreementLineId !== null && dec(line.cancelled).lt(line.quantity))
      .map((line) => ({
        agreementLineId: line.agreementLineId!,
        quantity: dec(line.cancelled).minus(line.quantity).toFixed(),
        value: ZERO.minus(line.agreedAmount ?? line.amount).toFixed(),
      })),
  }));
}

function fateRefusal(order: string, supply: TiedSupply, { supplies }: CancelTyped): Refusal | null {
  const at = supplies.findIndex(({ purchaseId }) => purchaseId === supply.id);
  if (at < 0) return refuse('supply-unasked', '', { purchase: supply.number, order });
  if (fatesOf(supply).includes(supplies[at]!.fate)) return null;
  const field = `supplies.${at}.fate`;
  const { number: purchase, others, state } = supply;
  if (others.length > 0) return refuse('supply-for-others', field, { purchase, orders: others.join(', ') });
  return state === 'placed'
    ? refuse('comes-here-already', field, { purchase })
    : refuse('supply-not-placed', field, { purchase, state });
}
