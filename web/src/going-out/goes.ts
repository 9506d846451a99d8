import type { Row } from './by-day';

/** A row as far as it can go out. */
export const goesOf = (row: Row) => ({
  id: row.lineId,
  customerId: row.customer.id,
  shipToId: row.shipTo.id,
  locationId: row.location.id,
  now: row.now,
});
