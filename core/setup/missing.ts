/** What a company has by now, as far as a first order needs it. */
export interface Standing {
  items: number;
  /** Items without a price to sell them at. */
  unpriced: number;
  customers: number;
  /** Customers without an address goods go to. */
  unaddressed: number;
  vendors: number;
  /** Bought items no vendor is known of. */
  unbought: number;
  /** Items we keep of which none was ever put on hand. */
  neverStocked: number;
  people: number;
  orders: number;
  /** Our paper says where money is to go. */
  hasBank: boolean;
}

/** One thing that is still missing: a sentence, and where it is done. // U1 */
export interface Missing {
  what: 'items' | 'prices' | 'customers' | 'addresses' | 'vendors' | 'stock' | 'order' | 'bank' | 'people';
  /** Without it no order can be taken. */
  needed: boolean;
  count: number;
}

/** What is still missing before a first order, what is needed first, then what is worth doing; the list empties itself. // U1 */
export function missingBefore(standing: Standing): Missing[] {
  const { items, unpriced, customers, unaddressed, vendors, unbought, neverStocked, people, orders, hasBank } =
    standing;
  const all: (Missing & { is: boolean })[] = [
    { what: 'items', needed: true, count: 0, is: items === 0 },
    { what: 'customers', needed: true, count: 0, is: customers === 0 },
    { what: 'addresses', needed: true, count: unaddressed, is: unaddressed > 0 },
    { what: 'order', needed: true, count: 0, is: orders === 0 && items > 0 && customers > 0 },
    { what: 'prices', needed: false, count: unpriced, is: unpriced > 0 },
    { what: 'vendors', needed: false, count: unbought, is: items > 0 && (vendors === 0 || unbought > 0) },
    { what: 'stock', needed: false, count: neverStocked, is: neverStocked > 0 },
    { what: 'bank', needed: false, count: 0, is: !hasBank },
    { what: 'people', needed: false, count: 0, is: people < 2 },
  ];
  return all.filter(({ is }) => is).map(({ what, needed, count }) => ({ what, needed, count }));
}
