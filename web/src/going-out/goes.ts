import type { Row } from './by-day';

/** A row as far as it can go out. */
export const goesOf = (row: Row) => ({
  id: row.lineId,
  orderId: row.order.id,
  customerId: row.customer.id,
  shipToId: row.shipTo.id,
  locationId: row.location.id,
  open: row.open,
  now: row.now,
});
