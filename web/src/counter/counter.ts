import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  linkedSignal,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { Title } from '@angular/platform-browser';
import { Router, RouterLink } from '@angular/router';
import { concatMap, finalize, map, of, type Observable } from 'rxjs';
import { inCash } from '@core/counter';
import { currencyPlaces, dec, inUnits, sum } from '@core/kernel';
import { Session } from '../access';
import { refusalsOf, type RefusalShown } from '../kit/act/api';
import { Notices } from '../kit/act/notices';
import { Refusals } from '../kit/act/refusals';
import { Sheets } from '../kit/act/sheet';
import { Bead } from '../kit/charts/bead';
import { pathOf } from '../kit/documents';
import { counted, day, moment, money, price, quantity } from '../kit/formats';
import { liveDocument } from '../kit/live/live';
import { AwaySales } from './away-sales';
import { CounterPlaces } from './places';
import { OpenDrawerSheet } from './drawer-sheets';
import { OneField, type Chosen } from './one-field';
import { Counter, type TillLine, type TillNow } from './service';
import { SlipWriting } from './slip-writing';
import { tillKey } from './till-here';

interface PayBead {
  name: string;
  amount: string;
  share: number;
  words: string;
  /** A card payment that is taken for this slip and may be given back. */
  cardId?: number;
}

/**
 * A slip that is being written, and one field under it that takes anything. At the counter it is kept for the till; at the
 * till it is paid: handed over, invoiced and paid in one act. // C1 C2 C3
 */
@Component({
  selector: 'k-counter',
  imports: [Bead, CounterPlaces, OneField, Refusals, RouterLink],
  templateUrl: './counter.html',
  styleUrl: './counter.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '(document:keydown.control.enter)': 'step($event)' },
})
export class CounterPage {
  private readonly counter = inject(Counter);
  private readonly session = inject(Session);
  private readonly sheets = inject(Sheets);
  private readonly notices = inject(Notices);
  private readonly router = inject(Router);
  protected readonly away = inject(AwaySales);
  private readonly field = viewChild(OneField);
  /** At the till, where it is paid; else at the counter, where it is kept. */
  readonly sells = input(false);
  /** An order to be called up, by the address. */
  readonly order = input<string>();
  private readonly key = tillKey(this.session.company()?.id);

  protected readonly tills = liveDocument(
    signal(null),
    () => this.counter.tills().pipe(map(({ rows }) => rows)),
    (document) => document.kind === 'DR' || document.kind === 'SO' || document.kind === 'SL',
  );
  private readonly chosenTill = signal(Number(localStorage.getItem(this.key) ?? '0'));
  protected readonly till = computed<TillNow | null>(() => {
    const tills = this.tills.state().value ?? [];
    return tills.find(({ id }) => id === this.chosenTill()) ?? tills[0] ?? null;
  });
  protected readonly waiting = liveDocument(
    signal(null),
    () => this.counter.waiting().pipe(map(({ rows }) => rows)),
    (document) => document.kind === 'SO' || document.kind === 'SL',
  );
  protected readonly slip = new SlipWriting(this.counter, () => this.till()?.id ?? null);
  /** Who buys, where they were named before anything was written. */
  protected readonly named = signal('');
  protected readonly currency = computed(() => this.till()?.currency ?? this.session.company()?.currency ?? 'MYR');
  protected readonly due = computed(() => this.slip.read()?.due ?? null);
  /** How it is paid, for the slip as it stands: money that comes in is given up where another slip is begun. */
  protected readonly cash = linkedSignal<string, string>({
    source: () => this.slip.orderIds().join(),
    computation: () => '',
  });
  protected readonly onAccount = linkedSignal<string, boolean>({
    source: () => this.slip.orderIds().join(),
    computation: () => false,
  });
  protected readonly vouchers = linkedSignal<string, readonly number[]>({
    source: () => this.slip.orderIds().join(),
    computation: () => [],
  });
  protected readonly selling = signal(false);
  private readonly sold = signal<readonly RefusalShown[]>([]);
  protected readonly refusals = computed(() => [...this.slip.refusals(), ...this.sold()]);
  /** Numbers of pieces, as they are typed, by line. // P6 */
  protected readonly numbers = signal<ReadonlyMap<number, string>>(new Map());

  protected readonly takenOf = (line: TillLine) =>
    this.slip.read()?.taken.find(({ lineId }) => lineId === line.id)?.quantity ?? '0';
  protected readonly cards = computed(() => this.slip.read()?.cards ?? []);
  private readonly vouched = computed(() => {
    let rest = dec(this.due()?.invoiced ?? '0');
    return (this.slip.read()?.vouchers ?? [])
      .filter(({ creditNoteId }) => this.vouchers().includes(creditNoteId))
      .map(({ number, left }) => {
        const amount = rest.lt(left) ? rest : dec(left);
        rest = rest.minus(amount);
        return { number, amount };
      });
  });
  /** What is to pay yet, once cards and vouchers are counted. */
  protected readonly rest = computed(() => {
    const carded = sum(
      this.cards()
        .filter(({ state }) => state === 'taken')
        .map(({ amount }) => dec(amount)),
    );
    return dec(this.due()?.toPay ?? '0')
      .minus(sum(this.vouched().map(({ amount }) => amount)))
      .minus(carded);
  });
  protected readonly restInCash = computed(() => inCash(this.rest(), this.currency()));
  protected readonly change = computed(() => {
    const given = this.cash();
    if (given === '') return null;
    const over = dec(given).minus(this.restInCash());
    return over.gte(0) ? over.toFixed() : null;
  });
  /** By how much what was given is less than what is to pay. */
  protected readonly short = computed(() =>
    this.cash() !== '' && this.change() === null ? this.restInCash().minus(this.cash()).toFixed() : null,
  );
  protected readonly paid = computed(
    () => this.due() !== null && (this.rest().lte(0) || this.onAccount() || this.change() !== null),
  );
  /** What is to pay as a row of beads: covered ones full, open ones hollow. */
  protected readonly beads = computed((): PayBead[] => {
    const due = this.due();
    if (!due) return [];
    const amount = (value: string) => money(value, this.currency());
    const beads: PayBead[] = [];
    if (dec(due.covered).gt(0))
      beads.push({
        name: 'Paid ahead',
        amount: amount(due.covered),
        share: 1,
        words: 'covered by what was paid ahead',
      });
    for (const each of this.vouched()) {
      if (each.amount.gt(0))
        beads.push({
          name: each.number,
          amount: amount(each.amount.toFixed()),
          share: 1,
          words: 'covered by a credit note',
        });
    }
    for (const card of this.cards()) {
      beads.push({
        name: card.state === 'taken' ? 'Card' : 'Card, not answered',
        amount: amount(card.amount),
        share: card.state === 'taken' ? 1 : 0.5,
        words: card.state === 'taken' ? 'taken by the terminal' : 'the terminal has not answered',
        cardId: card.id,
      });
    }
    if (this.rest().gt(0)) {
      const given = this.change() !== null;
      beads.push({
        name: this.onAccount() ? 'On account' : given ? 'Cash' : 'To pay',
        amount: amount(this.onAccount() ? this.rest().toFixed() : this.restInCash().toFixed()),
        share: this.onAccount() || given ? 1 : 0,
        words: this.onAccount() ? 'stays owed' : given ? 'paid in cash' : 'open',
      });
    }
    return beads;
  });
  protected readonly deposit = computed(() =>
    sum((this.due()?.deposits ?? []).map(({ amount }) => dec(amount))).toFixed(),
  );
  protected readonly stays = computed(() => this.slip.lines().some((line) => dec(this.takenOf(line)).lt(line.toGo)));
  protected readonly stepWords = computed(() => {
    if (!this.sells()) return 'Keep it for the till';
    const due = this.due();
    if (!due) return 'Hand over';
    const change = this.change();
    return change !== null && dec(change).gt(0) ? `Hand over, ${money(change, this.currency())} change` : 'Hand over';
  });
  protected readonly heading = computed(() => {
    const read = this.slip.read();
    const who = read ? (read.contact?.name ?? (read.mayOwe ? read.customer.name : '')) : this.named();
    return who === '' ? 'nobody in particular' : who;
  });
  /** The server cannot be reached: it can be sold from what this device knows. */
  protected readonly reached = signal(true);
  protected readonly outOfReach = computed(
    () => !this.reached() || this.refusals().some(({ code }) => code === 'out-of-reach'),
  );
  /** The step was asked for while what was typed before it was being kept: it is taken after that, unless that is refused. */
  private readonly wanted = signal(false);
  protected readonly canStep = computed(() => {
    if (this.slip.busy() || this.selling() || this.slip.lines().length === 0) return false;
    return !this.sells() || (this.till()?.drawer !== null && this.paid());
  });

  constructor() {
    // What is sold while the server is away is there before it goes. // C6
    void this.away.refresh();
    void import('./away');
    const title = inject(Title);
    effect(() => title.setTitle(`${this.sells() ? 'Till' : 'Counter'} · Kampong`));
    // The device knows its till also while the server is away.
    effect(() => {
      const till = this.till();
      if (till) localStorage.setItem(this.key, String(till.id));
    });
    effect(() => {
      const order = this.order();
      if (order) this.slip.callUp(Number(order));
    });
    effect(() => {
      if (!this.wanted() || this.slip.busy()) return;
      untracked(() => {
        this.wanted.set(false);
        if (this.slip.refusals().length === 0 && this.slip.odd().size === 0) this.step();
      });
    });
  }

  protected standAt(id: string): void {
    localStorage.setItem(this.key, id);
    this.chosenTill.set(Number(id));
  }

  protected choose(chosen: Chosen): void {
    this.sold.set([]);
    switch (chosen.kind) {
      case 'item':
        this.slip.add(chosen.itemId, chosen.quantity);
        break;
      case 'party':
        this.named.set(chosen.name);
        this.slip.who({ customerId: chosen.customerId, contactId: chosen.contactId });
        break;
      case 'order':
        this.slip.callUp(chosen.orderId);
        break;
      case 'slip':
        void this.router.navigateByUrl(pathOf({ kind: 'SL', id: chosen.slipId }));
        break;
      case 'quantity': {
        const last = this.slip.lastItem();
        const line = this.slip
          .lines()
          .findLast(
            ({ item, orderId, free }) => item.id === last && free === '' && orderId === this.slip.draft()?.order.id,
          );
        if (line) this.slip.quantity(line.id, chosen.quantity);
        break;
      }
      case 'money':
        this.cash.set(chosen.amount);
        break;
      case 'nothing':
        if (this.sells() && this.cash() !== '') this.step();
    }
  }

  /** Bar codes a scanner stand-in can read out, in a demo. // C7 */
  protected readonly codes = computed(() =>
    this.session.current()?.demo
      ? (this.away.shelf()?.rows ?? []).flatMap(({ number, codes }) => codes.map((each) => ({ number, ...each })))
      : [],
  );

  protected scan(code: string): void {
    this.field()?.scan(code);
  }

  protected nobody(): void {
    this.named.set('');
    this.slip.who({ customerId: null, contactId: null });
  }

  /** The one step: keep it, or hand it over. */
  protected step(event?: Event): void {
    event?.preventDefault();
    if (this.slip.busy()) {
      this.wanted.set(true);
      return;
    }
    if (!this.canStep()) return;
    if (this.sells()) this.sell();
    else this.keepIt();
  }

  private keepIt(): void {
    const [kept] = this.slip.read()?.orders ?? [];
    if (!kept) return;
    this.notices.show('Kept for the till:', kept.order);
    this.begin();
  }

  private begin(): void {
    this.slip.clear();
    this.named.set('');
    this.numbers.set(new Map());
    this.sold.set([]);
    this.cash.set('');
    if (this.order()) void this.router.navigateByUrl('/till');
    this.field()?.focus();
  }

  private sell(): void {
    const read = this.slip.read();
    const till = this.till();
    if (!read || !till) return;
    this.selling.set(true);
    this.counter
      .sell({
        tillId: till.id,
        orders: read.orders.map(({ order, version }) => ({ id: order.id, version })),
        take: read.taken.map(({ lineId, quantity: taken }) => {
          const numbers = (this.numbers().get(lineId) ?? '').split(/[\s,;]+/).filter((each) => each !== '');
          return { lineId, quantity: taken, ...(numbers.length > 0 ? { numbers } : {}) };
        }),
        later: read.later,
        cash: this.rest().gt(0) ? this.cash() : '',
        cardIds: this.cards()
          .filter(({ state }) => state === 'taken')
          .map(({ id }) => id),
        vouchers: this.vouchers().map((creditNoteId) => ({ creditNoteId, amount: '' })),
        onAccount: this.onAccount(),
      })
      .pipe(finalize(() => this.selling.set(false)))
      .subscribe({
        next: ({ made }) => {
          const slip = made.find(({ kind }) => kind === 'SL') ?? null;
          const change = this.change();
          const words =
            change !== null && dec(change).gt(0)
              ? `Handed over, ${money(change, this.currency())} change:`
              : 'Handed over:';
          this.notices.show(words, slip);
          this.begin();
        },
        error: (error: unknown) => this.sold.set(refusalsOf(error)),
      });
  }

  /** Charges a card with what is to pay yet: kept first, then asked. */
  protected card(): void {
    const [order] = this.slip.read()?.orders ?? [];
    const till = this.till();
    if (!order || !till || this.rest().lte(0)) return;
    const amount = this.rest().toFixed(currencyPlaces(this.currency()));
    this.terminal(
      this.counter.askCard(till.id, order.order.id, amount).pipe(
        concatMap(() => this.counter.at(this.slip.orderIds(), undefined, null)),
        concatMap(({ cards }) => {
          const asked = cards.filter(({ state }) => state === 'asked').at(-1);
          return asked ? this.counter.hearCard(asked.id) : of(null);
        }),
      ),
    );
  }

  protected hear(id: number): void {
    this.terminal(this.counter.hearCard(id));
  }

  protected giveBack(id: number): void {
    this.terminal(this.counter.giveBackCard(id).pipe(concatMap(() => this.counter.hearCard(id))));
  }

  private terminal(asked: Observable<unknown>): void {
    this.selling.set(true);
    this.sold.set([]);
    asked.pipe(finalize(() => this.selling.set(false))).subscribe({
      next: () => undefined,
      complete: () => this.slip.again(),
      error: (error: unknown) => {
        this.sold.set(refusalsOf(error));
        this.slip.again();
      },
    });
  }

  /** Uses a credit note of theirs, or does no more. */
  protected flip(creditNoteId: number): void {
    this.vouchers.update((ids) =>
      ids.includes(creditNoteId) ? ids.filter((id) => id !== creditNoteId) : [...ids, creditNoteId],
    );
  }

  protected openDrawer(): void {
    const till = this.till();
    if (!till) return;
    this.sheets.open(OpenDrawerSheet, { till }).subscribe((done) => {
      const [drawer] = done?.made ?? [];
      if (drawer) this.notices.show('Drawer opened:', drawer);
      this.field()?.focus();
    });
  }

  protected type(lineId: number, typed: string): void {
    this.numbers.update((numbers) => new Map(numbers).set(lineId, typed));
  }

  protected readonly isOn = (creditNoteId: number) => this.vouchers().includes(creditNoteId);
  protected readonly units = (value: string, unit: string) => inUnits(quantity(value), unit);
  protected readonly money = (value: string) => money(value, this.currency());
  protected readonly price = (value: string) => price(value, this.currency());
  protected readonly quantity = quantity;
  protected readonly counted = counted;
  protected readonly moment = moment;
  protected readonly day = (value: string) => day(value, this.session.workDate());
  protected readonly pathOf = pathOf;
  protected readonly isLater = (line: TillLine) => line.shipDate > this.session.workDate();
  protected readonly isZero = (value: string) => dec(value).eq(0);
}
