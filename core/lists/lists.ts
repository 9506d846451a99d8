import { COMPANY } from './company-lists';
import { COUNTER } from './counter-lists';
import { CUSTOMERS } from './customer-lists';
import type { KeptList, ListRoom } from './fields';
import { ITEMS } from './item-lists';
import { MAKING } from './making-lists';
import { PAPERS } from './paper-lists';
import { PRICES } from './price-lists';
import { VENDORS } from './vendor-lists';

/** The lists by room of the setup page, in the order they are shown. */
export const LIST_ROOMS: readonly ListRoom[] = [PRICES, ITEMS, MAKING, CUSTOMERS, COUNTER, VENDORS, PAPERS, COMPANY];

export const KEPT_LISTS: readonly KeptList[] = LIST_ROOMS.flatMap((room) => room.lists);

/** A kept list by its name; null where there is none of that name. */
export function keptList(name: string): KeptList | null {
  return KEPT_LISTS.find((list) => list.name === name) ?? null;
}
