import type { Visitor, World } from './world';

export interface OrderOut {
  version: number;
  number: string;
  state: string;
  lines: { id: number; tied: string; reserved: string; shipped: string; needsPurchase: boolean; free: string }[];
}
export interface PurchaseOut {
  version: number;
  customer: { name: string } | null;
  lines: {
    id: number;
    quantity: string;
    received: string;
    untied: string;
    ties: { id: number; quantity: string; received: string; differs: string }[];
  }[];
}
export interface CandidateOut {
  rows: { lineId: number; fits: string; late: boolean; document: { id: number; number: string } }[];
}

/** What tests of supply do again and again: orders, purchases, goods, as one person. */
export function supplyDesk(world: () => World, person: () => Visitor) {
  const customer = (name: string) => world().masters.customers.get(name)!;
  /** A confirmed order of one customer; its lines' ids. */
  async function ordered(
    who: string,
    ...lines: { item: string; quantity: string; route: string; shipDate?: string }[]
  ): Promise<{ id: number; lineIds: number[] }> {
    const [order] = await person().does('saveOrder', {
      id: null,
      version: null,
      customerId: customer(who).id,
      shipToId: customer(who).shipTos[0],
      customerReference: 'R-1',
      lines: lines.map(({ item, quantity, route, shipDate }) => ({
        id: null,
        itemId: world().item(item),
        quantity,
        route,
        shipDate: shipDate ?? '2027-03-20',
      })),
    });
    await person().does('confirmOrder', { id: order!.id, version: 1 });
    return { id: order!.id, lineIds: (await orderOf(order!.id)).lines.map((line) => line.id) };
  }
  const orderOf = (id: number) => person().get<OrderOut>(`/api/orders/${id}`);
  const purchaseOf = (id: number) => person().get<PurchaseOut>(`/api/purchases/${id}`);
  const vendor = (number: string) => world().masters.vendors.get(number)!;
  const place = (...lines: { orderLineId: number; vendorId: number; quantity?: string }[]) =>
    person().does('placePurchases', { lines });
  const receive = (purchaseId: number, lineId: number, quantity: string) =>
    person().does('receiveGoods', { purchaseId, lines: [{ lineId, quantity }] });
  const ship = (orderId: number, ...lines: [number, string][]) =>
    person().does('shipLines', { orderId, lines: lines.map(([lineId, quantity]) => ({ lineId, quantity })) });
  return { customer, ordered, orderOf, purchaseOf, vendor, place, receive, ship };
}
