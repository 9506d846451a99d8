import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { Title } from '@angular/platform-browser';
import { RouterLink } from '@angular/router';
import { merge, Subject } from 'rxjs';
import { map, switchMap, tap } from 'rxjs/operators';
import * as parties from '@api/parties';
import { Session } from '../access';
import { Api, refusalsOf, type RefusalShown } from '../kit/act/api';
import { Notices } from '../kit/act/notices';
import { refusedAt, Refusals } from '../kit/act/refusals';
import { ChoiceField, LookupField, NumberField } from '../kit/fields';
import { counted, quantity } from '../kit/formats';
import { Sisters, type Pair } from './service';

type Party = { id: number; number: string; name: string } | null;
type Paired = Pair['items'][number];

/** What is typed of our half. */
interface Half {
  customer: Party;
  vendor: Party;
  transfer: string;
  perCent: string;
  takesFitting: boolean;
  transitDays: number;
  holdDays: number;
}

/** A pair of companies as two pages of one book: who each is to the other, and which items are one. // X1 X5 */
@Component({
  selector: 'k-pair',
  imports: [ChoiceField, LookupField, NumberField, Refusals, RouterLink],
  templateUrl: './pair.html',
  styleUrl: './pair.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PairPage {
  private readonly sisters = inject(Sisters);
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  private readonly title = inject(Title);
  protected readonly session = inject(Session);
  readonly id = input.required<string>();
  private readonly again = new Subject<void>();
  protected readonly refusals = signal<readonly RefusalShown[]>([]);
  protected readonly shown = toSignal(
    merge(toObservable(this.id), this.again).pipe(
      map(() => Number(this.id())),
      switchMap((id) => this.sisters.pair(id)),
      tap(({ sister }) => this.title.setTitle(`${sister.name} · Kampong`)),
    ),
  );
  protected readonly may = this.session.may('lists');
  /** Our half as it is typed; what is kept comes back with the page. */
  protected readonly half = linkedSignal<Half | null>(() => {
    const half = this.shown()?.half;
    return half ? { ...half } : null;
  });
  protected readonly differs = computed(() => {
    const [typed, kept] = [this.half(), this.shown()?.half];
    if (!typed || !kept) return false;
    return (
      typed.customer?.id !== kept.customer?.id ||
      typed.vendor?.id !== kept.vendor?.id ||
      typed.transfer !== kept.transfer ||
      typed.perCent !== kept.perCent ||
      typed.takesFitting !== kept.takesFitting ||
      typed.transitDays !== kept.transitDays ||
      typed.holdDays !== kept.holdDays
    );
  });
  protected readonly transfers = [
    { value: 'ordinary', label: 'what anybody pays, or as agreed' },
    { value: 'list-less', label: 'the list less a share' },
    { value: 'cost-plus', label: 'what it cost us and a share' },
  ];
  protected readonly picked = signal<Paired['theirs'] | null>(null);
  protected readonly counted = counted;
  protected readonly quantity = quantity;
  protected readonly refused = (field: string) => refusedAt(this.refusals(), field);

  protected readonly customers = (words: string) =>
    this.api.call(parties.findCustomers, { query: { q: words } }).pipe(map(({ rows }) => rows));
  protected readonly vendors = (words: string) =>
    this.api.call(parties.findVendors, { query: { q: words } }).pipe(map(({ rows }) => rows));
  protected readonly items = (words: string) => this.sisters.items(words);

  /** A count of days, as it is typed. */
  protected days(typed: string): number {
    return Math.max(0, Math.min(200, Math.trunc(Number(typed) || 0)));
  }

  protected set(change: Partial<Half>): void {
    this.half.update((half) => half && { ...half, ...change });
  }

  protected forget(): void {
    const kept = this.shown()?.half;
    if (kept) this.half.set({ ...kept });
    this.refusals.set([]);
  }

  protected keep(): void {
    const half = this.half();
    if (!half) return;
    const { customer, vendor, transfer, perCent, takesFitting, transitDays, holdDays } = half;
    this.sisters
      .keep({
        sisterId: Number(this.id()),
        customerId: customer?.id ?? null,
        vendorId: vendor?.id ?? null,
        transfer: transfer as 'ordinary',
        perCent,
        takesFitting,
        transitDays,
        holdDays,
      })
      .subscribe({
        next: () => this.done('The pair is kept.'),
        error: (error: unknown) => this.refusals.set(refusalsOf(error)),
      });
  }

  /** Pairs items, all that their numbers propose or one. */
  protected pairUp(pairs: readonly { ours: { id: number }; theirs: { id: number }; factor: string }[]): void {
    this.sisters
      .pairItems(
        Number(this.id()),
        pairs.map(({ ours, theirs, factor }) => ({ itemId: ours.id, theirItemId: theirs.id, factor })),
      )
      .subscribe({
        next: () => {
          this.picked.set(null);
          this.done(`${counted(pairs.length, 'item')} paired.`);
        },
        error: (error: unknown) => this.refusals.set(refusalsOf(error)),
      });
  }

  protected takeProposed({ proposed }: Pair): void {
    this.pairUp(proposed);
  }

  protected part({ ours, theirs }: Paired): void {
    this.sisters.pairItems(Number(this.id()), [], [ours.id]).subscribe({
      next: () => this.done(`${ours.number} and ${theirs.number} are two items again.`),
      error: (error: unknown) => this.refusals.set(refusalsOf(error)),
    });
  }

  /** Our taxes, and that of the purchase. */
  protected readonly taxChoices = computed(() => [
    { value: '', label: 'what the purchase is taxed' },
    ...(this.shown()?.ourTaxes ?? []).map(({ id, code, name }) => ({ value: String(id), label: `${code}, ${name}` })),
  ]);

  /** Which of ours a tax of theirs is. */
  protected tax({ theirs }: Pair['taxes'][number], chosen: string): void {
    this.sisters.pairTax(Number(this.id()), theirs.id, chosen === '' ? null : Number(chosen)).subscribe({
      next: () => this.done(`${theirs.code} is kept.`),
      error: (error: unknown) => this.refusals.set(refusalsOf(error)),
    });
  }

  /** Another number of ours in one of theirs. */
  protected factor(row: Paired, typed: string): void {
    if (typed.trim() === '' || typed === row.factor) return;
    this.pairUp([{ ...row, factor: typed }]);
  }

  private done(words: string): void {
    this.refusals.set([]);
    this.notices.show(words);
    this.again.next();
  }
}
