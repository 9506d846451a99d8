import type { Offer } from '@core/agreements';
import type { Route } from '@core/catalogue';
import type { Day } from '@core/kernel';
import type { BuildUpStep, PriceExtras, PriceSearch } from '@core/pricing';
import type { PromotionOffer } from '@core/promotions';
import type { ItemPricing } from './price-without';

export const ORDER_STATES = ['draft', 'confirmed', 'closed', 'cancelled'] as const;
export type OrderState = (typeof ORDER_STATES)[number];

export interface OrderItem {
  number: string;
  unit: string;
  groupId: number | null;
  listPrice: string;
  taxCodeId: number;
  taxRate: string;
  stocked: boolean;
  hasVendor: boolean;
  /** How it comes to be: bought, made, assembled, or neither. */
  obtained: string;
  /** It is not sold any more; lines that have it keep it. */
  outOfUse: boolean;
  pricing: ItemPricing;
}

export interface OrderLineNow {
  id: number;
  lineNo: number;
  itemId: number;
  quantity: string;
  unitPrice: string;
  listPrice: string;
  amount: string;
  agreementLineId: number | null;
  /** What of the amount counts against the agreement where that is not the whole. */
  agreedAmount: string | null;
  shipDate: Day;
  sold: SoldAs;
  /** What was chosen for it; none where it is as its item is. */
  optionIds: readonly number[];
  /** The promotion that took something off it, or that it is free with. // S13 */
  promotion?: HeldPromotion | null;
  /** Where it goes out from and how, and what was given up of it. */
  route?: Route;
  locationId?: number;
  cancelled?: string;
}

/** What a line has of a promotion. */
export interface HeldPromotion {
  promotionId: number;
  lineId: number;
  /** What one of the item's own unit gets of it, in the company's currency. */
  unit: string;
  /** The line is the free goods themselves. */
  free: boolean;
}

/** How a line was sold: its unit, and what a person typed about its price. // S1 R4 */
export interface SoldAs {
  unit: string;
  /** How many of the item's own unit its unit is. */
  factor: string;
  /** For one of its unit; null where the price was found. */
  price: string | null;
  /** Why it is sold for nothing; empty where it is not. // S2 */
  reason: string;
  /** Per cent off. */
  discount: string;
  /** The steps of its price; none for lines that keep the one an agreement gave them. */
  steps: readonly BuildUpStep[];
}

/** What prices are found by. // R1 R3 */
export interface OrderPricing {
  search: PriceSearch;
  /** The order's day, which prices are of; or the ship date, where the customer's terms say so. */
  orderDate: Day;
  byShipDate: boolean;
  /** What freight costs to each ship-to of the customer, where their prices are delivered ones. */
  freight: ReadonlyMap<number, PriceExtras['freight']>;
  /** Who types. */
  who: string;
  /** What promotions give the customer, and what one of the customer's currency is worth in the company's. // S13 */
  promotions: { offers: readonly PromotionOffer[]; rate: string | null };
}

export const NO_PROMOTIONS: OrderPricing['promotions'] = { offers: [], rate: null };

/** What a draft order's change is checked against. */
export interface OrderGround {
  /** Null for a new order. */
  current: { number: string; state: OrderState; shipToId: number | null; lines: readonly OrderLineNow[] } | null;
  customer: { id: number; name: string; currency: string; contractedOnly: boolean; outOfUse?: boolean } | null;
  shipToIds: readonly number[];
  locationIds: readonly number[];
  items: ReadonlyMap<number, OrderItem>;
  /** Agreement lines the order's lines hold, whatever has become of them, and those that could price its lines. // A13 */
  offers: readonly Offer[];
  pricing: OrderPricing;
}

/** The order as typed. A line with an id is one the order has; the others are new. */
export interface OrderTyped {
  shipToId: number | null;
  customerReference: string;
  lines: {
    id: number | null;
    itemId: number | null;
    quantity: string;
    shipDate: Day | null;
    route: Route;
    /** Where it goes out from; the main location where left out. */
    locationId?: number | undefined;
    /** The agreement line that prices it; null for none; left out for the one it has, or the first that fits. // A13 */
    agreementLineId?: number | null | undefined;
    /** The unit the quantity and the price are in; the item's own where left out. */
    unit?: string | undefined;
    /** A price instead of the one that is found, for one of the unit; nothing or empty for none. */
    price?: string | undefined;
    /** Why it is sold for nothing. */
    reason?: string | undefined;
    /** Per cent off; nothing or empty for none. */
    discount?: string | undefined;
    /** What is chosen for it; what it has where left out. // W2 */
    optionIds?: readonly number[] | undefined;
  }[];
}

export interface OrderEffects {
  shipToId: number | null;
  customerReference: string;
  lines: {
    id: number | null;
    itemId: number;
    agreementLineId: number | null;
    quantity: string;
    unitPrice: string;
    listPrice: string;
    amount: string;
    agreedAmount: string | null;
    taxCodeId: number;
    taxRate: string;
    route: Route;
    /** The main location for a drop shipment. */
    locationId: number;
    shipDate: Day;
    sold: SoldAs;
    optionIds: readonly number[];
    promotion: HeldPromotion | null;
    /** Which of the typed lines it comes from. */
    typedAt: number;
  }[];
  removedLineIds: number[];
  /** What the agreement lines' released counters change by; negative gives back. // A4 S6 */
  released: { agreementLineId: number; quantity: string; value: string }[];
}

export type TypedLine = OrderTyped['lines'][number];
