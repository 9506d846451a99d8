import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type * as z from 'zod';
import { dec, least, type DocumentRef } from '@core/kernel';
import * as contract from '@api/billing';
import { Session } from '../access';
import { Api } from '../kit/act/api';
import type { DocumentAct } from '../kit/act/document-page';
import { ActForm, Sheet, type Sheets } from '../kit/act/sheet';
import { NumberField } from '../kit/fields';
import { day, money } from '../kit/formats';

export interface SetOffData {
  credit: DocumentRef;
  openItemId: number;
  party: string;
}

/** The act of setting a credit off, of the document's page. */
export const setOffAct = (sheets: Sheets, when: boolean, data: SetOffData): DocumentAct => ({
  name: 'set-off',
  label: 'Set off…',
  when,
  does: () => sheets.open(SetOffSheet, data),
  says: ({ touched }) => ['Set off against', touched[1]],
});

type Uses = z.infer<typeof contract.creditUses.out>;

/** What goes to each open invoice where nothing is typed: the oldest first, until the credit is used up. */
export function oldestFirst({ left, rows }: Pick<Uses, 'left' | 'rows'>): string[] {
  let rest = dec(left);
  return rows.map(({ owed }) => {
    const part = least(rest, dec(owed));
    rest = rest.minus(part);
    return part.gt(0) ? part.toFixed() : '';
  });
}

/** Sets what stands to a party's credit off against open invoices of theirs. // P3 */
@Component({
  selector: 'k-set-off-sheet',
  imports: [NumberField, Sheet],
  template: `<k-sheet
    [head]="'Set off ' + data.credit.number"
    [sub]="data.party + ', against what is open'"
    act="Set it off"
    [busy]="form.busy()"
    [refusals]="form.loose([amounts])"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    @if (uses(); as shown) {
      <table class="small">
        <thead>
          <tr>
            <th>Invoice</th>
            <th>Due</th>
            <th class="num">Owed</th>
            <th class="num">Set off</th>
          </tr>
        </thead>
        <tbody>
          @for (row of shown.rows; track row.openItemId; let index = $index) {
            <tr>
              <td>{{ row.document.number }}</td>
              <td>{{ day(row.dueDate) }}</td>
              <td class="num">{{ money(row.owed) }}</td>
              <td class="narrow">
                <k-number
                  [attr.data-first]="index === 0 ? '' : null"
                  [bare]="true"
                  kind="price"
                  [label]="'Set off against ' + row.document.number"
                  [value]="typed()[index]!"
                  (valueChange)="type(index, $event)"
                  [error]="form.at('lines.' + index + '.amount')"
                />
              </td>
            </tr>
          } @empty {
            <tr>
              <td colspan="4" class="faint">Nothing of theirs is open in {{ shown.currency }}.</td>
            </tr>
          }
        </tbody>
      </table>
    }
    <span effect>{{ effect() }}</span>
  </k-sheet>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SetOffSheet {
  protected readonly data = inject<SetOffData>(DIALOG_DATA);
  private readonly session = inject(Session);
  protected readonly amounts = /^lines\.\d+\.amount$/;
  protected readonly uses = signal<Uses | null>(null);
  protected readonly typed = signal<readonly string[]>([]);
  protected readonly form = new ActForm(
    contract.setOffCredit,
    computed(() => ({
      creditItemId: this.data.openItemId,
      lines: (this.uses()?.rows ?? []).map(({ openItemId }, at) => ({ openItemId, amount: this.typed()[at] ?? '' })),
    })),
  );
  protected readonly effect = computed(() => {
    const effects = this.form.previewed()?.effects;
    if (!effects) return '';
    const rest =
      effects.left === '0' ? 'none is left' : `${money(effects.left, effects.currency)} is left to their credit`;
    return `${effects.currency} ${money(effects.amount, effects.currency)} set off, ${rest}.`;
  });

  constructor() {
    const read = inject(Api).call(contract.creditUses, { params: { id: this.data.openItemId } });
    this.form.begin(read, (uses) => {
      this.uses.set(uses);
      this.typed.set(oldestFirst(uses));
    });
  }

  protected type(index: number, amount: string): void {
    this.typed.update((all) => all.map((each, at) => (at === index ? amount : each)));
  }

  protected readonly money = (value: string) => money(value, this.uses()?.currency ?? '');
  protected readonly day = (value: string) => day(value, this.session.workDate());
}
