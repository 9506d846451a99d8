import { type Chance } from '@core/kernel';
import { type Visitor, type World, WORK_DATE } from './world';

interface OrderOut {
  version: number;
  lines: { id: number; quantity: string; tied: string; shipped: string; reserved: string; route: string }[];
  documents: { document: { kind: string; id: number } }[];
}

interface PurchaseOut {
  version: number;
  lines: { id: number; quantity: string; received: string; unitPrice: string }[];
  documents: { document: { kind: string; id: number } }[];
}

export interface TieOut {
  tieId: number;
  quantity: string;
  shipDate: string;
  dueDate: string;
  shipToId: number;
  shipTos: { id: number }[];
}

interface Candidate {
  lineId: number;
  fits: string;
}

type Answer = { status: number; body: unknown } | null;

/** Random acts on orders, purchases and what ties them, as several people might send them. */
export class TieWalk {
  readonly orders: number[] = [];
  readonly purchases: number[] = [];
  readonly done = new Map<string, number>();
  refused = 0;

  constructor(
    readonly world: World,
    readonly visitor: Visitor,
    readonly chance: Chance,
    /** A second place of ours. */
    readonly east: number,
  ) {}

  async step(): Promise<void> {
    const [name, step] = this.chance.pick(WEIGHED);
    const answer = await step(this);
    if (!answer) return;
    // Anything but an answer or a refusal is a fault of ours.
    if (![200, 404, 409, 422].includes(answer.status)) throw new Error(`${name}: ${JSON.stringify(answer.body)}`);
    if (answer.status !== 200) {
      this.refused += 1;
      return;
    }
    this.done.set(name, (this.done.get(name) ?? 0) + 1);
    for (const { kind, id } of (answer.body as { made: { kind: string; id: number }[] }).made) {
      if (kind === 'SO') this.orders.push(id);
      if (kind === 'PO') this.purchases.push(id);
    }
  }

  quantity(most: number): string {
    const whole = this.chance.whole(1, Math.max(1, Math.ceil(most * 1.2)));
    return this.chance.next() < 0.15 ? `${whole - 1}.5` : String(whole);
  }

  async order(): Promise<(OrderOut & { id: number }) | null> {
    if (this.orders.length === 0) return null;
    const id = this.chance.pick(this.orders.slice(-8));
    return { id, ...(await this.visitor.get<OrderOut>(`/api/orders/${id}`)) };
  }

  async purchase(): Promise<(PurchaseOut & { id: number }) | null> {
    if (this.purchases.length === 0) return null;
    const id = this.chance.pick(this.purchases.slice(-8));
    return { id, ...(await this.visitor.get<PurchaseOut>(`/api/purchases/${id}`)) };
  }

  async ties(): Promise<TieOut[]> {
    const { rows } = await this.visitor.get<{ rows: TieOut[] }>('/api/ties');
    return rows.slice(0, 12);
  }
}

const CUSTOMER = 'Nilam Dialysis Centre';

export const VENDOR = 'V-101';

export const STEPS: Record<string, [weight: number, step: (walk: TieWalk) => Promise<Answer>]> = {
  order: [
    3,
    async (walk) => {
      const { id, shipTos } = walk.world.masters.customers.get(CUSTOMER)!;
      const [order] = await walk.visitor.does('saveOrder', {
        id: null,
        version: null,
        customerId: id,
        shipToId: walk.chance.pick(shipTos),
        customerReference: 'W',
        lines: Array.from({ length: walk.chance.whole(1, 2) }, () => ({
          id: null,
          itemId: walk.world.item(walk.chance.pick(['RO-4040', 'RO-2540'])),
          quantity: walk.quantity(12),
          route: walk.chance.pick(['drop', 'special']),
          locationId: walk.chance.pick([0, walk.east]),
          shipDate: walk.chance.pick(['2027-03-12', '2027-03-20']),
        })),
      });
      walk.orders.push(order!.id);
      return walk.visitor.raw('confirmOrder', { id: order!.id, version: 1 });
    },
  ],
  place: [
    4,
    async (walk) => {
      const { rows } = await walk.visitor.get<{
        rows: { orderLineId: number; route: string; quantity: string; offers: { vendorId: number }[] }[];
      }>('/api/bench');
      const lines = rows.slice(0, walk.chance.whole(1, 3)).map((row) => ({
        orderLineId: row.orderLineId,
        vendorId: row.offers[0]!.vendorId,
        ...(walk.chance.next() < 0.4 ? { quantity: walk.quantity(Number(row.quantity)) } : {}),
      }));
      return lines.length > 0 ? walk.visitor.raw('placePurchases', { lines }) : null;
    },
  ],
  enter: [
    4,
    (walk) =>
      walk.visitor.raw('enterPurchase', {
        vendorId: walk.world.masters.vendors.get(VENDOR),
        shipToId:
          walk.chance.next() < 0.5 ? null : walk.chance.pick(walk.world.masters.customers.get(CUSTOMER)!.shipTos),
        locationId: walk.chance.pick([0, walk.east]),
        lines: [
          {
            itemId: walk.world.item(walk.chance.pick(['RO-4040', 'RO-2540'])),
            quantity: walk.quantity(15),
            dueDate: '2027-03-15',
          },
        ],
      }),
  ],
  revise: [
    3,
    async (walk) => {
      const purchase = await walk.purchase();
      if (!purchase) return null;
      return walk.visitor.raw('changePurchase', {
        purchaseId: purchase.id,
        version: purchase.version,
        reason: 'They called',
        lines: [
          ...purchase.lines.map((line) => ({
            id: line.id,
            itemId: null,
            quantity: walk.chance.next() < 0.6 ? walk.quantity(Number(line.quantity) + 4) : line.quantity,
            price: walk.chance.next() < 0.2 ? '611.25' : '',
            dueDate: walk.chance.pick(['2027-03-10', '2027-03-15', '2027-03-25']),
          })),
          ...(walk.chance.next() < 0.3
            ? [
                {
                  id: null,
                  itemId: walk.world.item('RO-4040'),
                  quantity: walk.quantity(6),
                  price: '',
                  dueDate: '2027-03-18',
                },
              ]
            : []),
        ],
      });
    },
  ],
  giveUp: [
    1,
    async (walk) => {
      const purchase = await walk.purchase();
      if (!purchase) return null;
      const { id: purchaseId, version } = purchase;
      return walk.visitor.raw('cancelPurchase', { purchaseId, version, reason: 'Not wanted' });
    },
  ],
  untie: [
    2,
    async (walk) => {
      const ties = await walk.ties();
      if (ties.length === 0) return null;
      return walk.visitor.raw('untie', { tieIds: [walk.chance.pick(ties).tieId] });
    },
  ],
  'tie a line': [
    4,
    async (walk) => {
      const order = await walk.order();
      if (!order) return null;
      const line = walk.chance.pick(order.lines);
      const { rows } = await walk.visitor.get<{ rows: Candidate[] }>(`/api/order-lines/${line.id}/supplies`);
      const [first] = rows;
      if (!first) return null;
      return walk.visitor.raw('tieLine', {
        orderLineId: line.id,
        purchaseLineId: first.lineId,
        quantity: walk.chance.next() < 0.6 ? first.fits : walk.quantity(Number(first.fits)),
      });
    },
  ],
  'tie a purchase': [
    2,
    async (walk) => {
      const purchase = await walk.purchase();
      if (!purchase) return null;
      const line = walk.chance.pick(purchase.lines);
      const { rows } = await walk.visitor.get<{ rows: Candidate[] }>(`/api/purchase-lines/${line.id}/sales`);
      const [first] = rows;
      if (!first) return null;
      return walk.visitor.raw('tieLine', {
        orderLineId: first.lineId,
        purchaseLineId: line.id,
        quantity: walk.quantity(Number(first.fits)),
      });
    },
  ],
  'make an order': [
    4,
    async (walk) => {
      const purchase = await walk.purchase();
      if (!purchase) return null;
      const { id, version } = purchase;
      return walk.visitor.raw('orderFromPurchase', { purchaseId: id, version, customerReference: 'W' });
    },
  ],
  'to stock': [
    3,
    async (walk) => {
      const purchase = await walk.purchase();
      return purchase && walk.visitor.raw('purchaseToStock', { id: purchase.id, version: purchase.version });
    },
  ],
  'edit pairs': [
    6,
    async (walk) => {
      const ties = await walk.ties();
      if (ties.length === 0) return null;
      const chosen = Array.from({ length: walk.chance.whole(1, 4) }, () => walk.chance.pick(ties));
      return walk.visitor.raw('editPairs', {
        goodOnly: walk.chance.next() < 0.5,
        pairs: chosen.map((tie) => ({
          tieId: tie.tieId,
          was: { quantity: tie.quantity, shipDate: tie.shipDate, dueDate: tie.dueDate, shipToId: tie.shipToId },
          ...(walk.chance.next() < 0.7 ? { quantity: walk.quantity(Number(tie.quantity)) } : {}),
          ...(walk.chance.next() < 0.3 ? { dueDate: walk.chance.pick(['2027-03-10', '2027-03-30']) } : {}),
          ...(walk.chance.next() < 0.2 ? { shipToId: walk.chance.pick(tie.shipTos).id } : {}),
        })),
      });
    },
  ],
  receive: [
    6,
    async (walk) => {
      const purchase = await walk.purchase();
      if (!purchase) return null;
      return walk.visitor.raw('receiveGoods', {
        purchaseId: purchase.id,
        lines: purchase.lines.map((line) => ({ lineId: line.id, quantity: walk.quantity(Number(line.quantity) / 2) })),
      });
    },
  ],
  ship: [
    5,
    async (walk) => {
      const order = await walk.order();
      if (!order) return null;
      return walk.visitor.raw('shipLines', {
        orderId: order.id,
        lines: order.lines.map((line) => ({
          lineId: line.id,
          quantity: walk.quantity(
            line.route === 'special' ? Number(line.reserved) : Number(line.tied) - Number(line.shipped),
          ),
        })),
      });
    },
  ],
  reverse: [
    5,
    async (walk) => {
      const order = await walk.order();
      const moved = (order?.documents ?? []).filter(({ document }) => ['RC', 'SH'].includes(document.kind));
      if (moved.length === 0) return null;
      return walk.visitor.raw('reverseMovement', { ...walk.chance.pick(moved).document, reason: 'W' });
    },
  ],
  'take an invoice back': [
    3,
    async (walk) => {
      const order = await walk.order();
      const invoices = (order?.documents ?? []).filter(({ document }) => document.kind === 'CI');
      if (invoices.length === 0) return null;
      const invoiceId = walk.chance.pick(invoices).document.id;
      return walk.visitor.raw('creditInvoice', { invoiceId, kind: 'reversal', reason: 'W', lines: [] });
    },
  ],
  'their answer': [
    2,
    async (walk) => {
      const purchase = await walk.purchase();
      if (!purchase) return null;
      return walk.visitor.raw('answerPurchase', {
        purchaseId: purchase.id,
        version: purchase.version,
        lines: purchase.lines.map((line) => ({
          purchaseLineId: line.id,
          dueDate: walk.chance.pick(['2027-03-11', '2027-03-25']),
          stops: walk.chance.next() < 0.25,
        })),
      });
    },
  ],
  'take a vendor invoice back': [
    2,
    async (walk) => {
      const purchase = await walk.purchase();
      const invoices = (purchase?.documents ?? []).filter(({ document }) => document.kind === 'VI');
      if (invoices.length === 0) return null;
      return walk.visitor.raw('takeBackInvoice', { invoiceId: walk.chance.pick(invoices).document.id, reason: 'W' });
    },
  ],
  cancel: [
    1,
    async (walk) => {
      const order = await walk.order();
      if (!order) return null;
      const { rows } = await walk.visitor.get<{ rows: { purchase: { id: number }; fates: string[] }[] }>(
        `/api/orders/${order.id}/supplies`,
      );
      return walk.visitor.raw('cancelOrder', {
        id: order.id,
        version: order.version,
        // Now and then one is not said.
        supplies: rows
          .filter(() => walk.chance.next() < 0.9)
          .map(({ purchase, fates }) => ({ purchaseId: purchase.id, fate: walk.chance.pick(fates) })),
      });
    },
  ],
  supply: [
    3,
    async (walk) => {
      const order = await walk.order();
      if (!order) return null;
      return walk.visitor.raw('supplyLine', {
        orderLineId: walk.chance.pick(order.lines).id,
        route: walk.chance.pick(['drop', 'special', 'special']),
        ...(walk.chance.next() < 0.4 ? { locationId: walk.chance.pick([0, walk.east]) } : {}),
        reserve: walk.chance.next() < 0.5 ? '' : walk.chance.next() < 0.3 ? '0' : walk.quantity(6),
        lift: walk.chance.next() < 0.5,
      });
    },
  ],
  'close short': [
    1,
    async (walk) => {
      const order = await walk.order();
      if (!order) return null;
      return walk.visitor.raw('closeShort', {
        id: order.id,
        version: order.version,
        lineIds: [order.lines[0]!.id],
        reason: 'walked',
      });
    },
  ],
  invoice: [
    4,
    async (walk) => {
      const order = await walk.order();
      return order && walk.visitor.raw('invoiceCustomer', { orderId: order.id });
    },
  ],
  'vendor invoice': [
    4,
    async (walk) => {
      const purchase = await walk.purchase();
      if (!purchase) return null;
      return walk.visitor.raw('enterVendorInvoice', {
        purchaseId: purchase.id,
        vendorNumber: `T-${walk.chance.whole(1, 9999)}`,
        invoiceDate: WORK_DATE,
        lines: purchase.lines.map((line) => ({
          purchaseLineId: line.id,
          quantity: walk.quantity(Number(line.received)),
          unitPrice: line.unitPrice,
        })),
      });
    },
  ],
};

const WEIGHED = Object.entries(STEPS).flatMap(([name, [weight, step]]) =>
  Array.from({ length: weight }, (): [string, (walk: TieWalk) => Promise<Answer>] => [name, step]),
);

/** What must hold of ties whatever happened, counted from the tables alone. // L1 */
export async function brokenTies(world: World): Promise<unknown[]> {
  const { database } = world.serving;
  const beyondSupply = await database.rows(
    `SELECT pl.id FROM purchase_order_line pl JOIN tie t ON t.company_id = pl.company_id AND t.purchase_line_id = pl.id
      GROUP BY pl.id, pl.quantity HAVING SUM(t.quantity) > pl.quantity`,
  );
  const beyondSales = await database.rows(
    `SELECT sl.id FROM sales_order_line sl JOIN tie t ON t.company_id = sl.company_id AND t.order_line_id = sl.id
      GROUP BY sl.id, sl.quantity HAVING SUM(t.quantity) > sl.quantity`,
  );
  const otherAddress = await database.rows(
    `SELECT t.id FROM tie t JOIN sales_order_line sl ON sl.id = t.order_line_id JOIN sales_order o ON o.id = sl.order_id
       JOIN purchase_order_line pl ON pl.id = t.purchase_line_id JOIN purchase_order p ON p.id = pl.purchase_order_id
      WHERE t.open AND sl.route = 'drop' AND o.ship_to_id <> p.ship_to_id`,
  );
  return [...beyondSupply, ...beyondSales, ...otherAddress];
}
