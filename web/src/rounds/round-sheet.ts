import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { map } from 'rxjs/operators';
import * as contract from '@api/rounds';
import { ActForm, Sheet } from '../kit/act/sheet';
import { LookupField, NumberField, TextField, type Choice } from '../kit/fields';
import { Rounds, type RoundShown } from './service';

interface Stop {
  shipToId: number;
  words: string;
}

const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];

/** A round: its days, its vehicle, and its stops in the order they are driven. // S11 */
@Component({
  selector: 'k-round-sheet',
  imports: [LookupField, NumberField, Sheet, TextField],
  template: `<k-sheet
    [head]="was ? 'Change ' + was.name : 'New round'"
    sub="The days it goes, its vehicle, and its stops in the order they are driven"
    [act]="was ? 'Change it' : 'Make it'"
    [busy]="form.busy()"
    [refusals]="form.loose(fields)"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <div class="gaps">
      <k-text data-first label="Name" [(value)]="name" [error]="form.at('name', name() !== '')" />
      <k-text label="Vehicle" [(value)]="vehicle" />
      <k-number label="Carries at most, kg" [(value)]="mostWeight" [error]="form.at('mostWeight')" />
      <k-number label="Holds at most, m³" [(value)]="mostVolume" [error]="form.at('mostVolume')" />
    </div>
    <fieldset>
      <legend>Goes on</legend>
      @for (each of days; track each; let at = $index) {
        <label><input type="checkbox" [checked]="week()[at] === '1'" (change)="flip(at)" /> {{ each }}</label>
      }
    </fieldset>
    <h3>Stops</h3>
    <ol>
      @for (stop of stops(); track stop.shipToId; let at = $index; let last = $last) {
        <li>
          <span>{{ stop.words }}</span>
          @if (form.at('stops.' + at); as words) {
            <span class="error" role="alert">{{ words }}</span>
          }
          <span class="acts">
            <button
              type="button"
              class="act"
              [disabled]="at === 0"
              [attr.aria-label]="'Earlier: ' + stop.words"
              (click)="move(at, -1)"
            >
              ↑
            </button>
            <button
              type="button"
              class="act"
              [disabled]="last"
              [attr.aria-label]="'Later: ' + stop.words"
              (click)="move(at, 1)"
            >
              ↓
            </button>
            <button type="button" class="act" [attr.aria-label]="'Take off ' + stop.words" (click)="remove(at)">
              Take off
            </button>
          </span>
        </li>
      }
    </ol>
    <k-lookup label="Another stop: customer, address or town" [chosen]="''" [search]="search" (picked)="add($event)" />
  </k-sheet>`,
  styles: `
    .gaps {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 10px 14px;
    }
    fieldset {
      border: 0;
      padding: 0;
      margin: 12px 0;
    }
    legend {
      font-size: 12px;
      color: var(--ink-soft);
    }
    label {
      display: inline-flex;
      gap: 5px;
      margin-right: 16px;
      align-items: center;
    }
    h3 {
      font: 600 16px var(--serif);
    }
    ol {
      margin: 0 0 8px;
      padding-left: 22px;
    }
    li {
      padding: 3px 0;
      border-bottom: 1px solid var(--rule);
    }
    .acts {
      float: right;
    }
    .acts .act {
      padding: 2px 7px;
    }
    .error {
      margin-left: 8px;
      color: var(--brick);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RoundSheet {
  private readonly rounds = inject(Rounds);
  protected readonly was = inject<{ round?: RoundShown }>(DIALOG_DATA).round ?? null;
  protected readonly days = DAYS;
  protected readonly name = signal(this.was?.name ?? '');
  protected readonly vehicle = signal(this.was?.vehicle ?? '');
  protected readonly mostWeight = signal(this.was?.mostWeight ?? '');
  protected readonly mostVolume = signal(this.was?.mostVolume ?? '');
  protected readonly week = signal(this.was?.week ?? '0000000');
  protected readonly stops = signal<readonly Stop[]>(
    (this.was?.stops ?? []).map(({ shipToId, customer, label, town }) => ({
      shipToId,
      words: `${customer.name}, ${label}, ${town}`,
    })),
  );
  protected readonly fields = [/^(name|mostWeight|mostVolume)$/, /^stops\.\d+$/];
  protected readonly form = new ActForm(
    contract.saveRound,
    computed(() => ({
      id: this.was?.id ?? null,
      version: this.was?.version ?? null,
      name: this.name(),
      week: this.week(),
      vehicle: this.vehicle(),
      mostWeight: this.mostWeight(),
      mostVolume: this.mostVolume(),
      stops: this.stops().map(({ shipToId }) => shipToId),
    })),
  );
  protected readonly search = (words: string) =>
    this.rounds.addresses(words).pipe(
      map((rows) =>
        rows
          .filter(({ shipToId }) => !this.stops().some((stop) => stop.shipToId === shipToId))
          .map(({ shipToId, customer, label, town, round }) => ({
            id: shipToId,
            number: label,
            name: `${customer.name}, ${town}`,
            detail: round,
          })),
      ),
    );

  protected add(found: Choice): void {
    this.stops.update((stops) => [...stops, { shipToId: found.id, words: `${found.name}, ${found.number}` }]);
  }

  protected remove(at: number): void {
    this.stops.update((stops) => stops.filter((_stop, index) => index !== at));
  }

  protected move(at: number, step: number): void {
    this.stops.update((stops) => {
      const next = [...stops];
      const [stop] = next.splice(at, 1);
      next.splice(at + step, 0, stop!);
      return next;
    });
  }

  protected flip(at: number): void {
    this.week.update((week) =>
      [...week].map((each, index) => (index === at ? (each === '1' ? '0' : '1') : each)).join(''),
    );
  }
}
