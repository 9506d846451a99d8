import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type * as z from 'zod';
import type { Day } from '@core/kernel';
import { readRecurrence, sayRecurrence } from '@core/recurrence';
import * as contract from '@api/standing';
import { Session } from '../access';
import { ActForm, Sheet } from '../kit/act/sheet';
import { ChoiceField, DayField, LookupField, NumberField, TextField } from '../kit/fields';
import { day } from '../kit/formats';
import { Standing, type StandingSheet as Shown } from './service';

type ItemFound = { id: number; number: string; name: string; unit: string; units: { unit: string }[] };

interface TypedLine {
  item: { id: number; number: string; name: string } | null;
  quantity: string;
  unit: string;
  units: readonly string[];
}

interface Who {
  id: number;
  name: string;
  shipTos: readonly { id: number; label: string; town: string }[];
}

/** What a sheet begins with: one that is changed, or what an order has. */
export interface StandingData {
  standing?: Shown;
  customer?: Who & { shipToId: number | null };
  reference?: string;
  lines?: readonly TypedLine[];
}

const BLANK: TypedLine = { item: null, quantity: '', unit: '', units: [] };

/** What a customer gets again and again, in a sentence with gaps; its next dates stand under it while it is typed. // S7 */
@Component({
  selector: 'k-standing-sheet',
  imports: [ChoiceField, DayField, LookupField, NumberField, Sheet, TextField],
  templateUrl: './standing-sheet.html',
  styleUrl: './standing-sheet.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class StandingSheetForm {
  private readonly standing = inject(Standing);
  protected readonly session = inject(Session);
  protected readonly data = inject<StandingData>(DIALOG_DATA);
  protected readonly was = this.data.standing ?? null;
  private readonly term = this.was?.terms[this.was.now] ?? null;
  protected readonly head = this.was ? `Change ${this.was.document.number} from a day on` : 'New standing order';
  protected readonly sub = this.was
    ? 'What was made stays; what comes after is as it says here'
    : 'Its orders are made by themselves, so many days ahead, at the prices of that day';

  protected readonly who = signal<Who | null>(
    this.was ? { ...this.was.customer, shipTos: this.was.shipTos } : (this.data.customer ?? null),
  );
  protected readonly shipToId = signal(
    String(this.was?.shipTo.id ?? this.data.customer?.shipToId ?? this.data.customer?.shipTos[0]?.id ?? ''),
  );
  protected readonly reference = signal(this.was?.customerReference ?? this.data.reference ?? '');
  protected readonly every = signal(this.term ? sayRecurrence(this.term.rule) : 'every Tuesday');
  protected readonly firstDay = signal<Day | null>(this.was?.firstDay ?? this.session.workDate());
  protected readonly lastDay = signal<Day | null>(this.was?.lastDay ?? null);
  protected readonly from = signal<Day | null>(this.was ? this.session.workDate() : null);
  protected readonly ahead = signal(String(this.was?.aheadDays ?? 3));
  protected readonly closed = signal<string>(this.was?.closed ?? 'after');
  protected readonly lines = signal<readonly TypedLine[]>(
    this.term
      ? [...this.term.lines.map(({ item, quantity, unit, units }) => ({ item, quantity, unit, units })), BLANK]
      : (this.data.lines ?? [BLANK]),
  );
  protected readonly closedChoices = [
    { value: 'after', label: 'the next open day' },
    { value: 'before', label: 'the open day before' },
    { value: 'skip', label: 'not at all' },
  ];
  /** The rule of what is typed; what is not understood goes as it is, and is refused at its place. */
  protected readonly rule = computed(() => {
    const typed = this.every().trim();
    if (this.term && typed === sayRecurrence(this.term.rule)) return this.term.rule;
    return readRecurrence(typed, this.session.workDate()) ?? typed;
  });
  protected readonly fields = [
    /^(customerId|shipToId|rule|firstDay|lastDay|from|aheadDays|closed)$/,
    /^lines\.\d+\.(itemId|quantity|unit)$/,
  ];
  protected readonly form = new ActForm(
    contract.saveStanding,
    computed((): z.input<typeof contract.saveStanding.input> => ({
      id: this.was?.document.id ?? null,
      version: this.was?.version ?? null,
      customerId: this.who()?.id ?? null,
      shipToId: this.shipToId() ? Number(this.shipToId()) : null,
      customerReference: this.reference(),
      rule: this.rule(),
      firstDay: this.firstDay(),
      lastDay: this.lastDay(),
      aheadDays: this.ahead(),
      closed: this.closed(),
      from: this.from(),
      lines: this.lines()
        .filter((line) => line.item !== null || line.quantity !== '')
        .map(({ item, quantity, unit }) => ({ itemId: item?.id ?? null, quantity, unit })),
    })),
  );
  protected readonly dates = computed(() => this.form.previewed()?.effects?.dates ?? []);
  protected readonly shipTos = computed(() =>
    (this.who()?.shipTos ?? []).map(({ id, label, town }) => ({ value: String(id), label: `${label}, ${town}` })),
  );

  protected readonly searchCustomers = (words: string) => this.standing.customers(words);
  protected readonly searchItems = (words: string) => this.standing.items(words, this.who()?.id ?? null);

  protected pickCustomer(picked: Who): void {
    this.who.set(picked);
    this.shipToId.set(String(picked.shipTos[0]?.id ?? ''));
  }

  protected pickItem(at: number, item: ItemFound): void {
    this.change(at, { item, unit: '', units: [item.unit, ...item.units.map(({ unit }) => unit)] });
    if (at === this.lines().length - 1) this.lines.update((lines) => [...lines, BLANK]);
  }

  protected change(at: number, change: Partial<TypedLine>): void {
    this.lines.update((lines) => lines.map((line, index) => (index === at ? { ...line, ...change } : line)));
  }

  protected remove(at: number): void {
    this.lines.update((lines) => {
      const left = lines.filter((_line, index) => index !== at);
      return left.length > 0 ? left : [BLANK];
    });
  }

  protected readonly unitChoices = ({ units }: TypedLine) =>
    [...new Set(units)].map((unit, at) => ({ value: at === 0 ? '' : unit, label: unit }));
  protected readonly day = (value: string) => day(value, this.session.workDate());
}
