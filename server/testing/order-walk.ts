import { NO_REBATE } from '@core/agreements';
import { type Chance } from '@core/kernel';
import { fixedTerm, PLAIN_HEAD } from '../sample/terms';
import { releaseOf, type World, WORK_DATE, type Visitor } from './world';

interface OrderSheet {
  id: number;
  version: number;
  state: string;
  shipTo: { id: number } | null;
  customerReference: string;
  lines: {
    id: number;
    closedShort: boolean;
    item: { id: number };
    quantity: string;
    cancelled: string;
    shipped: string;
    invoiced: string;
    tied: string;
    shipDate: string;
    route: string;
  }[];
}

/** One step of a random walk: picks its own input from what the server shows; refused or done, both are answers. */
type Step = (walk: Walk) => Promise<{ status: number; body: unknown } | null>;

/** Random acts on a few agreements, orders and purchases, as anybody might send them. */
export class Walk {
  readonly orders: number[] = [];
  readonly purchases: number[] = [];
  readonly done = new Map<string, number>();
  readonly refused = new Map<string, number>();

  constructor(
    readonly world: World,
    readonly visitor: Visitor,
    readonly agreements: readonly { id: number; lineId: number }[],
    readonly chance: Chance,
  ) {}

  async step(): Promise<void> {
    const [name, step] = this.chance.pick(WEIGHED);
    const answer = await step(this);
    if (!answer) return;
    const counted = answer.status === 200 ? this.done : this.refused;
    counted.set(name, (counted.get(name) ?? 0) + 1);
    // Anything but an answer or a refusal is a fault of ours.
    expect([200, 409, 422]).toContain(answer.status);
    if (answer.status !== 200) return;
    for (const { kind, id } of (answer.body as { made: { kind: string; id: number }[] }).made) {
      if (kind === 'SO') this.orders.push(id);
      if (kind === 'PO') this.purchases.push(id);
    }
  }

  async order(): Promise<OrderSheet | null> {
    if (this.orders.length === 0) return null;
    return this.visitor.get<OrderSheet>(`/api/orders/${this.chance.pick(this.orders.slice(-6))}`);
  }

  /** A quantity up to a little more than is there, now and then not whole. */
  quantity(most: number): string {
    const whole = this.chance.whole(1, Math.max(1, Math.ceil(most * 1.2)));
    return this.chance.next() < 0.2 ? `${whole - 1}.${this.chance.pick(['5', '25', '00001'])}` : String(whole);
  }
}

export const STEPS: readonly [string, Step][] = [
  ['release', releaseStep],
  [
    'change',
    async (walk) => {
      const order = await walk.order();
      if (!order) return null;
      const kept = order.lines.filter(() => walk.chance.next() < 0.8);
      return walk.visitor.raw('saveOrder', {
        id: order.id,
        version: order.version,
        customerId: null,
        shipToId: order.shipTo?.id ?? null,
        customerReference: order.customerReference,
        lines: kept.map((line) => ({
          id: line.id,
          itemId: line.item.id,
          quantity: walk.chance.next() < 0.5 ? line.quantity : walk.quantity(Number(line.quantity)),
          shipDate: line.shipDate,
          route: line.route,
        })),
      });
    },
  ],
  ['confirm', onOrder('confirmOrder')],
  [
    'cancel',
    // Seldom: what is cancelled goes no further.
    async (walk) => (walk.chance.next() < 0.3 ? onOrder('cancelOrder')(walk) : null),
  ],
  [
    'place',
    async (walk) => {
      const { rows } = await walk.visitor.get<{ rows: { orderLineId: number; offers: { vendorId: number }[] }[] }>(
        '/api/bench',
      );
      const chosen = rows.slice(0, walk.chance.whole(1, 3));
      if (chosen.length === 0) return null;
      return walk.visitor.raw('placePurchases', {
        lines: chosen.map((row) => ({ orderLineId: row.orderLineId, vendorId: row.offers[0]!.vendorId })),
      });
    },
  ],
  [
    'receive',
    async (walk) => {
      if (walk.purchases.length === 0) return null;
      const id = walk.chance.pick(walk.purchases.slice(-6));
      const sheet = await walk.visitor.get<{ lines: { id: number; quantity: string }[] }>(`/api/purchases/${id}`);
      return walk.visitor.raw('receiveGoods', {
        purchaseId: id,
        lines: sheet.lines.map((line) => ({ lineId: line.id, quantity: walk.quantity(Number(line.quantity) / 2) })),
      });
    },
  ],
  [
    'ship',
    async (walk) => {
      const order = await walk.order();
      if (!order) return null;
      return walk.visitor.raw('shipLines', {
        orderId: order.id,
        lines: order.lines
          .slice(0, walk.chance.whole(1, 2))
          .map((line) => ({ lineId: line.id, quantity: walk.quantity(Number(line.tied) - Number(line.shipped)) })),
      });
    },
  ],
  ['invoice', invoiceStep],
  [
    'vendor invoice',
    async (walk) => {
      if (walk.purchases.length === 0) return null;
      const id = walk.chance.pick(walk.purchases);
      const sheet = await walk.visitor.get<{ lines: { id: number; received: string; unitPrice: string }[] }>(
        `/api/purchases/${id}`,
      );
      return walk.visitor.raw('enterVendorInvoice', {
        purchaseId: id,
        vendorNumber: `W-${walk.chance.whole(1, 40)}`,
        invoiceDate: WORK_DATE,
        lines: sheet.lines.map((line) => ({
          purchaseLineId: line.id,
          quantity: walk.quantity(Number(line.received)),
          unitPrice: walk.chance.next() < 0.5 ? line.unitPrice : '611.37',
        })),
      });
    },
  ],
  ['close short', closeStep],
  ['open again', openAgainStep],
  ['change what is confirmed', changeStep],
  [
    'order without a release',
    (walk) =>
      walk.visitor.raw('saveOrder', {
        id: null,
        version: null,
        customerId: walk.world.masters.customers.get('Teratai Bay Resort')!.id,
        shipToId: walk.world.masters.customers.get('Teratai Bay Resort')!.shipTos[0],
        customerReference: 'TBR-plain',
        lines: [
          {
            id: null,
            itemId: walk.world.item('RO-4040'),
            quantity: walk.quantity(9),
            shipDate: '2027-03-20',
            route: 'drop',
            ...(walk.chance.next() < 0.3 ? { agreementLineId: null } : {}),
          },
        ],
      }),
  ],
  ['credit', creditStep],
  [
    'prepay',
    (walk) => {
      const { id, lineId } = walk.chance.pick(walk.agreements);
      return walk.visitor.raw('takePrepayment', {
        agreementId: id,
        agreementLineId: walk.chance.next() < 0.4 ? lineId : null,
        amount: String(walk.chance.whole(100, 3000)),
        takenOn: WORK_DATE,
      });
    },
  ],
  ['settle', (walk) => walk.visitor.raw('settleRebate', { agreementId: walk.chance.pick(walk.agreements).id })],
  ['revise', reviseStep],
  [
    'pay',
    async (walk) => {
      const { rows } = await walk.visitor.get<{ rows: { document: { id: number }; owed: string }[] }>(
        '/api/invoices?side=customer&open=yes',
      );
      if (rows.length === 0) return null;
      const row = walk.chance.pick(rows);
      const { openItemId } = await walk.visitor.get<{ openItemId: number }>(
        `/api/customer-invoices/${row.document.id}`,
      );
      const amount = walk.chance.next() < 0.5 ? row.owed : walk.quantity(Number(row.owed)).replace('.00001', '.01');
      return walk.visitor.raw('recordPayment', { openItemId, amount, paidOn: WORK_DATE });
    },
  ],
];

/** How often a step is taken against the others: orders must reach their invoices for the rest to have anything to do. */
const WEIGHTS: Record<string, number> = {
  release: 2,
  confirm: 4,
  place: 3,
  receive: 5,
  ship: 3,
  invoice: 8,
  settle: 2,
  'close short': 2,
  'open again': 2,
  'change what is confirmed': 3,
};

const WEIGHED = STEPS.flatMap((step) => Array<(typeof STEPS)[number]>(WEIGHTS[step[0]] ?? 1).fill(step));

function releaseStep(walk: Walk) {
  const agreement = walk.chance.pick(walk.agreements);
  const line = { agreementLineId: agreement.lineId, itemId: walk.world.item('RO-4040'), shipDate: '2027-03-12' };
  return walk.visitor.raw(
    'releaseAgreement',
    releaseOf(walk.world, agreement, '', { lines: [{ ...line, quantity: walk.quantity(12) }] }),
  );
}

async function closeStep(walk: Walk) {
  const order = await walk.order();
  if (!order) return null;
  const lineIds = order.lines.slice(0, 1).map((line) => line.id);
  return walk.visitor.raw('closeShort', { id: order.id, version: order.version, lineIds, reason: 'walked' });
}

async function openAgainStep(walk: Walk) {
  // Some line of the last orders that was closed short, now and then one that was not.
  for (const id of walk.orders.slice(-12).reverse()) {
    const order = await walk.visitor.get<OrderSheet>(`/api/orders/${id}`);
    if (!order.lines.some(({ closedShort }) => closedShort) && walk.chance.next() < 0.9) continue;
    const lineIds = order.lines.map((line) => line.id);
    return walk.visitor.raw('openAgain', { id: order.id, version: order.version, lineIds });
  }
  return null;
}

/** Quantities and days of a confirmed order, now and then a line more. // S8 */
async function changeStep(walk: Walk) {
  const order = await walk.order();
  if (!order) return null;
  const more = walk.chance.next() < 0.3;
  const added = { id: null, itemId: walk.world.item('RO-4040'), quantity: walk.quantity(4), route: 'drop' };
  return walk.visitor.raw('changeOrder', {
    id: order.id,
    version: order.version,
    shipToId: order.shipTo?.id ?? null,
    customerReference: order.customerReference,
    reason: 'walked',
    lines: [
      ...order.lines.map((line) => ({
        id: line.id,
        itemId: line.item.id,
        quantity: walk.chance.next() < 0.4 ? line.quantity : walk.quantity(Number(line.quantity)),
        shipDate: walk.chance.next() < 0.7 ? line.shipDate : '2027-04-09',
        route: line.route,
      })),
      ...(more ? [{ ...added, shipDate: '2027-03-22' }] : []),
    ],
  });
}

/** Part of an invoice comes back, or its price is put right. */
async function creditStep(walk: Walk) {
  const { rows } = await walk.visitor.get<{ rows: { document: { id: number } }[] }>('/api/invoices?side=customer');
  if (rows.length === 0) return null;
  const { id } = walk.chance.pick(rows.slice(0, 8)).document;
  const sheet = await walk.visitor.get<{ lines: { id: number; creditable: string | null; unitPrice: string }[] }>(
    `/api/customer-invoices/${id}`,
  );
  const kind = walk.chance.next() < 0.6 ? 'return' : 'price';
  return walk.visitor.raw('creditInvoice', {
    invoiceId: id,
    kind,
    reason: 'As agreed on the telephone',
    lines: sheet.lines.map((line) => ({
      invoiceLineId: line.id,
      quantity: kind === 'return' ? walk.quantity(Number(line.creditable ?? '0') / 2) : '',
      unitPrice: kind === 'price' ? (Number(line.unitPrice) - walk.chance.whole(-1, 9)).toFixed(2) : '',
    })),
  });
}

/** Other tiers, a rebate begun or left, another price: open lines repriced or not. */
async function reviseStep(walk: Walk) {
  const { id, lineId } = walk.chance.pick(walk.agreements);
  const sheet = await walk.visitor.get<{ version: number; side: string; basis: string; party: { id: number } }>(
    `/api/agreements/${id}`,
  );
  const byValue = sheet.basis === 'value';
  const line = byValue
    ? {
        ...fixedTerm(0, '30000', '10'),
        itemId: null,
        priceKind: 'discount' as const,
        priceValue: walk.chance.pick(['8', '10']),
      }
    : fixedTerm(walk.world.item('RO-4040'), '45', walk.chance.pick(['740', '735.55']));
  return walk.visitor.raw('reviseAgreement', {
    ...PLAIN_HEAD,
    id,
    version: sheet.version,
    side: sheet.side,
    basis: sheet.basis,
    customerId: sheet.party.id,
    firstDay: '2027-01-01',
    lastDay: '2027-12-31',
    limitPolicy: 'split',
    rebate: walk.chance.pick([
      NO_REBATE,
      {
        kind: 'whole',
        by: 'value',
        tiers: [
          { from: '500', rate: '2' },
          { from: '9000', rate: '3.5' },
        ],
      },
      {
        kind: 'step',
        by: 'quantity',
        tiers: [
          { from: '1', rate: '4.25' },
          { from: '20', rate: '11.1' },
        ],
      },
    ]),
    reason: 'Agreed anew',
    reprice: walk.chance.next() < 0.5,
    lines: [{ ...line, id: lineId }],
  });
}

function onOrder(act: string): Step {
  return async (walk) => {
    const order = await walk.order();
    return order && walk.visitor.raw(act, { id: order.id, version: order.version });
  };
}

async function invoiceStep(walk: Walk) {
  const order = await walk.order();
  return order && walk.visitor.raw('invoiceCustomer', { orderId: order.id });
}
