import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type * as z from 'zod';
import type { Day } from '@core/kernel';
import type { PromotionKind } from '@core/promotions';
import * as contract from '@api/promotions';
import { Session } from '../access';
import { ActForm, Sheet } from '../kit/act/sheet';
import { ChoiceField, DayField, LookupField, NumberField, TextField } from '../kit/fields';
import { readOr } from '../kit/live/read-or';
import { Promotions, type PromotionSheet as Shown } from './service';

interface Item {
  id: number;
  number: string;
  name: string;
}

interface TypedLine {
  id: number | null;
  /** `item`, `everything`, or a group's id. */
  what: string;
  item: Item | null;
  kind: PromotionKind;
  value: string;
  from: string;
  buy: string;
  free: string;
  /** Another item that is free; the one that is bought where none is. */
  gift: Item | null;
}

/** What a sheet begins with: one that is changed, or one like it. */
export interface PromotionData {
  promotion?: Shown;
  like?: Shown;
}

const BLANK: TypedLine = {
  id: null,
  what: 'item',
  item: null,
  kind: 'percent',
  value: '',
  from: '',
  buy: '',
  free: '',
  gift: null,
};

/** A promotion as it is made or changed: its days, who, what it gives on what, and what it may cost. // S13 */
@Component({
  selector: 'k-promotion-sheet',
  imports: [ChoiceField, DayField, LookupField, NumberField, Sheet, TextField],
  templateUrl: './promotion-sheet.html',
  styleUrl: './promotion-sheet.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PromotionSheetForm {
  private readonly promotions = inject(Promotions);
  protected readonly session = inject(Session);
  private readonly data = inject<PromotionData>(DIALOG_DATA);
  protected readonly was = this.data.promotion ?? null;
  private readonly from = this.was ?? this.data.like ?? null;
  private readonly choices = readOr(this.promotions.choices(), { priceGroups: [], itemGroups: [] });
  protected readonly head = this.was ? `Change ${this.was.document.number}` : 'New promotion';
  protected readonly sub = this.was
    ? 'What orders have of it stays as it is'
    : 'Orders get it by themselves while it lasts; nothing is put on a price somebody typed';
  protected readonly currency = this.session.company()?.currency ?? 'MYR';

  protected readonly name = signal(this.from?.name ?? '');
  protected readonly firstDay = signal<Day | null>(this.was?.firstDay ?? this.session.workDate());
  protected readonly lastDay = signal<Day | null>(this.was?.lastDay ?? null);
  protected readonly budget = signal(this.from?.budget ?? '');
  /** `everybody`, `customer`, or a price group's id. */
  protected readonly who = signal(
    this.from?.customer ? 'customer' : this.from?.priceGroup ? String(this.from.priceGroup.id) : 'everybody',
  );
  protected readonly customer = signal<{ id: number; name: string } | null>(this.from?.customer ?? null);
  protected readonly lines = signal<readonly TypedLine[]>(
    this.from
      ? this.from.lines.map((line) => ({
          id: this.was ? line.id : null,
          what: line.item ? 'item' : line.group ? String(line.group.id) : 'everything',
          item: line.item,
          kind: line.kind,
          value: line.kind === 'free' ? '' : line.value,
          from: line.from === '0' ? '' : line.from,
          buy: line.buy === '0' ? '' : line.buy,
          free: line.free === '0' ? '' : line.free,
          gift: line.freeItem,
        }))
      : [BLANK],
  );
  protected readonly whoChoices = computed(() => [
    { value: 'everybody', label: 'everybody' },
    { value: 'customer', label: 'one customer' },
    ...this.choices().priceGroups.map(({ id, name }) => ({ value: String(id), label: `the price group ${name}` })),
  ]);
  protected readonly whatChoices = computed(() => [
    { value: 'item', label: 'an item' },
    { value: 'everything', label: 'everything' },
    ...this.choices().itemGroups.map(({ id, name }) => ({ value: String(id), label: `the group ${name}` })),
  ]);
  protected readonly kinds: { value: PromotionKind; label: string }[] = [
    { value: 'percent', label: 'per cent off' },
    { value: 'amount', label: 'so much off each' },
    { value: 'price', label: 'a price for each' },
    { value: 'free', label: 'goods for nothing' },
  ];
  protected readonly valueLabels = { percent: 'Per cent', amount: 'Off each', price: 'Each at', free: '' };
  protected readonly fields = [
    /^(name|customerId|priceGroupId|firstDay|lastDay|budget)$/,
    /^lines\.\d+\.(itemId|groupId|kind|value|from|buy|free|freeItemId)$/,
  ];
  protected readonly form = new ActForm(
    contract.savePromotion,
    computed((): z.input<typeof contract.savePromotion.input> => ({
      id: this.was?.document.id ?? null,
      version: this.was?.version ?? null,
      name: this.name(),
      customerId: this.who() === 'customer' ? (this.customer()?.id ?? null) : null,
      priceGroupId: isId(this.who()) ? Number(this.who()) : null,
      firstDay: this.firstDay(),
      lastDay: this.lastDay(),
      budget: this.budget(),
      lines: this.lines()
        .filter((line) => line.what !== 'item' || line.item !== null)
        .map(({ id, what, item, kind, value, from, buy, free, gift }) => ({
          id,
          itemId: what === 'item' ? item!.id : null,
          groupId: isId(what) ? Number(what) : null,
          kind,
          value,
          from,
          buy,
          free,
          freeItemId: gift?.id ?? null,
        })),
    })),
  );

  protected readonly searchCustomers = (words: string) => this.promotions.customers(words);
  protected readonly searchItems = (words: string) => this.promotions.items(words);

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

const isId = (text: string) => /^\d+$/.test(text);
