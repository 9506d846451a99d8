import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { keepList } from '@api/lists';
import type { KeptList, ListField, Target } from '@core/lists';
import { isDay, readTypedDecimal, readTypedHours } from '@core/kernel';
import { readTypedDay } from '@core/typed';
import { Session } from '../access';
import { ActForm, Sheet } from '../kit/act/sheet';
import { ChoiceField } from '../kit/fields/choice-field';
import { LookupField, type Choice } from '../kit/fields/lookup-field';
import { TextField } from '../kit/fields/text-field';
import { day } from '../kit/formats';
import { byNumber } from './columns';
import { KeptRows, type KeptRow } from './service';

export interface RowData {
  list: KeptList;
  /** None for a new row. */
  row: KeptRow | null;
  /** What a new row begins with, and what of it is not to be said again. */
  begins: Readonly<Record<string, string>>;
  given?: string;
  head: string;
  sub: string;
}

/** One row of a kept list, each of its cells a field. */
@Component({
  selector: 'k-row-sheet',
  imports: [ChoiceField, LookupField, Sheet, TextField],
  template: `<k-sheet
    [head]="data.head"
    [sub]="data.sub"
    [act]="data.row ? 'Keep it' : 'Make it'"
    [busy]="form.busy()"
    [refusals]="form.loose([fields])"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <div class="fields">
      @for (field of shown; track field.name; let first = $first) {
        @switch (field.is.kind) {
          @case ('choice') {
            <k-choice
              [label]="field.head"
              [options]="optionsOf(field)"
              [value]="cells()[field.name] ?? ''"
              (valueChange)="set(field.name, $event)"
              [error]="at(field.name)"
            />
          }
          @case ('ref') {
            <k-lookup
              [label]="field.head"
              [chosen]="cells()[field.name] ?? ''"
              [search]="searchOf(field)"
              [disabled]="stays(field)"
              [placeholder]="field.needed ? '' : field.orFirst ? 'the first there is' : 'none'"
              (picked)="pick(field, $event)"
              [error]="at(field.name)"
              [hint]="hintOf(field)"
            />
          }
          @default {
            <k-text
              [attr.data-first]="first ? '' : null"
              [label]="field.head"
              [most]="200"
              [value]="textOf(field)"
              (valueChange)="type(field, $event)"
              [error]="at(field.name)"
              [hint]="hintOf(field)"
            />
          }
        }
      }
    </div>
  </k-sheet>`,
  styles: `
    .fields {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 10px 20px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RowSheet {
  protected readonly data = inject<RowData>(DIALOG_DATA);
  private readonly server = inject(KeptRows);
  private readonly workDate = inject(Session).workDate;
  protected readonly cells = signal<Readonly<Record<string, string>>>(this.data.row?.cells ?? this.data.begins);
  /** What was typed in as it was typed: read as it is kept, shown as it was. */
  private readonly asTyped = signal<Readonly<Record<string, string>>>({});
  private readonly touched = signal<ReadonlySet<string>>(new Set());
  protected readonly shown = this.data.list.fields.filter(
    ({ name, fixed }) => name !== this.data.given && !(fixed && !this.data.row),
  );
  protected readonly fields = /^changes\.0\./;
  protected readonly form = new ActForm(
    keepList,
    computed(() => {
      const { row, list } = this.data;
      const cells = { ...this.cells() };
      return { list: list.name, changes: [{ id: row?.id ?? null, stamp: row?.stamp ?? '', cells }], removed: [] };
    }),
  );

  protected at(name: string): string {
    return this.form.at(`changes.0.${name}`, this.touched().has(name));
  }

  protected set(name: string, text: string): void {
    this.cells.update((cells) => ({ ...cells, [name]: text }));
    this.touched.update((names) => new Set([...names, name]));
  }

  protected type({ name, is }: ListField, text: string): void {
    this.asTyped.update((all) => ({ ...all, [name]: text }));
    const read =
      is.kind === 'day'
        ? readTypedDay(text, this.workDate())
        : is.kind === 'number'
          ? readTypedDecimal(text, is.of)
          : is.kind === 'hours'
            ? readTypedHours(text)
            : null;
    this.set(name, read ?? text);
  }

  protected textOf({ name, is }: ListField): string {
    const typed = this.asTyped()[name];
    if (typed !== undefined) return typed;
    const cell = this.cells()[name] ?? '';
    return is.kind === 'day' && isDay(cell) ? day(cell, this.workDate()) : cell;
  }

  protected optionsOf({ is }: ListField) {
    return is.kind === 'choice' ? is.options : [];
  }

  protected searchOf({ is }: ListField) {
    const to = (is as { to: Target }).to;
    return (words: string) => this.server.named(to, words);
  }

  protected pick({ name, is }: ListField, choice: Choice): void {
    this.set(name, is.kind === 'ref' && byNumber(is.to) ? choice.number : choice.name || choice.number);
  }

  /** Said when it was made, and not changed any more. */
  protected stays(field: ListField): boolean {
    return (field.onlyNew === true && this.data.row !== null) || field.fixed === true;
  }

  protected hintOf(field: ListField): string {
    if (this.stays(field)) return 'stays as it was made';
    if (field.is.kind === 'number' && field.is.empty !== undefined && !field.needed)
      return `${field.is.empty} where left empty`;
    return '';
  }
}
