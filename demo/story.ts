import type { TypedTerm } from '@core/agreements';
import { addDays, dec, type Day } from '@core/kernel';
import { openAgreement } from '../server/agreements';
import type { Database } from '../server/db';
import type { Actor } from '../server/sample/actor';
import type { Chance } from '@core/kernel';
import type { Masters } from '../server/sample/masters';
import { fixedTerm, PLAIN_HEAD } from '../server/sample/terms';
import type { Timetable } from '../server/sample/timetable';

/** How far an order is taken; each step includes the ones before it. */
const STEPS = ['draft', 'confirmed', 'placed', 'part', 'received', 'invoiced', 'vendor-invoiced', 'paid'] as const;
export type Far = (typeof STEPS)[number];

interface AgreementPlan {
  /** A customer's name, or a vendor's number. */
  customer: string;
  title: string;
  /** Days from the work date. */
  first: number;
  last: number;
  /** An item's number, or a group's code in an agreement by value. */
  lines: [covers: string, committed: string, price: string, change?: Partial<TypedTerm>][];
  head?: Partial<typeof PLAIN_HEAD>;
  /** Expected calls: item, quantity, days between them, first and last in days from the work date. */
  calls?: [item: string, quantity: string, every: number, from: number, to: number][];
  draft?: boolean;
  /** What else happens to it, by days from the work date. */
  also?: [on: number, does: (agreementId: number, on: Day) => Promise<void>][];
}

export interface ReleasePlan {
  /** Days from the work date on which it is released. */
  on: number;
  /** Item, quantity, days from release to ship date. */
  lines: [item: string, quantity: string, shipIn: number][];
  far: Far;
  shipTo?: number;
  reference?: string;
}

/** Tells the demo's year: agreements, releases and what became of each, as timed acts. */
export class Story {
  private references = 7700;
  constructor(
    private readonly database: Database,
    private readonly actor: Actor,
    private readonly masters: Masters,
    private readonly timetable: Timetable,
    private readonly chance: Chance,
    readonly workDate: Day,
  ) {}

  private day(offset: number): Day {
    return addDays(this.workDate, offset);
  }

  agreement(plan: AgreementPlan, releases: readonly ReleasePlan[]): void {
    const made = Math.min(plan.first - 3, 0);
    this.timetable.at(this.day(made), async () => {
      const [id] = await this.actor.does(
        'saveAgreement',
        {
          ...PLAIN_HEAD,
          ...this.partyOf(plan.customer),
          title: plan.title,
          firstDay: this.day(plan.first),
          lastDay: this.day(plan.last),
          signedOn: this.day(made),
          ...plan.head,
          lines: plan.lines.map(([covers, committed, price, change]) => {
            const item = this.masters.items.get(covers);
            const term = fixedTerm(item?.id ?? 0, committed, price, change);
            return item ? term : { ...term, itemId: null, groupId: this.masters.groups.get(covers)! };
          }),
        },
        this.day(made),
      );
      if (plan.draft) return;
      await this.actor.does('putInForce', { id, version: 1 }, this.day(made));
      if (plan.calls) await this.planCalls(id!, plan.calls, this.day(made));
      for (const [on, does] of plan.also ?? []) {
        this.timetable.at(this.day(on), () => does(id!, this.day(on)));
      }
      for (const release of releases) {
        this.timetable.at(this.day(release.on), () => this.release(id!, plan.customer, release));
      }
    });
  }

  private partyOf(name: string) {
    const customer = this.masters.customers.get(name);
    return customer
      ? { side: 'selling' as const, customerId: customer.id, vendorId: null }
      : { side: 'buying' as const, customerId: null, vendorId: this.masters.vendors.get(name)! };
  }

  /** One act on an agreement: its id and version are filled in. */
  act(name: string, input: Record<string, unknown>): (agreementId: number, on: Day) => Promise<void> {
    return async (agreementId, on) => {
      await this.actor.does(name, { agreementId, ...input }, on);
    };
  }

  /** A revision that changes some of the head's fields. // A15 */
  revision(reason: string, change: Record<string, unknown>): (agreementId: number, on: Day) => Promise<void> {
    return async (agreementId, on) => {
      const sheet = await openAgreement(this.database, this.masters.companyId, agreementId);
      const { id, version, title, firstDay, lastDay, signedOn } = sheet;
      const { limitPolicy, tolerancePercent, probabilityPercent, notes } = sheet;
      await this.actor.does(
        'reviseAgreement',
        {
          ...{ id, version, title, firstDay, lastDay, signedOn },
          ...{ limitPolicy, tolerancePercent, probabilityPercent, notes },
          side: sheet.side,
          basis: sheet.basis,
          customerId: sheet.party.id,
          vendorId: null,
          salesOrganisationId: null,
          priority: String(sheet.priority),
          rebate: sheet.rebate,
          reminders: sheet.reminders.map(({ kind, at }) => ({ kind, at })),
          releaseAhead: sheet.releaseAhead,
          reason,
          reprice: false,
          lines: sheet.lines.map((line) => ({
            id: line.id,
            itemId: line.item?.id ?? null,
            groupId: line.group?.id ?? null,
            committed: line.committed,
            priceKind: line.priceKind,
            priceValue: line.priceValue,
            breaks: line.breaks,
            leastRelease: line.leastRelease,
            releaseMultiple: line.releaseMultiple,
            notes: line.notes,
          })),
          ...change,
        },
        on,
      );
    };
  }

  private async planCalls(agreementId: number, plans: NonNullable<AgreementPlan['calls']>, today: Day): Promise<void> {
    const lines = await this.database.rows<{ id: number; itemId: number }>(
      'SELECT id, item_id FROM agreement_line WHERE agreement_id = ?',
      [agreementId],
    );
    await this.actor.does(
      'savePlan',
      {
        id: agreementId,
        version: 2,
        lines: plans.map(([item, quantity, every, from, to]) => ({
          agreementLineId: lines.find((line) => line.itemId === this.masters.items.get(item)!.id)!.id,
          calls: Array.from({ length: Math.floor((to - from) / every) + 1 }, (_, index) => ({
            day: this.day(from + index * every),
            quantity,
            skipped: false,
            rule: every % 7 === 0 ? `FREQ=WEEKLY;INTERVAL=${every / 7}` : '',
          })),
        })),
      },
      today,
    );
  }

  private async release(agreementId: number, customerName: string, plan: ReleasePlan): Promise<void> {
    const today = this.day(plan.on);
    const customer = this.masters.customers.get(customerName);
    const lines = await this.database.rows<{ id: number; itemId: number | null; itemGroupId: number | null }>(
      'SELECT id, item_id, item_group_id FROM agreement_line WHERE agreement_id = ?',
      [agreementId],
    );
    const groups = await this.database.rows<{ id: number; itemGroupId: number }>('SELECT id, item_group_id FROM item');
    this.references += this.chance.whole(1, 9);
    const [orderId] = await this.actor.does(
      'releaseAgreement',
      {
        agreementId,
        shipToId: customer?.shipTos[plan.shipTo ?? 0] ?? null,
        customerReference: plan.reference ?? (customer?.referenceRequired ? `R-${this.references}` : ''),
        lines: plan.lines.map(([item, quantity, shipIn]) => {
          const itemId = this.masters.items.get(item)!.id;
          const groupId = groups.find((each) => each.id === itemId)!.itemGroupId;
          const line =
            lines.find((each) => each.itemId === itemId) ?? lines.find((each) => each.itemGroupId === groupId)!;
          return { agreementLineId: line.id, itemId, quantity, shipDate: addDays(today, shipIn) };
        }),
      },
      today,
    );
    if (customer) await this.follow(orderId!, plan, today);
    else this.followPurchase(orderId!, plan, today);
  }

  /** Takes a purchase for our own stock as far as its plan says. */
  private followPurchase(purchaseId: number, plan: ReleasePlan, placed: Day): void {
    const reaches = (step: Far) => STEPS.indexOf(plan.far) >= STEPS.indexOf(step);
    if (!reaches('received')) return;
    const comes = addDays(placed, Math.max(...plan.lines.map(([, , shipIn]) => shipIn)));
    this.timetable.at(comes, async () => {
      const lines = await this.database.rows<{ id: number; quantity: string }>(
        'SELECT id, quantity FROM purchase_order_line WHERE purchase_order_id = ?',
        [purchaseId],
      );
      const all = lines.map((line) => ({ lineId: line.id, quantity: dec(line.quantity).toFixed() }));
      await this.actor.does('receiveGoods', { purchaseId, lines: all }, comes);
    });
    if (!reaches('vendor-invoiced')) return;
    const invoices = addDays(comes, 3);
    this.timetable.at(invoices, () => this.vendorInvoice(purchaseId, invoices));
  }

  /** Takes an order as far as its plan says, each step on its own day. */
  private async follow(orderId: number, plan: ReleasePlan, released: Day): Promise<void> {
    const reaches = (step: Far) => STEPS.indexOf(plan.far) >= STEPS.indexOf(step);
    if (!reaches('confirmed')) return;
    await this.actor.does('confirmOrder', { id: orderId, version: 1 }, released);
    if (!reaches('placed')) return;
    const purchases = await this.place(orderId, released);
    if (!reaches('part')) return;
    const moves = addDays(released, Math.max(...plan.lines.map(([, , shipIn]) => shipIn)));
    this.timetable.at(moves, () => this.ship(orderId, moves, plan.far === 'part'));
    if (!reaches('invoiced')) return;
    const invoices = addDays(moves, 1);
    this.timetable.at(invoices, async () => {
      await this.actor.does('invoiceCustomer', { orderId }, invoices);
    });
    if (!reaches('vendor-invoiced')) return;
    const vendorInvoices = addDays(moves, 3);
    for (const purchaseId of purchases) {
      this.timetable.at(vendorInvoices, () => this.vendorInvoice(purchaseId, vendorInvoices));
    }
    if (!reaches('paid')) return;
    const pays = addDays(moves, this.chance.whole(20, 34));
    this.timetable.at(pays, () => this.pay(orderId, pays));
  }

  private async place(orderId: number, today: Day): Promise<number[]> {
    const lines = await this.database.rows<{ id: number; vendorId: number }>(
      `SELECT l.id, v.vendor_id FROM sales_order_line l
         JOIN item_vendor v ON v.company_id = l.company_id AND v.item_id = l.item_id
         JOIN vendor w ON w.company_id = v.company_id AND w.id = v.vendor_id
         JOIN company k ON k.id = l.company_id AND k.currency = w.currency
        WHERE l.order_id = ? AND l.on_bench = TRUE ORDER BY l.id, v.preferred DESC, v.unit_price`,
      [orderId],
    );
    const chosen = [...new Map(lines.reverse().map((line) => [line.id, line.vendorId]))].sort((a, b) => a[0] - b[0]);
    if (chosen.length === 0) return [];
    return this.actor.does(
      'placePurchases',
      { lines: chosen.map(([orderLineId, vendorId]) => ({ orderLineId, vendorId })) },
      today,
    );
  }

  private async ship(orderId: number, today: Day, part: boolean): Promise<void> {
    const lines = await this.database.rows<{ id: number; quantity: string }>(
      'SELECT id, quantity FROM sales_order_line WHERE order_id = ? ORDER BY line_no',
      [orderId],
    );
    await this.actor.does(
      'shipLines',
      {
        orderId,
        lines: lines.map((line) => ({
          lineId: line.id,
          quantity: part ? dec(line.quantity).times(2).div(3).round(0, 0).toFixed() : dec(line.quantity).toFixed(),
        })),
      },
      today,
    );
  }

  private async vendorInvoice(purchaseId: number, today: Day): Promise<void> {
    const lines = await this.database.rows<{ id: number; received: string; unitPrice: string }>(
      'SELECT id, received, unit_price FROM purchase_order_line WHERE purchase_order_id = ? ORDER BY line_no',
      [purchaseId],
    );
    await this.actor.does(
      'enterVendorInvoice',
      {
        purchaseId,
        vendorNumber: `INV-${20_000 + purchaseId * 7}`,
        invoiceDate: today,
        lines: lines.map((line) => ({
          purchaseLineId: line.id,
          quantity: dec(line.received).toFixed(),
          // Now and then the vendor charges a little more than was ordered.
          unitPrice:
            this.chance.next() < 0.2
              ? dec(line.unitPrice).times('1.02').round(2).toFixed()
              : dec(line.unitPrice).toFixed(),
        })),
      },
      today,
    );
  }

  private async pay(orderId: number, today: Day): Promise<void> {
    const [item] = await this.database.rows<{ id: number; amount: string }>(
      `SELECT oi.id, oi.amount - oi.settled AS amount FROM open_item oi JOIN customer_invoice i ON i.company_id = oi.company_id AND i.id = oi.customer_invoice_id
        WHERE i.order_id = ? AND oi.settled < oi.amount`,
      [orderId],
    );
    if (!item) return;
    await this.actor.does(
      'recordPayment',
      { openItemId: item.id, amount: dec(item.amount).toFixed(), paidOn: today },
      today,
    );
  }
}
