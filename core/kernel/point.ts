/** The place every company has from its first day; what is made is made there. */
export const MAIN_LOCATION = 0;

/**
 * Where goods are that left one of our places for another and are not there yet: in the middle of a location's numbers,
 * so that those a company adds come before or after it. No list of places has it. // W6
 */
export const UNDER_WAY = 32_767;

const STEP = 2 ** 32;

/**
 * An item at a location as one number, so that what is kept, promised and planned by item is kept, promised and planned
 * by item and location: at the main location the item's own id. Items have ids below 2^32, locations below 2^16. // T1
 */
export function pointOf(itemId: number, locationId: number): number {
  return locationId * STEP + itemId;
}

/** `GAC-25 at EAST`: an item's number, with the place where that is not the main one. */
export function numberAt(number: string, locationId: number, code: string): string {
  return locationId === MAIN_LOCATION ? number : `${number} at ${code}`;
}

export function itemAt(point: number): number {
  return point % STEP;
}

export function locationAt(point: number): number {
  return Math.floor(point / STEP);
}
