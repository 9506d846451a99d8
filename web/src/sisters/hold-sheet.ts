import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal, signal } from '@angular/core';
import * as contract from '@api/sisters';
import { Session } from '../access';
import { refusalsOf, type RefusalShown } from '../kit/act/api';
import { ActForm, Sheet } from '../kit/act/sheet';
import { day, quantity } from '../kit/formats';
import { liveDocument } from '../kit/live/live';
import { Sisters, type HoldRow } from './service';

export interface HoldAsked {
  orderId: number;
  number: string;
}

/** What sister companies hold for lines of an order, and from when they could ship what they do not. // X4 */
@Component({
  selector: 'k-hold-sheet',
  imports: [Sheet],
  template: `<k-sheet
    [head]="'Hold for ' + data.number"
    sub="what sister companies have and make is promised to it until a day, and lapses"
    act="Hold it"
    [busy]="form.busy() || chosen().length === 0"
    [refusals]="loose()"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <table class="small">
      <thead>
        <tr>
          <th></th>
          <th>Line</th>
          <th>Item</th>
          <th class="num">Open</th>
          <th>Of</th>
          <th>They could ship</th>
          <th>Held</th>
        </tr>
      </thead>
      <tbody>
        @for (row of rows(); track row.lineId) {
          <tr>
            <td>
              @if (canHold(row)) {
                <input
                  type="checkbox"
                  [attr.data-first]="$first ? '' : null"
                  [attr.aria-label]="'Hold line ' + row.lineNo"
                  [checked]="chosen().includes(row.lineId)"
                  (change)="choose(row)"
                />
              }
            </td>
            <td>{{ row.lineNo }}</td>
            <td>
              {{ row.item.number }} <span class="faint">{{ row.item.name }}</span>
            </td>
            <td class="num">{{ quantity(row.open) }}</td>
            <td>{{ row.sister }}</td>
            <td>{{ row.hold ? '' : row.first ? on(row.first) : 'they cannot say' }}</td>
            <td>
              @if (row.hold; as hold) {
                {{ hold.number }} until {{ on(hold.until) }}
                <button
                  type="button"
                  class="act"
                  [attr.aria-label]="'Let line ' + row.lineNo + ' go'"
                  (click)="letGo(row)"
                >
                  Let go
                </button>
              } @else {
                {{ until(row) }}
              }
            </td>
          </tr>
        } @empty {
          <tr>
            <td colspan="7" class="faint">No line of this order is bought of a sister company.</td>
          </tr>
        }
      </tbody>
    </table>
    <p class="faint">
      What is held stands among their orders as a draft that names this order. It is used when the purchase is taken
      there.
    </p>
  </k-sheet>`,
  styles: `
    p {
      margin: 14px 0 6px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class HoldSheet {
  protected readonly data = inject<HoldAsked>(DIALOG_DATA);
  private readonly sisters = inject(Sisters);
  private readonly workDate = inject(Session).workDate();
  private readonly asked = signal(0);
  private readonly refused = signal<RefusalShown[]>([]);
  private readonly state = liveDocument(
    computed(() => ({ id: this.data.orderId, asked: this.asked() })),
    ({ id }) => this.sisters.holds(id),
    () => false,
  ).state;
  protected readonly rows = computed(() => this.state().value?.rows ?? []);
  /** All that can be held, but for what is taken out. */
  protected readonly chosen = linkedSignal(() =>
    this.rows()
      .filter((row) => this.canHold(row))
      .map(({ lineId }) => lineId),
  );
  protected readonly form = new ActForm(
    contract.holdAtSister,
    computed(() => ({ orderId: this.data.orderId, lineIds: this.chosen() })),
  );
  protected readonly loose = computed(() => [
    ...this.refused(),
    ...(this.chosen().length > 0 ? this.form.loose([]) : []),
  ]);
  protected readonly quantity = quantity;
  protected readonly on = (text: string) => day(text, this.workDate);

  protected canHold(row: HoldRow): boolean {
    return row.hold === null && row.first !== null && Number(row.open) > 0;
  }

  /** Until when it would be held. */
  protected until({ lineId }: HoldRow): string {
    const held = this.form.previewed()?.effects?.held.find((each) => each.lineId === lineId);
    return held ? `until ${this.on(held.until)}` : '';
  }

  protected choose({ lineId }: HoldRow): void {
    this.chosen.update((ids) => (ids.includes(lineId) ? ids.filter((id) => id !== lineId) : [...ids, lineId]));
  }

  protected letGo({ hold }: HoldRow): void {
    this.sisters.letGo(hold!.id).subscribe({
      next: () => {
        this.refused.set([]);
        this.asked.update((count) => count + 1);
      },
      error: (error: unknown) => this.refused.set(refusalsOf(error)),
    });
  }
}
