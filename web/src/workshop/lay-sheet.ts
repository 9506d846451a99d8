import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { forkJoin } from 'rxjs';
import type { Day } from '@core/kernel';
import * as contract from '@api/workshop';
import { Session } from '../access';
import { ActForm, Sheet } from '../kit/act/sheet';
import { ChoiceField, DayField } from '../kit/fields';
import { day } from '../kit/formats';
import { Workshop, type WorkSheet } from './service';

export interface LayData {
  workId: number;
  number: string;
  /** What was pointed at: a work centre and a day of it; nothing: the first operation that is to be done. */
  at: { centreId: number; from: { centreId: number; day: Day }; day: Day } | null;
}

/** What is left of an order on another day or at another work centre, and whom that moves, before it is done. // T5 W3 */
@Component({
  selector: 'k-lay-sheet',
  imports: [ChoiceField, DayField, Sheet],
  template: `<k-sheet
    [head]="'Lay ' + data.number + ' again'"
    [sub]="work()?.item?.name ?? ''"
    act="Lay it so"
    [busy]="form.busy()"
    [refusals]="form.loose(fields)"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <div class="fields">
      <k-choice
        data-first
        label="From"
        [value]="operation()"
        (valueChange)="choose($event)"
        [options]="operations()"
        [error]="form.at('operationId')"
      />
      <k-choice label="At" [(value)]="centre" [options]="centres()" [error]="form.at('centreId')" />
      <k-day
        label="On, or as soon as can be after"
        [(value)]="on"
        [workDate]="session.workDate()"
        [error]="form.at('day', on() !== null)"
      />
    </div>
    @if (effects(); as shown) {
      <table class="small">
        <thead>
          <tr>
            <th>Operation</th>
            <th>Work centre</th>
            <th>From</th>
            <th>To</th>
          </tr>
        </thead>
        <tbody>
          @for (row of shown.operations; track row.name) {
            <tr>
              <td>{{ row.name }}</td>
              <td>{{ row.centre }}</td>
              <td>{{ day(row.firstDay) }}</td>
              <td>{{ day(row.lastDay) }}</td>
            </tr>
          }
        </tbody>
      </table>
      @for (row of shown.waits; track row.work) {
        <p class="notice warn">It begins before {{ row.item }} is there: {{ row.work }} is due {{ day(row.due) }}.</p>
      }
      @for (line of shown.lines; track line.order.id + ' ' + line.lineNo) {
        <p [class.notice]="line.late" [class.warn]="line.late">
          {{ line.order.number }} line {{ line.lineNo }}, {{ line.party }}, ships {{ day(line.shipDate) }}:
          {{ line.late ? 'it would be there only ' + day(shown.due) : 'in time' }}.
        </p>
      }
      @if (shown.above; as above) {
        <p [class.notice]="above.late" [class.warn]="above.late">
          {{ above.work.number }} needs it on {{ day(above.neededOn) }}:
          {{ above.late ? 'too late for it' : 'in time' }}.
        </p>
      }
      @if (late()) {
        <label class="tick">
          <input type="checkbox" [checked]="moveLines()" (change)="moveLines.set($any($event.target).checked)" />
          Those lines ship on {{ day(shown.due) }} instead
        </label>
      }
    }
    <span effect>{{ effect() }}</span>
  </k-sheet>`,
  styles: `
    table {
      margin: 12px 0 8px;
    }
    .tick {
      display: flex;
      gap: 8px;
      align-items: center;
    }
    input[type='checkbox'] {
      accent-color: var(--deep);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LaySheet {
  protected readonly data = inject<LayData>(DIALOG_DATA);
  protected readonly session = inject(Session);
  protected readonly work = signal<WorkSheet | null>(null);
  protected readonly centres = signal<{ value: string; label: string }[]>([]);
  protected readonly operation = signal('');
  protected readonly centre = signal('');
  protected readonly on = signal<Day | null>(this.data.at?.day ?? null);
  protected readonly moveLines = signal(false);
  protected readonly fields = [/^operationId$/, /^centreId$/, /^day$/];
  protected readonly operations = computed(() =>
    (this.work()?.operations ?? []).map(({ id, no, name }) => ({ value: String(id), label: `${no} ${name}` })),
  );
  protected readonly form = new ActForm(
    contract.layWork,
    computed(() => ({
      workId: this.data.workId,
      version: this.work()?.version ?? 0,
      operationId: Number(this.operation()),
      day: this.on(),
      centreId: Number(this.centre()),
      moveLines: this.moveLines(),
    })),
  );
  protected readonly effects = computed(() => this.form.previewed()?.effects ?? null);
  protected readonly late = computed(() => this.effects()?.lines.some(({ late }) => late) ?? false);
  protected readonly effect = computed(() => {
    const effects = this.effects();
    if (!effects) return '';
    const firm = effects.firm ? '; firm from now on' : '';
    return effects.due === effects.was
      ? `there on ${this.day(effects.due)}, as before${firm}`
      : `there on ${this.day(effects.due)} instead of ${this.day(effects.was)}${firm}`;
  });

  constructor() {
    const workshop = inject(Workshop);
    this.form.begin(forkJoin([workshop.open(this.data.workId), workshop.centre(0)]), ([work, { centres }]) => {
      this.work.set(work);
      this.centres.set(centres.map(({ id, name }) => ({ value: String(id), label: name })));
      this.choose(String(this.pointedAt(work)));
      if (this.data.at) this.centre.set(String(this.data.at.centreId));
      if (this.on() === null) this.on.set(this.session.workDate() as Day);
    });
  }

  /** The operation that was pointed at, else the first that is to be done. */
  private pointedAt({ operations, quantity }: WorkSheet): number {
    const from = this.data.at?.from;
    const own = operations.find(
      ({ centre, firstDay, lastDay }) =>
        from !== undefined && centre.id === from.centreId && firstDay <= from.day && from.day <= lastDay,
    );
    const open = operations.find(({ done, scrapped }) => Number(done) + Number(scrapped) < Number(quantity));
    return (own ?? open ?? operations[0])?.id ?? 0;
  }

  protected choose(operation: string): void {
    this.operation.set(operation);
    const chosen = this.work()?.operations.find(({ id }) => String(id) === operation);
    if (!chosen) return;
    this.centre.set(String(chosen.centre.id));
    const today = this.session.workDate() as Day;
    if (!this.data.at) this.on.set(chosen.firstDay < today ? today : chosen.firstDay);
  }

  protected readonly day = (value: string) => day(value, this.session.workDate());
}
