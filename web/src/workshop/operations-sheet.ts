import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import * as contract from '@api/workshop';
import { Session } from '../access';
import { ActForm, Sheet } from '../kit/act/sheet';
import { NumberField } from '../kit/fields';
import { day, money } from '../kit/formats';
import { Workshop, type WorkSheet } from './service';

export interface OperationsData {
  sheet: WorkSheet;
}

interface Operation {
  /** Where it stands in the list, whatever is left out. */
  key: number;
  id: number | null;
  no: string;
  name: string;
  centre: string;
  minutes: string;
  /** Something passed it: it stays as it is. */
  begun: boolean;
}

/** How this order alone is worked on: add, leave out, another centre or time, with what that does to cost and day. // W1 */
@Component({
  selector: 'k-operations-sheet',
  imports: [NumberField, Sheet],
  templateUrl: './operations-sheet.html',
  styles: `
    td.part {
      width: 84px;
    }
    td.name {
      width: 34%;
    }
    td.name input,
    select {
      width: 100%;
      height: 26px;
      border: 1px solid var(--rule-strong);
      border-radius: var(--r);
      background: var(--paper-lift);
      color: var(--ink);
    }
    td.name input {
      padding: 0 6px;
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
export class OperationsSheet {
  protected readonly data = inject<OperationsData>(DIALOG_DATA);
  private readonly session = inject(Session);
  protected readonly sheet = this.data.sheet;
  private next = 0;
  protected readonly rows = signal<readonly Operation[]>(
    this.sheet.operations.map(({ id, no, name, centre, minutes, minutesDone, done, scrapped }) => ({
      key: this.next++,
      id,
      no: String(no),
      name,
      centre: String(centre.id),
      minutes: String(minutes),
      begun: Number(done) + Number(scrapped) + minutesDone > 0,
    })),
  );
  protected readonly centres = signal<{ value: string; label: string }[]>([]);
  protected readonly fields = [/^operations\.\d+\./];
  protected readonly form = new ActForm(
    contract.changeOperations,
    computed(() => ({
      workId: this.sheet.document.id,
      version: this.sheet.version,
      operations: this.rows().map(({ id, no, name, centre, minutes }) => ({
        id,
        no: /^\d+$/.test(no) ? Number(no) : null,
        name,
        centreId: centre === '' ? null : Number(centre),
        minutes,
      })),
    })),
  );
  protected readonly effects = computed(() => this.form.previewed()?.effects ?? null);
  protected readonly effect = computed(() => {
    const effects = this.effects();
    if (!effects) return '';
    const { currency } = this.sheet;
    const { cost, was, minutes, minutesWas, due, dueWas, firm } = effects;
    const before = cost === was ? ', as before' : `, before ${money(was, currency)}`;
    return [
      cost === '' ? '' : `${currency} ${money(cost, currency)}${before}`,
      minutes === minutesWas ? '' : `${minutes} minutes instead of ${minutesWas}`,
      due === dueWas ? '' : `there on ${this.day(due)} instead of ${this.day(dueWas)}`,
      firm ? 'firm from now on' : '',
    ]
      .filter(Boolean)
      .join(' · ');
  });

  constructor() {
    inject(Workshop)
      .centre(0)
      .pipe(takeUntilDestroyed())
      .subscribe(({ centres }) =>
        this.centres.set(centres.map(({ id, name }) => ({ value: String(id), label: name }))),
      );
  }

  protected change(key: number, by: Partial<Operation>): void {
    this.rows.update((all) => all.map((each) => (each.key === key ? { ...each, ...by } : each)));
  }

  protected leaveOut(key: number): void {
    this.rows.update((all) => all.filter((each) => each.key !== key));
  }

  /** One more at the end, numbered as routings are. */
  protected add(): void {
    const last = Math.max(0, ...this.rows().map(({ no }) => Number(no) || 0));
    this.rows.update((all) => [
      ...all,
      { key: this.next++, id: null, no: String(last + 10), name: '', centre: '', minutes: '', begun: false },
    ]);
  }

  protected readonly refusedAt = (place: number) => {
    const row = this.rows()[place]!;
    return (
      this.form.at(`operations.${place}.no`, row.no !== '') ||
      this.form.at(`operations.${place}.name`, row.name !== '') ||
      this.form.at(`operations.${place}.centreId`, row.centre !== '') ||
      this.form.at(`operations.${place}.minutes`, row.minutes !== '')
    );
  };
  protected readonly centreName = (id: string) => this.centres().find(({ value }) => value === id)?.label ?? '';
  protected readonly day = (value: string) => day(value, this.session.workDate());
}
