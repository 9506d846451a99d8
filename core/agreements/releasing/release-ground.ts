import { type Day, type Dec } from '@core/kernel';
import type { Route } from '@core/catalogue';
import { type OfferedLine, type OfferingAgreement, type PriceWithout } from './offered';
import type { Side } from '../terms/terms';

/** An item that can be released, with what the order line takes from it. */
export interface ReleaseItem {
  id: number;
  number: string;
  unit: string;
  groupId: number | null;
  route: Route;
  /** The price without the agreement: the list price, or the vendor's. */
  listPrice: string;
  taxCodeId: number;
  taxRate: string;
  /** Who may be asked instead of the vendor of the agreement, who is not approved for it; null where they are. // L9 */
  approvedInstead?: string | null;
}

/** A line of the agreement as it stands; `item` is null where it covers a group or everything. */
export interface ReleasableLine extends OfferedLine {
  item: ReleaseItem | null;
}

export interface ReleaseGround {
  agreement: OfferingAgreement & { side: Side };
  /** The customer or vendor. */
  party: { id: number; name: string; referenceRequired: boolean };
  /** Ids of the customer's ship-to addresses. */
  shipToIds: readonly number[];
  lines: readonly ReleasableLine[];
  /** Items asked for on lines that cover a group or everything. */
  items: ReadonlyMap<number, ReleaseItem>;
  /**
   * What an item would cost the customer without the agreement, so many of it going out on a day; left out where that is
   * always its list price, or the vendor's. // R1 A3
   */
  priceWithout?: (item: ReleaseItem, quantity: Dec, shipDate: Day) => string;
  /** What so many of it would cost then, at the price of all that is asked of it, going to an address, with all that is put
   * on a price: the rest of a split line. // R2 */
  restWithout?: (item: ReleaseItem, ofItem: Dec, shipDate: Day, shipToId: number | null) => PriceWithout;
}

/** As typed. Lines with an empty quantity are not asked for. */
export interface ReleaseAsked {
  shipToId: number | null;
  customerReference: string;
  lines: {
    agreementLineId: number;
    /** Which item, where the agreement line covers a group or everything. */
    itemId?: number | null;
    quantity: string;
    shipDate: Day | null;
  }[];
}

export interface ReleaseEffects {
  /** A sales order, or a purchase order for our own stock. */
  order: {
    side: Side;
    partyId: number;
    agreementId: number;
    /** Null on a purchase order. */
    shipToId: number | null;
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
    /** What of the amount counts against the agreement where that is not the whole. // A5 */
    agreedAmount: string | null;
    taxCodeId: number;
    taxRate: string;
    route: Route;
    shipDate: Day;
  }[];
  /** What each agreement line's released counter grows by, in quantity and value. // A4 */
  released: { agreementLineId: number; quantity: string; value: string }[];
  /** What each asked line costs, in their order: nothing where its item is not known, no amount where none is asked. */
  asked: { unitPrice: string | null; amount: string | null }[];
}
