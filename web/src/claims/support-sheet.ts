import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type * as z from 'zod';
import type { Day } from '@core/kernel';
import * as contract from '@api/claims';
import { Session } from '../access';
import { ActForm, Sheet } from '../kit/act/sheet';
import { ChoiceField, DayField, LookupField, NumberField, TextField } from '../kit/fields';
import { readOr } from '../kit/live/read-or';
import { Claims, type SupportSheet as Shown } from './service';

interface TypedLine {
  id: number | null;
  /** `item`, or a group's id. */
  what: string;
  item: { id: number; number: string } | null;
  perUnit: string;
}

export interface SupportData {
  support?: Shown;
}

const BLANK: TypedLine = { id: null, what: 'item', item: null, perUnit: '' };
const isId = (text: string) => /^\d+$/.test(text);

/** What a vendor promised us, as it is kept or changed. // S13 */
@Component({
  selector: 'k-support-sheet',
  imports: [ChoiceField, DayField, LookupField, NumberField, Sheet, TextField],
  templateUrl: './support-sheet.html',
  styleUrl: './support-sheet.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SupportSheetForm {
  private readonly claims = inject(Claims);
  protected readonly session = inject(Session);
  protected readonly was = inject<SupportData>(DIALOG_DATA).support ?? null;
  private readonly choices = readOr(this.claims.choices(), { priceGroups: [], itemGroups: [] });
  private readonly promotions = readOr(this.claims.promotions(), []);
  protected readonly head = this.was ? `Change ${this.was.document.number}` : 'New support by a vendor';
  protected readonly sub = this.was
    ? 'What was accrued by it stays at what it came for'
    : 'It holds for what was invoiced within its days already, too';
  protected readonly currency = this.session.company()?.currency ?? 'MYR';
  protected readonly name = signal(this.was?.name ?? '');
  protected readonly vendor = signal<{ id: number; name: string } | null>(this.was?.vendor ?? null);
  protected readonly firstDay = signal<Day | null>(this.was?.firstDay ?? this.session.workDate());
  protected readonly lastDay = signal<Day | null>(this.was?.lastDay ?? null);
  protected readonly who = signal(
    this.was?.customer ? 'customer' : this.was?.priceGroup ? String(this.was.priceGroup.id) : 'everybody',
  );
  protected readonly customer = signal<{ id: number; name: string } | null>(this.was?.customer ?? null);
  protected readonly promotion = signal(this.was?.promotion ? String(this.was.promotion.id) : '');
  protected readonly lines = signal<readonly TypedLine[]>(
    this.was
      ? this.was.lines.map(({ id, item, group, perUnit }) => ({
          id,
          what: item ? 'item' : String(group!.id),
          item,
          perUnit,
        }))
      : [BLANK],
  );
  protected readonly whoChoices = computed(() => [
    { value: 'everybody', label: 'anybody' },
    { value: 'customer', label: 'one customer' },
    ...this.choices().priceGroups.map(({ id, name }) => ({ value: String(id), label: `the price group ${name}` })),
  ]);
  protected readonly promotionChoices = computed(() => [
    { value: '', label: 'with or without a promotion' },
    ...this.promotions().map(({ document, name }) => ({
      value: String(document.id),
      label: `only by ${document.number} ${name}`,
    })),
  ]);
  protected readonly whatChoices = computed(() => [
    { value: 'item', label: 'an item' },
    ...this.choices().itemGroups.map(({ id, name }) => ({ value: String(id), label: `the group ${name}` })),
  ]);
  protected readonly fields = [
    /^(name|vendorId|customerId|priceGroupId|promotionId|firstDay|lastDay)$/,
    /^lines\.\d+\.(itemId|groupId|perUnit)$/,
  ];
  protected readonly form = new ActForm(
    contract.saveSupport,
    computed((): z.input<typeof contract.saveSupport.input> => ({
      id: this.was?.document.id ?? null,
      version: this.was?.version ?? null,
      name: this.name(),
      vendorId: this.vendor()?.id ?? null,
      customerId: this.who() === 'customer' ? (this.customer()?.id ?? null) : null,
      priceGroupId: isId(this.who()) ? Number(this.who()) : null,
      promotionId: this.promotion() ? Number(this.promotion()) : null,
      firstDay: this.firstDay(),
      lastDay: this.lastDay(),
      lines: this.lines()
        .filter((line) => line.what !== 'item' || line.item !== null || line.perUnit !== '')
        .map(({ id, what, item, perUnit }) => ({
          id,
          itemId: what === 'item' ? (item?.id ?? null) : null,
          groupId: isId(what) ? Number(what) : null,
          perUnit,
        })),
    })),
  );
  protected readonly searchVendors = (words: string) => this.claims.vendors(words);
  protected readonly searchCustomers = (words: string) => this.claims.customers(words);
  protected readonly searchItems = (words: string) => this.claims.items(words);

  protected change(at: number, change: Partial<TypedLine>): void {
    this.lines.update((lines) => lines.map((line, index) => (index === at ? { ...line, ...change } : line)));
  }

  protected add(): void {
    this.lines.update((lines) => [...lines, BLANK]);
  }

  protected remove(at: number): void {
    this.lines.update((lines) => lines.filter((_line, index) => index !== at));
  }
}
