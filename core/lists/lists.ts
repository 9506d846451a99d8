import { COMPANY } from './company-lists';
import { COUNTER } from './counter-lists';
import { CUSTOMERS } from './customer-lists';
import type { KeptList, ListRoom, Thing } from './fields';
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

/** The field of a list that names what its rows are about; null where they are about no such thing. */
export function aboutField({ fields }: KeptList, thing: Thing): string | null {
  return fields.find(({ name, is }) => name === thing && is.kind === 'ref' && is.to === thing)?.name ?? null;
}

/** The lists that say something about such a thing: first the one it is made in, then what else is of it itself. */
export function listsAbout(thing: Thing): KeptList[] {
  return [
    ...KEPT_LISTS.filter((list) => list.of === thing && list.grows),
    ...KEPT_LISTS.filter((list) => list.of === thing && !list.grows),
    ...KEPT_LISTS.filter((list) => list.of === undefined && aboutField(list, thing) !== null),
  ];
}
