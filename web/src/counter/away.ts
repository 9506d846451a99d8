import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  type ElementRef,
  inject,
  signal,
  viewChild,
} from '@angular/core';
import { Title } from '@angular/platform-browser';
import { RouterLink } from '@angular/router';
import { awayDue, awayWords, findOnShelf, understand, type AwayLine, type ShelfItem } from '@core/counter';
import { dec, readTypedDecimal } from '@core/kernel';
import { Session } from '../access';
import { Refusals } from '../kit/act/refusals';
import { pathOf } from '../kit/documents';
import { counted, moment, money, price, quantity } from '../kit/formats';
import { AwaySales, type AwaySale } from './away-sales';
import { tillKey } from './till-here';

/**
 * Selling for cash while the server is away, from what this device knows of the items: kept on the device, sent when the
 * server is back, each once. What could not be looked at meanwhile is said. // C6
 */
@Component({
  selector: 'k-away',
  imports: [Refusals, RouterLink],
  templateUrl: './away.html',
  styleUrl: './away.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class AwayPage {
  protected readonly away = inject(AwaySales);
  private readonly session = inject(Session);
  private readonly box = viewChild.required<ElementRef<HTMLInputElement>>('box');
  protected readonly typed = signal('');
  protected readonly lines = signal<readonly AwayLine[]>([]);
  protected readonly given = signal('');
  protected readonly said = signal('');
  protected readonly tillId = Number(localStorage.getItem(tillKey(this.session.company()?.id)) ?? '0');
  protected readonly currency = computed(() => this.away.shelf()?.currency ?? 'MYR');
  private readonly meant = computed(() => understand(this.typed(), this.currency()));
  protected readonly found = computed(() => {
    const meant = this.meant();
    if (meant.kind !== 'words' && meant.kind !== 'code') return [];
    const words = meant.kind === 'words' ? meant.words : this.typed();
    return findOnShelf(this.away.shelf()?.rows ?? [], words).map(({ item, many }) => ({
      item,
      quantity: dec(meant.quantity ?? '1')
        .times(many)
        .toFixed(),
    }));
  });
  protected readonly due = computed(() => awayDue(this.lines(), this.currency()));
  protected readonly change = computed(() => (this.given() === '' ? null : this.due().toPay.neg().plus(this.given())));
  protected readonly may = computed(
    () => this.tillId > 0 && this.lines().length > 0 && (this.change()?.gte(0) ?? false),
  );

  constructor() {
    inject(Title).setTitle('Till, server away · Kampong');
    void this.away.refresh();
    afterNextRender(() => this.box().nativeElement.focus());
  }

  protected async key(event: KeyboardEvent): Promise<void> {
    if (event.key !== 'Enter' || event.ctrlKey) return;
    event.preventDefault();
    // Typed or scanned before what the device knows is read, it waits for it.
    await this.away.known;
    const meant = this.meant();
    const [first] = this.found();
    if (first) this.add(first.item, first.quantity);
    else if (meant.kind === 'money') this.pay(meant.amount);
    else if (meant.kind === 'quantity') this.many(meant.quantity);
    else if (this.typed().trim() !== '') this.said.set('Nothing here goes by that.');
  }

  protected add(item: ShelfItem, quantity: string): void {
    if (item.byNumber) {
      this.said.set(`${item.number} goes by number; sell it when the server is back.`);
      return;
    }
    this.lines.update((lines) =>
      lines.some((line) => line.item.id === item.id)
        ? lines.map((line) =>
            line.item.id === item.id ? { ...line, quantity: dec(line.quantity).plus(quantity).toFixed() } : line,
          )
        : [...lines, { item, quantity }],
    );
    this.clearField();
  }

  private many(quantity: string): void {
    this.lines.update((lines) => lines.map((line, at) => (at === lines.length - 1 ? { ...line, quantity } : line)));
    this.clearField();
  }

  protected set(at: number, typed: string): void {
    const quantity = readTypedDecimal(typed, 'quantity');
    if (quantity === null || dec(quantity).lt(0)) {
      this.said.set(`“${typed}” is no quantity.`);
      return;
    }
    this.said.set('');
    this.lines.update((lines) =>
      dec(quantity).eq(0)
        ? lines.filter((_line, index) => index !== at)
        : lines.map((line, index) => (index === at ? { ...line, quantity } : line)),
    );
  }

  private pay(amount: string): void {
    this.given.set(amount);
    this.clearField();
  }

  private clearField(): void {
    this.typed.set('');
    this.said.set('');
    this.box().nativeElement.focus();
  }

  protected async handOver(): Promise<void> {
    if (!this.may()) return;
    const [lines, given] = [this.lines(), this.given()];
    // Given up before it is kept: pressed twice it is one sale.
    this.lines.set([]);
    this.given.set('');
    try {
      const { change } = await this.away.keep(this.tillId, lines, given);
      this.clearField();
      this.said.set(`Kept on this device. ${this.currency()} ${this.money(change)} change.`);
    } catch {
      this.lines.set(lines);
      this.given.set(given);
      this.said.set('This device could not keep it; write it down, and free some of its storage.');
    }
  }

  protected readonly states = { waits: 'waits for the server', sent: 'sent', refused: 'could not be taken' };
  protected readonly words = awayWords;
  protected readonly total = ({ lines, currency }: AwaySale) =>
    money(awayDue(lines, currency).total.toFixed(), currency);
  protected readonly moment = moment;
  protected readonly orderOf = ({ sell }: AwaySale) => sell?.orders[0]?.id ?? null;
  protected readonly lineAmount = ({ item, quantity: many }: AwayLine) =>
    money(dec(many).times(item.price).toFixed(), this.currency());
  protected readonly money = (value: string) => money(value, this.currency());
  protected readonly price = (value: string) => price(value, this.currency());
  protected readonly quantity = quantity;
  protected readonly counted = counted;
  protected readonly pathOf = pathOf;
}
