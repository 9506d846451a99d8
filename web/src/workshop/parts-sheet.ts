import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { dec } from '@core/kernel';
import * as contract from '@api/workshop';
import { ActForm, Sheet } from '../kit/act/sheet';
import { LookupField, NumberField, type Choice } from '../kit/fields';
import { money, quantity } from '../kit/formats';
import { Workshop, type WorkSheet } from './service';

export interface PartsData {
  sheet: WorkSheet;
}

interface Part {
  /** Where it stands in the list, whatever is left out. */
  key: number;
  id: number | null;
  item: { id: number; number: string; name: string } | null;
  quantity: string;
  operationNo: number | null;
  used: string;
}

/** What goes into this order alone: add, leave out, replace, with what that does to cost, weight and what is there. // W1 */
@Component({
  selector: 'k-parts-sheet',
  imports: [LookupField, NumberField, Sheet],
  templateUrl: './parts-sheet.html',
  styles: `
    td.item {
      width: 46%;
    }
    td.part {
      width: 100px;
    }
    select {
      height: 26px;
      border: 1px solid var(--rule-strong);
      border-radius: var(--r);
      background: var(--paper-lift);
      color: var(--ink);
    }
    .leave {
      border: 0;
      background: none;
      color: var(--ink-soft);
      text-decoration: underline;
      cursor: pointer;
    }
    .add {
      margin-top: 8px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PartsSheet {
  protected readonly data = inject<PartsData>(DIALOG_DATA);
  private readonly workshop = inject(Workshop);
  protected readonly sheet = this.data.sheet;
  private next = 0;
  protected readonly parts = signal<readonly Part[]>(
    this.sheet.components.map(({ id, item, quantity: needs, operationNo, used }) => ({
      key: this.next++,
      id,
      item,
      quantity: needs,
      operationNo,
      used,
    })),
  );
  protected readonly fields = [/^components\.\d+\./];
  protected readonly form = new ActForm(
    contract.changeParts,
    computed(() => ({
      workId: this.sheet.document.id,
      version: this.sheet.version,
      components: this.parts().map(({ id, item, quantity: needs, operationNo }) => ({
        id,
        itemId: item?.id ?? null,
        quantity: needs,
        operationNo,
      })),
    })),
  );
  private readonly effects = computed(() => this.form.previewed()?.effects ?? null);
  protected readonly lacks = computed(() =>
    (this.effects()?.lacks ?? []).map(
      ({ item, quantity: needed, free }) =>
        `${quantity(needed)} of ${item} are needed, ${quantity(dec(free).gt(0) ? free : '0')} are free`,
    ),
  );
  protected readonly effect = computed(() => {
    const effects = this.effects();
    if (!effects) return '';
    const { currency } = this.sheet;
    const cost =
      effects.cost === ''
        ? ''
        : `${currency} ${money(effects.cost, currency)}${effects.cost === effects.was ? ', as before' : `, before ${money(effects.was, currency)}`}`;
    const weight = effects.weight === '0' ? '' : `${signed(effects.weight)} kg`;
    return [cost, weight].filter(Boolean).join(' · ');
  });

  protected change(key: number, by: Partial<Part>): void {
    this.parts.update((all) => all.map((each) => (each.key === key ? { ...each, ...by } : each)));
  }

  protected leaveOut(key: number): void {
    this.parts.update((all) => all.filter((each) => each.key !== key));
  }

  protected add(): void {
    const operationNo = this.sheet.operations[0]?.no ?? null;
    this.parts.update((all) => [
      ...all,
      { key: this.next++, id: null, item: null, quantity: '', operationNo, used: '0' },
    ]);
  }

  protected readonly pick = (key: number, { id, number, name }: Choice) =>
    this.change(key, { item: { id, number, name } });
  protected readonly refusedAt = (place: number) =>
    this.form.at(`components.${place}.itemId`, this.parts()[place]?.item !== null) ||
    this.form.at(`components.${place}.quantity`, this.parts()[place]?.quantity !== '') ||
    this.form.at(`components.${place}.operationNo`);
  protected readonly search = (words: string) => this.workshop.findItems(words);
  protected readonly number = quantity;
}

const signed = (text: string) => (text.startsWith('-') ? `−${quantity(text.slice(1))}` : `+${quantity(text)}`);
