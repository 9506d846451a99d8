import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { Title } from '@angular/platform-browser';
import { Router, RouterLink } from '@angular/router';
import { of } from 'rxjs';
import { catchError, map, switchMap } from 'rxjs/operators';
import type * as z from 'zod';
import { share } from '@core/kernel';
import * as agreements from '@api/agreements';
import * as contract from '@api/insight';
import { Session } from '../access';
import { standingCover } from '@api/standing';
import { readOr } from '../kit/live/read-or';
import { Api, refusalsOf, type RefusalShown } from '../kit/act/api';
import { areasOf } from '../kit/charts/areas';
import { BarChart } from '../kit/charts/bar-chart';
import { SmallBeads } from '../kit/charts/bead';
import { Chips, type Chip } from '../kit/controls/chips';
import { pathOf } from '../kit/documents';
import { counted, money, percent } from '../kit/formats';
import { Refusals } from '../kit/act/refusals';

type Query = z.input<typeof contract.FulfilmentQuery>;
type Out = z.output<typeof contract.Fulfilment>;
type Row = Out['rows'][number];

const BY: Chip[] = [
  { value: 'customer', label: 'Customer' },
  { value: 'agreement', label: 'Agreement' },
  { value: 'organisation', label: 'Sales organisation' },
  { value: 'group', label: 'Item group' },
  { value: 'currency', label: 'Currency' },
];
const SHAPES: Chip[] = [
  { value: 'bars', label: 'Bars' },
  { value: 'columns', label: 'Columns' },
  { value: 'shares', label: 'Shares' },
  { value: 'table', label: 'Table' },
];
/** The picture of the largest, in about the pixels it is drawn in. */
const FIELD = { width: 1150, height: 300 };

/** Fulfilment of agreements, summed as one asks, drawn or as a table; every figure leads to its agreements. // A4 */
@Component({
  selector: 'k-fulfilment',
  imports: [BarChart, Chips, Refusals, RouterLink, SmallBeads],
  templateUrl: './fulfilment.html',
  styleUrl: './fulfilment.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FulfilmentPage {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly session = inject(Session);
  readonly by = input<string>();
  readonly money = input<string>();
  readonly side = input<string>();
  readonly dates = input<string>();
  readonly state = input<string>();
  readonly shape = input<string>();
  readonly customerId = input<string>();
  readonly organisationId = input<string>();
  readonly groupId = input<string>();
  readonly currency = input<string>();

  protected readonly shown = computed(() => (this.shape() ?? 'bars') as 'bars' | 'columns' | 'shares' | 'table');
  private readonly query = computed(() => {
    const asked = {
      by: this.by(),
      money: this.money(),
      side: this.side(),
      dates: this.dates(),
      state: this.state(),
      customerId: this.customerId(),
      organisationId: this.organisationId(),
      groupId: this.groupId(),
      currency: this.currency(),
    };
    return Object.fromEntries(Object.entries(asked).filter(([, value]) => value)) as Query;
  });
  /** How much of customers' years their standing orders cover. // S7 */
  protected readonly cover = readOr(this.api.call(standingCover), { currency: 'MYR', rows: [] });
  protected readonly coverShare = ({ standing, ordered }: { standing: string; ordered: string }) =>
    ordered === '0' ? 1 : Math.min(1, share(standing, ordered));
  private readonly choices = readOr(this.api.call(agreements.itemGroups), { groups: [], organisations: [] });
  private readonly answer = toSignal(
    toObservable(this.query).pipe(
      switchMap((query) =>
        this.api.call(contract.fulfilment, { query }).pipe(
          map((out) => ({ out, refusals: [] as RefusalShown[] })),
          catchError((error: unknown) => of({ out: null, refusals: refusalsOf(error) })),
        ),
      ),
    ),
    { initialValue: { out: null, refusals: [] } },
  );
  protected readonly out = computed<Out | null>(() => this.answer().out);
  protected readonly refusals = computed(() => this.answer().refusals);

  protected readonly filters = computed(() => [
    { name: 'by', label: 'By', value: this.by() ?? 'customer', chips: BY },
    {
      name: 'money',
      label: 'Money',
      value: this.money() ?? 'company',
      chips: [
        { value: 'company', label: `In ${this.session.company()?.currency ?? 'MYR'}, day's rate` },
        { value: 'own', label: 'Own currencies' },
      ],
    },
    {
      name: 'side',
      label: 'Side',
      value: this.side() ?? 'selling',
      chips: [
        { value: 'selling', label: 'Selling' },
        { value: 'buying', label: 'Buying' },
      ],
    },
    {
      name: 'dates',
      label: 'Dates',
      value: this.dates() ?? '',
      chips: [
        { value: '', label: 'Any dates' },
        { value: 'running', label: 'Running' },
        { value: 'passed', label: 'Dates passed' },
      ],
    },
    { name: 'shape', label: 'Shown as', value: this.shown(), chips: SHAPES },
  ]);
  /** What the figures are narrowed to beside the chips, each to be taken off. */
  protected readonly narrowed = computed(() => {
    const { groups, organisations } = this.choices();
    const named = (id: string | undefined, list: readonly { id: number; name: string }[]) =>
      list.find((each) => String(each.id) === id)?.name ?? id;
    return [
      ...(this.customerId()
        ? [{ name: 'customerId', text: this.out()?.largest[0]?.party.name ?? 'one customer' }]
        : []),
      ...(this.organisationId()
        ? [{ name: 'organisationId', text: named(this.organisationId(), organisations)! }]
        : []),
      ...(this.groupId() ? [{ name: 'groupId', text: named(this.groupId(), groups)! }] : []),
      ...(this.currency() ? [{ name: 'currency', text: this.currency()! }] : []),
    ];
  });

  protected readonly bars = computed(() =>
    (this.out()?.rows ?? []).slice(0, 12).map((row) => ({
      name: this.money() === 'own' && this.by() !== 'currency' ? `${row.name}, ${row.currency}` : row.name,
      whole: Number(row.committed),
      part: Math.min(Number(row.shipped), Number(row.committed)),
    })),
  );
  /** Amounts of several currencies share no scale: they are read, not drawn. */
  protected readonly drawable = computed(() => new Set((this.out()?.rows ?? []).map((row) => row.currency)).size <= 1);
  protected readonly words = (amount: number) =>
    amount >= 1_000_000 ? `${amount / 1_000_000} m` : amount >= 1000 ? `${amount / 1000} k` : String(amount);
  protected readonly moved = computed(() => (this.side() === 'buying' ? 'Received' : 'Shipped'));

  protected readonly areas = computed(() => {
    const largest = (this.out()?.largest ?? []).filter((each) => Number(each.value) > 0);
    const boxes = areasOf(
      largest.map((each) => Number(each.value)),
      FIELD.width,
      FIELD.height,
    );
    return largest.map((each, index) => ({
      ...each,
      ...boxes[index]!,
      words: `${each.document.number} with ${each.party.name}: ${each.currency} ${money(each.value, each.currency)}, ${percent(each.share)} taken`,
      // Only what there is room for.
      room: Math.floor(boxes[index]!.width / 7.2),
      tall: boxes[index]!.height > 38,
      taller: boxes[index]!.height > 53,
      figures: `${money(each.value, each.currency)}, ${percent(each.share)}`,
    }));
  });
  protected readonly field = FIELD;

  protected readonly amount = (text: string, { currency }: { currency: string }) => money(text, currency);
  protected readonly taken = (row: Row) => share(row.shipped, row.committed);
  protected readonly percent = percent;
  protected readonly counted = counted;
  protected readonly pathOf = pathOf;
  protected readonly cut = (text: string, room: number) =>
    text.length > room ? `${text.slice(0, Math.max(0, room - 1))}…` : text;

  /** Where a row's figures lead: the agreements they are of. */
  protected leadsTo(row: Row): { path: string; params: Record<string, string> } {
    const by = this.by() ?? 'customer';
    if (by === 'agreement' && row.id) return { path: pathOf({ kind: 'AG', id: row.id }), params: {} };
    const { by: _by, money: _money, ...kept } = this.query() as Record<string, string>;
    const own: Record<string, string> =
      by === 'customer' && this.side() !== 'buying' && row.id
        ? { customerId: String(row.id) }
        : by === 'customer'
          ? { q: row.name }
          : by === 'organisation' && row.id
            ? { organisationId: String(row.id) }
            : by === 'group' && row.id
              ? { groupId: String(row.id) }
              : by === 'currency'
                ? { currency: row.currency }
                : {};
    return { path: '/agreements', params: { side: this.side() ?? 'selling', ...kept, ...own } };
  }

  protected go(index: number): void {
    const row = this.out()?.rows[index];
    if (!row) return;
    const { path, params } = this.leadsTo(row);
    void this.router.navigate([path], { queryParams: params });
  }

  protected file(format: 'csv' | 'xlsx'): string {
    return `/api/fulfilment.${format}?${new URLSearchParams(this.query() as Record<string, string>)}`;
  }

  protected look(name: string, value: string | null): void {
    void this.router.navigate([], {
      queryParams: { [name]: value || null },
      queryParamsHandling: 'merge',
      replaceUrl: true,
    });
  }

  constructor() {
    inject(Title).setTitle('Fulfilment · Kampong');
  }
}
