import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import * as contract from '@api/supply';
import { Session } from '../access';
import { counted, day, money, quantity } from '../kit/formats';
import { ActForm, Sheet } from '../kit/act/sheet';
import { labelOf, type PairTyped } from './service';

/** What changing the typed ties does to both their documents, before it is done. // L7 */
@Component({
  selector: 'k-keep-pairs-sheet',
  imports: [Sheet],
  template: `<k-sheet
    [head]="'Change ' + counted(typed.length, 'tie')"
    sub="On the order and on the purchase, in one act"
    [act]="goodOnly() ? 'Change the good ones' : 'Change both ends'"
    [busy]="form.busy()"
    [refusals]="form.loose([rows])"
    [warnings]="looseWarnings()"
    (done)="form.do()"
  >
    <table class="small">
      <thead>
        <tr>
          <th>Order</th>
          <th>Purchase</th>
          <th>Item</th>
          <th class="num">Tied</th>
          <th>Ship on</th>
          <th>Due</th>
          @if (moves()) {
            <th>Goes to</th>
          }
          <th class="num">Order</th>
          <th class="num">Purchase</th>
        </tr>
      </thead>
      <tbody>
        @for (row of shown(); track row.tieId) {
          <tr [class.out]="row.leftOut">
            <td>{{ row.order }}</td>
            <td>{{ row.purchase }}</td>
            <td>{{ row.item }}</td>
            <td class="num">{{ row.quantity }}</td>
            <td>{{ row.shipDate }}</td>
            <td>{{ row.dueDate }}</td>
            @if (moves()) {
              <td>{{ row.goesTo }}</td>
            }
            <td class="num">{{ row.salesBy }}</td>
            <td class="num">{{ row.supplyBy }}</td>
          </tr>
          @for (word of row.words; track word.sentence) {
            <tr>
              <td colspan="9" [class.bad]="word.bad" [class.word]="!word.bad" [attr.role]="word.bad ? 'alert' : null">
                {{ word.sentence }}
              </td>
            </tr>
          }
        }
      </tbody>
    </table>
    @if (anyRefused() && typed.length > 1) {
      <label class="check"
        ><input type="checkbox" [checked]="goodOnly()" (change)="goodOnly.set(!goodOnly())" /> Leave out what is
        refused, and change the others</label
      >
    }
    <span effect>{{ effect() }}</span>
  </k-sheet>`,
  styles: `
    .check {
      display: block;
      margin-top: 14px;
    }
    .out td {
      color: var(--ink-faint);
      text-decoration: line-through;
    }
    .word {
      color: var(--ochre);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class KeepPairsSheet {
  protected readonly typed = inject<readonly PairTyped[]>(DIALOG_DATA);
  private readonly workDate = inject(Session).workDate;
  protected readonly rows = /^pairs\.\d+/;
  protected readonly goodOnly = signal(false);
  protected readonly form = new ActForm(
    contract.editPairs,
    computed(() => ({
      goodOnly: this.goodOnly(),
      pairs: this.typed.map(({ row, ...change }) => ({
        ...change,
        tieId: row.tieId,
        was: { quantity: row.quantity, shipDate: row.shipDate, dueDate: row.dueDate, shipToId: row.shipToId },
      })),
    })),
  );
  private readonly words = computed(() => [
    ...this.form.refusals.map((each) => ({ ...each, bad: true })),
    ...this.form.warnings.map((each) => ({ ...each, bad: false })),
  ]);
  /** Once it is chosen the choice stays, though the good ones alone meet no refusal. */
  protected readonly anyRefused = computed(() => this.goodOnly() || this.words().some((word) => word.bad));
  protected readonly looseWarnings = computed(() =>
    this.form.warnings.filter((warning) => !this.rows.test(warning.field)),
  );
  protected readonly shown = computed(() => {
    const effects = this.form.previewed()?.effects ?? null;
    return this.typed.map(({ row, ...change }, index) => {
      const made = effects?.pairs.find((each) => each.tieId === row.tieId);
      const by = (text: string | undefined) =>
        !text || text === '0' ? '' : `${text.startsWith('-') ? '' : '+'}${money(text, made!.currency)}`;
      const moved = (was: string, is: string) => (was === is ? was : `${was} → ${is}`);
      const date = (was: string, is: string | undefined) => moved(this.day(was), this.day(is ?? was));
      return {
        tieId: row.tieId,
        order: `${row.order.number} line ${row.orderLineNo}`,
        purchase: `${row.purchase.number} line ${row.purchaseLineNo}`,
        item: row.item.number,
        quantity: moved(
          quantity(row.quantity),
          made ? quantity(made.quantity) : (change.quantity ?? quantity(row.quantity)),
        ),
        shipDate: date(row.shipDate, made?.shipDate ?? change.shipDate),
        dueDate: date(row.dueDate, made?.dueDate ?? change.dueDate),
        goesTo: moved(labelOf(row, row.shipToId), labelOf(row, made?.shipToId ?? change.shipToId ?? row.shipToId)),
        salesBy: by(made?.salesBy),
        supplyBy: by(made?.supplyBy),
        leftOut: effects?.leftOut.includes(row.tieId) ?? false,
        words: [
          ...this.words().filter((word) => new RegExp(`^pairs\\.${index}(\\.|$)`).test(word.field)),
          ...(made && made.also.length > 0
            ? [
                {
                  sentence: `${made.also.join(', ')} of the same order ${made.also.length === 1 ? 'goes' : 'go'} there too.`,
                  bad: false,
                },
              ]
            : []),
          ...(made?.differs ? [{ sentence: `Still differs in ${made.differs}.`, bad: false }] : []),
        ],
      };
    });
  });
  /** Some of them are to go elsewhere. */
  protected readonly moves = computed(() =>
    this.typed.some(({ row, shipToId }) => shipToId !== undefined && shipToId !== row.shipToId),
  );
  protected readonly effect = computed(() => {
    const effects = this.form.previewed()?.effects;
    if (!effects) return '';
    const left = effects.leftOut.length;
    return `${counted(effects.pairs.length, 'tie')} changed${left > 0 ? `, ${left} left as ${left === 1 ? 'it is' : 'they are'}` : ''}`;
  });
  protected readonly counted = counted;
  private readonly day = (value: string) => day(value, this.workDate());
}
