import { readTypedDecimal } from '@core/kernel';

/** A line of the day's sheet, as far as it can go out now. */
interface Goes {
  id: number;
  customerId: number;
  shipToId: number;
  locationId: number;
  /** What of it can go now. */
  now: string;
}

export interface SentOut {
  lines: { lineId: number; quantity: string }[];
  /** Shipments it makes: one a customer, address and place. */
  shipments: number;
}

/**
 * What of marked lines goes out, with how many shipments: what was typed for a line, or else what can go of it. A typed
 * nothing leaves the line out; what is no quantity is left as it was typed, to be refused where it stands. // S9
 */
export function sentOut(marked: readonly Goes[], typed: ReadonlyMap<number, string>): SentOut {
  const going = marked.flatMap((line) => {
    const said = typed.get(line.id)?.trim();
    const read = said === undefined ? line.now : (readTypedDecimal(said, 'quantity') ?? said);
    return read === '' || read === '0' ? [] : [{ line, quantity: read }];
  });
  const places = new Set(going.map(({ line }) => `${line.customerId} ${line.shipToId} ${line.locationId}`));
  return { lines: going.map(({ line, quantity }) => ({ lineId: line.id, quantity })), shipments: places.size };
}
