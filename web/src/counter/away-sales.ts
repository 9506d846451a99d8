import { computed, inject, Injectable, signal } from '@angular/core';
import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import { firstValueFrom } from 'rxjs';
import { awayDue, type AwayLine, type ShelfItem } from '@core/counter';
import type { DocumentRef } from '@core/kernel';
import { Session } from '../access';
import { Refused, type RefusalShown } from '../kit/act/api';
import { Counter, type SellInput } from './service';

/** A sale made while the server was away, as it is kept on the device until it is there. // C6 */
export interface AwaySale {
  /** Its acts go by this, however often they are sent. // P2 */
  key: string;
  companyId: number;
  tillId: number;
  at: string;
  currency: string;
  lines: readonly AwayLine[];
  toPay: string;
  given: string;
  change: string;
  /** What is sold, once it is kept on the server: sent again word for word. */
  sell: SellInput | null;
  state: 'waits' | 'sent' | 'refused';
  refusals: readonly RefusalShown[];
  slip: DocumentRef | null;
}

interface Kept extends DBSchema {
  shelf: { key: number; value: { companyId: number; currency: string; at: string; rows: readonly ShelfItem[] } };
  sales: { key: string; value: AwaySale };
}

const SHELF_MS = 15 * 60_000;
const AGAIN_MS = 10_000;

/** What a device keeps to sell while the server is away, and the sales it made. Sent when the server is back, each once. // C6 */
@Injectable({ providedIn: 'root' })
export class AwaySales {
  private readonly counter = inject(Counter);
  private readonly session = inject(Session);
  private readonly kept: Promise<IDBPDatabase<Kept>> = openDB<Kept>('kampong-till', 1, {
    upgrade(database) {
      database.createObjectStore('shelf', { keyPath: 'companyId' });
      database.createObjectStore('sales', { keyPath: 'key' });
    },
  });
  private readonly all = signal<readonly AwaySale[]>([]);
  /** Of the company one works in, latest first. */
  readonly sales = computed(() =>
    this.all()
      .filter(({ companyId }) => companyId === this.companyId())
      .sort((a, b) => (a.at < b.at ? 1 : -1)),
  );
  readonly waiting = computed(() => this.sales().filter(({ state }) => state === 'waits').length);
  readonly shelf = signal<{ currency: string; at: string; rows: readonly ShelfItem[] } | null>(null);
  /** What this device knew before is read; nothing can be looked up in it until then. */
  readonly known: Promise<void>;
  private sending: Promise<void> | null = null;

  constructor() {
    this.known = this.read();
    window.addEventListener('online', () => void this.refresh());
    setInterval(() => {
      if (this.waiting() > 0) void this.send();
    }, AGAIN_MS);
  }

  private companyId(): number {
    return this.session.company()?.id ?? 0;
  }

  private async read(): Promise<void> {
    const database = await this.kept;
    this.all.set(await database.getAll('sales'));
    const shelf = await database.get('shelf', this.companyId());
    if (shelf) this.shelf.set(shelf);
  }

  /** Reads the shelf anew where it is old, and sends what waits; nothing where the server is away. */
  async refresh(): Promise<void> {
    await this.read();
    const at = this.shelf()?.at;
    if (at === undefined || Date.now() - Date.parse(at) > SHELF_MS) {
      try {
        const { currency, rows } = await firstValueFrom(this.counter.shelf());
        const shelf = { companyId: this.companyId(), currency, at: new Date().toISOString(), rows };
        await (await this.kept).put('shelf', shelf);
        this.shelf.set(shelf);
      } catch {
        // What is known goes on being known.
      }
    }
    await this.send();
  }

  /** Keeps a sale; it is sent as soon as it can be. */
  async keep(tillId: number, lines: readonly AwayLine[], given: string): Promise<AwaySale> {
    const currency = this.shelf()!.currency;
    const { toPay } = awayDue(lines, currency);
    const sale: AwaySale = {
      key: crypto.randomUUID(),
      companyId: this.companyId(),
      tillId,
      at: new Date().toISOString(),
      currency,
      lines,
      toPay: toPay.toFixed(),
      given,
      change: toPay.neg().plus(given).toFixed(),
      sell: null,
      state: 'waits',
      refusals: [],
      slip: null,
    };
    await this.put(sale);
    void this.send();
    return sale;
  }

  /** Tries one again that was refused. */
  async again(sale: AwaySale): Promise<void> {
    await this.put({ ...sale, state: 'waits', refusals: [] });
    await this.send();
  }

  /** Forgets one that is sent, or that somebody saw to. */
  async forget({ key }: AwaySale): Promise<void> {
    await (await this.kept).delete('sales', key);
    this.all.update((sales) => sales.filter((each) => each.key !== key));
  }

  /** Sends what waits, oldest first, one after the other; stops where the server is away. */
  send(): Promise<void> {
    this.sending ??= this.sendAll().finally(() => (this.sending = null));
    return this.sending;
  }

  private async sendAll(): Promise<void> {
    for (const sale of [...this.sales()].reverse()) {
      if (sale.state === 'waits' && !(await this.sendOne(sale))) return;
    }
  }

  private async sendOne(sale: AwaySale): Promise<boolean> {
    try {
      const sell = sale.sell ?? (await this.keepOnServer(sale));
      if (sale.sell === null) await this.put({ ...sale, sell });
      const { made } = await firstValueFrom(this.counter.sell(sell, `${sale.key}-sell`));
      await this.put({ ...sale, sell, state: 'sent', slip: made.find(({ kind }) => kind === 'SL') ?? null });
      return true;
    } catch (error) {
      if (!(error instanceof Refused) || error.status === 0 || error.status >= 500 || error.status === 401)
        return false;
      const now = this.all().find(({ key }) => key === sale.key) ?? sale;
      await this.put({ ...now, state: 'refused', refusals: error.refusals });
      return true;
    }
  }

  /** Keeps the order of a sale on the server, at the prices it was sold at; what is then sold of it. */
  private async keepOnServer(sale: AwaySale): Promise<SellInput> {
    const kept = await firstValueFrom(
      this.counter.keep(
        {
          id: null,
          version: null,
          tillId: sale.tillId,
          customerId: null,
          contactId: null,
          lines: sale.lines.map(({ item, quantity }) => ({
            id: null,
            itemId: item.id,
            quantity,
            price: item.price,
            reason: 'sold while the server was away',
          })),
        },
        `${sale.key}-keep`,
      ),
    );
    const orderId = kept.made.find(({ kind }) => kind === 'SO')!.id;
    const at = await firstValueFrom(this.counter.at([orderId], undefined, null));
    return {
      tillId: sale.tillId,
      orders: at.orders.map(({ order, version }) => ({ id: order.id, version })),
      // All of it left with who bought it, whatever lies here by the books.
      take: at.lines.map(({ id, toGo }) => ({ lineId: id, quantity: toGo })),
      later: false,
      cash: sale.toPay,
      cardIds: [],
      vouchers: [],
      onAccount: false,
    };
  }

  private async put(sale: AwaySale): Promise<void> {
    await (await this.kept).put('sales', sale);
    this.all.update((sales) => [...sales.filter(({ key }) => key !== sale.key), sale]);
  }
}
