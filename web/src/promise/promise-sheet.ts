import { DIALOG_DATA, DialogRef } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal, signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { of } from 'rxjs';
import { debounceTime, switchMap } from 'rxjs/operators';
import { dec, isDecimalText, readTypedDecimal } from '@core/kernel';
import { wayOf, type CheckedAsk, type AnswerText, type Way } from '@core/promise';
import * as contract from '@api/promise';
import { Session } from '../access';
import { Chips } from '../kit/controls/chips';
import { DayField, NumberField } from '../kit/fields';
import { counted, day, quantity } from '../kit/formats';
import { ActForm, Sheet } from '../kit/act/sheet';
import { PromiseComputer } from './computer';
import type { AskedLine, OrderGround } from './service';
import { TimeLine } from './time-line';

const WAY_NAMES: readonly { way: Way; name: string; sub: string }[] = [
  { way: 'atp', name: 'What is there', sub: 'and coming' },
  { way: 'have', name: 'Use what we have', sub: 'make the rest' },
  { way: 'nothing', name: 'Start from nothing', sub: 'make all of it' },
  { way: 'lead', name: 'Lead time', sub: 'no look at capacity' },
];

/** What was tried of a typed line: how many, and the day they could be had. */
export interface Tried {
  id: number;
  quantity: string;
  day: string;
}

interface Typed {
  quantity: string;
  asked: string | null;
  way: Way;
}

/** When the lines of an order can be had: every way side by side as it is typed, why, and what would shorten it. // T1 to T10 */
@Component({
  selector: 'k-promise-sheet',
  imports: [Chips, DayField, NumberField, Sheet, TimeLine],
  template: `<k-sheet
    [head]="trial ? 'Try promises' : 'Promise ' + ground.order.number"
    [sub]="
      trial
        ? 'When each line could be had, as you type; nothing is kept'
        : 'When each line can be had, as you type; nothing is written until you promise'
    "
    [act]="act()"
    [busy]="form.busy() || !ready()"
    [refusals]="form.loose(fields)"
    [warnings]="form.warnings"
    (done)="trial ? take() : form.do()"
  >
    <table class="small ways">
      <thead>
        <tr>
          <th>Line</th>
          <th>Quantity</th>
          <th>Asked for</th>
          @for (each of ways; track each.way) {
            <th>
              {{ each.name }}<br /><small class="faint">{{ each.sub }}</small>
            </th>
          }
        </tr>
      </thead>
      <tbody>
        @for (line of ground.lines; track line.id; let index = $index) {
          <tr [class.on]="line.id === at()" (focusin)="at.set(line.id)" (click)="at.set(line.id)">
            <td>
              {{ line.lineNo }} <b>{{ line.item.number }}</b>
            </td>
            <td>
              <k-number
                kind="quantity"
                [bare]="true"
                [label]="'Quantity of line ' + line.lineNo"
                [value]="typed()[line.id]!.quantity"
                (valueChange)="set(line.id, { quantity: $event })"
                [error]="quantityError(line)"
              />
            </td>
            <td>
              <k-day
                [bare]="true"
                [label]="'Day asked for line ' + line.lineNo"
                [value]="typed()[line.id]!.asked"
                (valueChange)="set(line.id, { asked: $event })"
                [workDate]="workDate()"
                [error]="form.at('lines.' + index + '.asked')"
              />
            </td>
            @for (each of ways; track each.way) {
              <td>
                <button
                  type="button"
                  class="way"
                  [class.chosen]="typed()[line.id]!.way === each.way"
                  [disabled]="(line.straight || line.own) && each.way !== 'lead'"
                  [attr.aria-pressed]="typed()[line.id]!.way === each.way"
                  [attr.aria-label]="each.name + ', line ' + line.lineNo + ': ' + dayOf(line.id, each.way)"
                  (click)="set(line.id, { way: each.way })"
                >
                  {{ dayOf(line.id, each.way) }}
                </button>
              </td>
            }
          </tr>
        } @empty {
          <tr>
            <td colspan="7" class="faint">Nothing of this order is open.</td>
          </tr>
        }
      </tbody>
    </table>
    @if (ground.lines.length > 1) {
      <k-chips
        label="Days of the lines"
        [chips]="dayChoices()"
        [value]="days()"
        (valueChange)="days.set($any($event))"
      />
    }
    @if (told(); as shown) {
      <h3>
        {{ shown.title }}
        @if (shown.told.day) {
          <b>{{ day(shown.told.day) }}</b>
        }
      </h3>
      @if (shown.told.trouble) {
        <p class="warn">{{ shown.told.trouble }}</p>
      }
      @if (shown.told.parts.length > 1) {
        <p>{{ shown.parts }}</p>
      }
      @if (shown.told.slack; as slack) {
        <p>Begun by {{ day(slack.start) }} at the latest: {{ counted(slack.days, 'working day') }} in hand.</p>
      }
      @if (shown.told.waits.length > 0) {
        <h4>Why then</h4>
        <ol>
          @for (wait of shown.told.waits; track $index) {
            <li>
              {{ wait.text }} <span class="faint">{{ day(wait.from) }} to {{ day(wait.to) }}</span>
            </li>
          }
        </ol>
      }
      @if (shorter(); as found) {
        @if (found.length > 0) {
          <h4>What would shorten it</h4>
          <ul>
            @for (each of found; track $index) {
              <li>
                {{ each.text }}: <b>{{ day(each.day) }}</b>
              </li>
            }
          </ul>
        }
      }
      @if (shown.told.bars.length > 0) {
        <h4>What is bought and worked on</h4>
        <k-time-line [bars]="shown.told.bars" [first]="workDate()" [last]="shown.told.day ?? workDate()" />
      }
    }
    <span effect>{{ effect() }}</span>
  </k-sheet>`,
  styles: `
    .ways td:first-child {
      white-space: nowrap;
    }
    .ways td,
    .ways th {
      padding-right: 6px;
      vertical-align: middle;
    }
    .ways th {
      line-height: 1.1;
      padding-bottom: 4px;
    }
    .ways tr.on td {
      background: var(--deep-wash);
    }
    k-number,
    k-day {
      display: block;
      width: 76px;
    }
    k-day {
      width: 108px;
    }
    .way {
      border: 1px solid var(--rule-strong);
      border-radius: var(--r);
      background: none;
      padding: 4px 8px;
      cursor: pointer;
      white-space: nowrap;
      min-width: 78px;
    }
    .way:disabled {
      border-style: dashed;
      color: var(--ink-faint);
      cursor: default;
    }
    .way.chosen {
      border-color: var(--deep);
      box-shadow: inset 0 0 0 1px var(--deep);
      font-weight: 600;
    }
    k-chips {
      display: block;
      margin: 8px 0;
    }
    h3 {
      font: 600 16px var(--serif);
      margin: 16px 0 4px;
    }
    h4 {
      font: 600 14px var(--sans);
      margin: 12px 0 2px;
    }
    ol,
    ul {
      margin: 0;
      padding-left: 20px;
    }
    .warn {
      color: var(--brick);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PromiseSheet {
  private readonly computer = inject(PromiseComputer);
  private readonly ref = inject<DialogRef<unknown>>(DialogRef);
  protected readonly ground = inject<OrderGround>(DIALOG_DATA);
  protected readonly workDate = inject(Session).workDate;
  /** The order is not kept yet, or is typed over: what is tried is only taken into it. */
  protected readonly trial = this.ground.order.id === 0;
  protected readonly ways = WAY_NAMES;
  protected readonly fields = [/\.asked$/];
  protected readonly typed = signal<Readonly<Record<number, Typed>>>(
    Object.fromEntries(
      this.ground.lines.map((line) => [
        line.id,
        {
          quantity: line.quantity,
          asked: line.asked,
          way: line.straight || line.own ? 'lead' : (line.way ?? wayOf(line.method) ?? 'atp'),
        },
      ]),
    ),
  );
  /** The line that is looked at. */
  protected readonly at = linkedSignal(() => this.ground.lines[0]?.id ?? 0);
  private readonly asks = computed((): CheckedAsk[] =>
    this.ground.lines.flatMap((line) => {
      const { quantity: size, asked, way } = this.typed()[line.id]!;
      const read = readTypedDecimal(size, 'quantity');
      return read !== null && dec(read).gt(0)
        ? [
            {
              key: String(line.id),
              itemId: line.point,
              quantity: read,
              asked,
              way,
              straight: line.straight,
              own: line.own,
            },
          ]
        : [];
    }),
  );
  /** Each line on its own day, or all of them on the last. */
  protected readonly days = signal<'each' | 'together'>('each');
  private readonly asked = computed(() => ({ asks: this.asks(), together: this.days() === 'together' }));
  private readonly checked = toSignal(
    toObservable(this.asked).pipe(
      switchMap(({ asks, together }) => this.computer.check(this.ground.rows, asks, together)),
    ),
    { initialValue: [] },
  );
  protected readonly shorter = toSignal(
    toObservable(computed(() => this.asks().find((ask) => ask.key === String(this.at())) ?? null)).pipe(
      debounceTime(120),
      switchMap((ask) => (ask ? this.computer.shorten(this.ground.rows, ask) : of([]))),
    ),
    { initialValue: [] },
  );
  /** Quantities other than the lines' own are a what-if: what would be promised is the order's. */
  private readonly asOrdered = computed(() =>
    this.ground.lines.every((line) => {
      const { quantity: size } = this.typed()[line.id]!;
      return isDecimalText(size, 'quantity') && dec(size).eq(line.quantity);
    }),
  );
  protected readonly ready = computed(
    () =>
      (this.trial || this.asOrdered()) &&
      this.checked().length > 0 &&
      this.checked().every((line) => line.chosen.day !== null),
  );
  protected readonly form = new ActForm(
    contract.acceptPromise,
    computed(() => ({
      orderId: this.ground.order.id,
      version: this.ground.order.version,
      together: this.days() === 'together',
      lines: this.checked().map((line) => ({
        lineId: Number(line.key),
        way: this.typed()[Number(line.key)]!.way,
        asked: this.typed()[Number(line.key)]!.asked,
        day: line.chosen.day,
      })),
    })),
    // Computed here; the server answers once, when it is promised.
    () => false,
  );
  protected readonly act = computed(() => {
    if (this.trial) return 'Take these into the order';
    return this.ground.lines.length > 1 ? 'Promise these days' : 'Promise this day';
  });

  /** What was tried, for the lines it was typed for. */
  protected take(): void {
    if (!this.ready()) return;
    const tried: Tried[] = this.checked().map(({ key, chosen }) => ({
      id: Number(key),
      quantity: readTypedDecimal(this.typed()[Number(key)]!.quantity, 'quantity')!,
      day: chosen.day!,
    }));
    this.ref.close(tried);
  }

  protected set(id: number, change: Partial<Typed>): void {
    this.typed.update((typed) => ({ ...typed, [id]: { ...typed[id]!, ...change } }));
  }

  protected quantityError(line: AskedLine): string {
    const read = readTypedDecimal(this.typed()[line.id]!.quantity, 'quantity');
    return read !== null && dec(read).gt(0) ? '' : 'A quantity above zero.';
  }

  private lineOf(id: number) {
    return this.checked().find((line) => line.key === String(id));
  }

  protected dayOf(id: number, way: Way): string {
    const line = this.lineOf(id);
    if (!line) return '…';
    const found = line.ways[way];
    return found.day === null ? 'none' : this.day(found.day);
  }

  protected readonly told = computed((): { title: string; told: AnswerText; parts: string } | null => {
    const line = this.ground.lines.find((each) => each.id === this.at());
    const found = line && this.lineOf(line.id);
    if (!found) return null;
    const { chosen } = found;
    const name = WAY_NAMES.find((each) => each.way === chosen.way)!.name.toLowerCase();
    return {
      title: `Line ${line.lineNo}, ${quantity(this.typed()[line.id]!.quantity)} ${line.item.number}, ${name}:`,
      told: chosen,
      parts: chosen.parts
        .map((part) => `${quantity(part.quantity)} on ${this.day(part.day)}${part.lead ? ' by lead time' : ''}`)
        .join(', '),
    };
  });
  protected readonly dayChoices = computed(() => {
    const days = this.checked().map((line) => line.chosen.day);
    const last = days.some((each) => each === null)
      ? null
      : days.reduce((a, b) => (a !== null && a > b! ? a : b), null);
    return [
      { value: 'each', label: 'Each on its own day' },
      { value: 'together', label: last ? `All together, ${this.day(last)}` : 'All together' },
    ];
  });
  protected readonly effect = computed(() => {
    if (!this.trial && !this.asOrdered()) return 'A quantity is not the order’s: change the order to promise it.';
    const orders = this.checked().reduce((sum, line) => sum + line.chosen.orders, 0);
    if (!this.ready()) return '';
    if (this.trial) return orders === 0 ? '' : `Promised, it would plan ${counted(orders, 'order')}`;
    return orders === 0 ? 'Nothing is to be planned for it' : `Plans ${counted(orders, 'order')} with it`;
  });
  protected readonly day = (value: string) => day(value, this.workDate());
  protected readonly counted = counted;
}
