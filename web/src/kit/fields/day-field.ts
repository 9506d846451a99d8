import { type ConnectedPosition, OverlayModule } from '@angular/cdk/overlay';
import { NgTemplateOutlet } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, input, linkedSignal, model, signal } from '@angular/core';
import { provideNativeDateAdapter } from '@angular/material/core';
import { MatCalendar } from '@angular/material/datepicker';
import { dayText, isDay, type Day } from '@core/kernel';
import { readTypedDay } from '@core/typed';
import { Icon } from '../controls/icon';
import { CONTROL, Field, freshId } from './field';

/** A date as people type it (`11/3`, `+5`, `fri`) or picked from a calendar; says at once how it was read. */
@Component({
  selector: 'k-day',
  imports: [Field, Icon, NgTemplateOutlet, OverlayModule, MatCalendar],
  providers: [provideNativeDateAdapter()],
  template: `<ng-template #control>
      <span class="both" cdkOverlayOrigin #origin="cdkOverlayOrigin">
        <input
          autocomplete="off"
          [id]="id"
          [class.bare]="bare()"
          [value]="typed()"
          [attr.aria-label]="bare() ? label() : null"
          [attr.aria-invalid]="problem() ? true : null"
          [attr.aria-describedby]="!bare() && problem() ? id + '-error' : null"
          [attr.title]="bare() ? problem() || null : null"
          (input)="take($any($event.target).value)"
          (blur)="settle()"
          (keydown.arrowDown)="nudge($event, 1)"
          (keydown.arrowUp)="nudge($event, -1)"
        />
        <button type="button" tabindex="-1" aria-label="Pick a day" (click)="open.set(!open())">
          <k-icon name="calendar" />
        </button>
      </span>
      <ng-template
        cdkConnectedOverlay
        [cdkConnectedOverlayOrigin]="origin"
        [cdkConnectedOverlayOpen]="open()"
        [cdkConnectedOverlayPositions]="below"
        (overlayOutsideClick)="open.set(false)"
        (detach)="open.set(false)"
      >
        <div class="calendar">
          <mat-calendar [selected]="date()" [startAt]="date()" (selectedChange)="pick($event)" />
        </div>
      </ng-template>
    </ng-template>
    @if (bare()) {
      <ng-container [ngTemplateOutlet]="control" />
    } @else {
      <k-field [label]="label()" [for]="id" [error]="problem()" [hint]="hint()" [aside]="read()">
        <ng-container [ngTemplateOutlet]="control" />
      </k-field>
    }`,
  styles: [
    CONTROL,
    `
      .both {
        position: relative;
        display: block;
      }
      input {
        padding-right: 28px;
      }
      .bare {
        height: 26px;
      }
      button {
        position: absolute;
        right: 3px;
        top: 50%;
        translate: 0 -50%;
        border: 0;
        background: none;
        color: var(--ink-faint);
        padding: 2px;
        cursor: pointer;
      }
      .calendar {
        width: 260px;
        background: var(--paper-lift);
        border: 1px solid var(--rule-strong);
        border-radius: var(--r);
        box-shadow: 0 6px 20px rgb(0 0 0 / 18%);
      }
    `,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DayField {
  readonly label = input.required<string>();
  readonly value = model.required<Day | null>();
  readonly workDate = input.required<Day>();
  readonly error = input('');
  readonly hint = input('');
  readonly bare = input(false);
  protected readonly id = freshId();
  protected readonly open = signal(false);
  protected readonly below: ConnectedPosition[] = [
    { originX: 'end', originY: 'bottom', overlayX: 'end', overlayY: 'top', offsetY: 2 },
    { originX: 'end', originY: 'top', overlayX: 'end', overlayY: 'bottom', offsetY: -2 },
  ];
  /** As typed; follows the value where that is changed from outside. */
  protected readonly typed = linkedSignal<Day | null, string>({
    source: this.value,
    computation: (value, before) => {
      if (before !== undefined && (readTypedDay(before.value, this.workDate()) ?? (before.value || null)) === value) {
        return before.value;
      }
      return value !== null && isDay(value) ? dayText(value, this.workDate()) : (value ?? '');
    },
  });
  protected readonly problem = computed(() => {
    if (this.error()) return this.error();
    const typed = this.typed().trim();
    return typed !== '' && readTypedDay(typed, this.workDate()) === null
      ? 'Not a date; write it like 11/3, +5 or fri.'
      : '';
  });
  protected readonly read = computed(() => {
    const found = readTypedDay(this.typed(), this.workDate());
    const text = found ? dayText(found, this.workDate()) : '';
    return text === this.typed() ? '' : text;
  });
  protected readonly date = computed(() => {
    const value = this.value();
    return value !== null && isDay(value) ? new Date(`${value}T00:00:00`) : new Date(`${this.workDate()}T00:00:00`);
  });

  protected take(typed: string): void {
    this.typed.set(typed);
    // What cannot be read travels shortened, so that the refusal names the field.
    this.value.set(readTypedDay(typed, this.workDate()) ?? (typed.trim().slice(0, 10) || null));
  }

  /** Leaving the field shows the date as it was read. */
  protected settle(): void {
    const value = this.value();
    if (value !== null && isDay(value)) this.typed.set(dayText(value, this.workDate()));
  }

  protected nudge(event: Event, by: number): void {
    event.preventDefault();
    const value = this.value();
    const from = value !== null && isDay(value) ? value : this.workDate();
    this.pick(new Date(new Date(`${from}T00:00:00`).getTime() + by * 86_400_000 + 7_200_000));
  }

  protected pick(date: Date | null): void {
    if (!date) return;
    const two = (part: number) => String(part).padStart(2, '0');
    this.value.set(`${date.getFullYear()}-${two(date.getMonth() + 1)}-${two(date.getDate())}`);
    this.settle();
    this.open.set(false);
  }
}
