import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, input, model, signal } from '@angular/core';
import { cashPieces, countedCash, type PieceCount } from '@core/counter';
import { dec } from '@core/kernel';
import * as contract from '@api/counter';
import { NumberField, TextField } from '../kit/fields';
import { money } from '../kit/formats';
import { ActForm, Sheet } from '../kit/act/sheet';
import type { TillNow } from './service';

/** Notes and coins, how many of each. */
@Component({
  selector: 'k-piece-counts',
  template: `<table>
    <thead>
      <tr>
        <th class="num">{{ currency() }}</th>
        <th>How many</th>
        <th class="num">Comes to</th>
      </tr>
    </thead>
    <tbody>
      @for (piece of pieces(); track piece; let index = $index) {
        <tr>
          <td class="num">{{ money(piece) }}</td>
          <td>
            <input
              inputmode="numeric"
              [attr.data-first]="index === 0 ? '' : null"
              [attr.aria-label]="'How many of ' + piece"
              [value]="countOf(piece)"
              (input)="type(piece, $any($event.target).value)"
            />
          </td>
          <td class="num">{{ comesTo(piece) }}</td>
        </tr>
      }
    </tbody>
    <tfoot>
      <tr>
        <td></td>
        <td>Counted</td>
        <td class="num">
          <b>{{ total() }}</b>
        </td>
      </tr>
    </tfoot>
  </table>`,
  styles: `
    table {
      border-collapse: collapse;
      font-size: 16px;
    }
    th {
      font-size: 12px;
      text-align: left;
      color: var(--ink-soft);
    }
    td,
    th {
      padding: 2px 14px 2px 0;
    }
    .num {
      text-align: right;
      min-width: 90px;
    }
    input {
      width: 96px;
      height: 34px;
      padding: 0 8px;
      text-align: right;
      font-size: 16px;
      border: 1px solid var(--rule-strong);
      border-radius: var(--r);
      background: var(--paper-lift);
    }
    tfoot td {
      border-top: 1px solid var(--rule-strong);
      padding-top: 6px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PieceCounts {
  readonly currency = input.required<string>();
  readonly counts = model.required<readonly PieceCount[]>();
  protected readonly pieces = computed(() => cashPieces(this.currency()));
  protected readonly countOf = (piece: string) => this.counts().find((each) => each.piece === piece)?.count ?? '';
  protected readonly money = (value: string) => money(value, this.currency());
  protected readonly total = computed(() =>
    this.money(countedCash(this.counts(), this.currency(), '').total.toFixed()),
  );
  protected comesTo(piece: string): string {
    const count = this.countOf(piece);
    return /^\d+$/.test(count) ? this.money(dec(piece).times(count).toFixed()) : '';
  }
  protected type(piece: string, count: string): void {
    const others = this.counts().filter((each) => each.piece !== piece);
    this.counts.set([...others, { piece, count: count.trim() }]);
  }
}

/** A drawer is opened with what is counted into it. // C4 */
@Component({
  selector: 'k-open-drawer-sheet',
  imports: [PieceCounts, Sheet],
  template: `<k-sheet
    [head]="'Open the drawer of ' + till.name"
    sub="with what is counted into it; that comes from the bank"
    act="Open the drawer"
    [busy]="form.busy()"
    [refusals]="form.loose([])"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <k-piece-counts [currency]="till.currency" [(counts)]="counts" />
  </k-sheet>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OpenDrawerSheet {
  protected readonly till = inject<{ till: TillNow }>(DIALOG_DATA).till;
  protected readonly counts = signal<readonly PieceCount[]>([]);
  protected readonly form = new ActForm(
    contract.openDrawer,
    computed(() => ({ tillId: this.till.id, counts: [...this.counts()] })),
  );
}

/** A drawer is closed with what is counted in it. // C4 */
@Component({
  selector: 'k-close-drawer-sheet',
  imports: [PieceCounts, Sheet, TextField],
  template: `<k-sheet
    [head]="'Close the drawer of ' + till.name"
    sub="count what is in it; what it should hold is said once you have"
    act="Close the drawer"
    [busy]="form.busy()"
    [refusals]="form.loose(fields)"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <k-piece-counts [currency]="till.currency" [(counts)]="counts" />
    <k-text label="Why it differs, where it does" [(value)]="reason" [error]="form.at('reason')" />
    <span effect>{{ effect() }}</span>
  </k-sheet>`,
  styles: `
    k-text {
      display: block;
      margin-top: 14px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CloseDrawerSheet {
  protected readonly till = inject<{ till: TillNow }>(DIALOG_DATA).till;
  protected readonly fields = [/^reason$/];
  protected readonly counts = signal<readonly PieceCount[]>([]);
  protected readonly reason = signal('');
  protected readonly form = new ActForm(
    contract.closeDrawer,
    computed(() => ({ tillId: this.till.id, counts: [...this.counts()], reason: this.reason() })),
  );
  protected readonly effect = computed(() => {
    const effects = this.form.previewed()?.effects;
    if (!effects || this.counts().length === 0) return '';
    const { expected, difference } = effects;
    const should = `${money(expected, this.till.currency)} should be in it`;
    const over = dec(difference);
    if (over.eq(0)) return `${should}, and is`;
    return `${should}: ${money(over.abs().toFixed(), this.till.currency)} ${over.gt(0) ? 'more' : 'less'} is`;
  });
}

/** Money is put in, or taken out, and why. // C4 */
@Component({
  selector: 'k-move-drawer-sheet',
  imports: [NumberField, Sheet, TextField],
  template: `<k-sheet
    [head]="'Put into or take out of ' + till.drawer!.document.number"
    [sub]="sub"
    act="Move the money"
    [busy]="form.busy()"
    [refusals]="form.loose(fields)"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <k-number
      data-first
      kind="price"
      [label]="'Amount, ' + till.currency + '; below zero is taken out'"
      [(value)]="amount"
      [error]="form.at('amount')"
    />
    <k-text label="Why" [(value)]="reason" [error]="form.at('reason')" />
  </k-sheet>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class MoveDrawerSheet {
  protected readonly till = inject<{ till: TillNow }>(DIALOG_DATA).till;
  protected readonly sub = `${money(this.till.drawer!.cash, this.till.currency)} should be in it`;
  protected readonly fields = [/^amount$/, /^reason$/];
  protected readonly amount = signal('');
  protected readonly reason = signal('');
  protected readonly form = new ActForm(
    contract.moveDrawer,
    computed(() => ({ tillId: this.till.id, amount: this.amount(), reason: this.reason() })),
  );
}
