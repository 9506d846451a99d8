import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type { Day } from '@core/kernel';
import * as contract from '@api/commission';
import { Session } from '../access';
import { ActForm, Sheet } from '../kit/act/sheet';
import { DayField } from '../kit/fields';
import { counted, money } from '../kit/formats';

export interface MakeData {
  person: { id: number; name: string };
  currency: string;
}

/** What somebody earned up to a day goes on a statement. // S12 */
@Component({
  selector: 'k-make-statement-sheet',
  imports: [DayField, Sheet],
  template: `<k-sheet
    [head]="'Statement for ' + data.person.name"
    sub="each line is on one statement, once; what is taken back later is on the next"
    act="Make it"
    [busy]="form.busy()"
    [refusals]="form.loose(fields)"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <k-day
      data-first
      label="Earned up to"
      [(value)]="until"
      [workDate]="session.workDate()"
      [error]="form.at('until')"
    />
    @if (form.previewed()?.effects; as shown) {
      <span effect
        >{{ counted(shown.lines, 'line') }}, {{ data.currency }} {{ money(shown.amount) }}; owed from then on.</span
      >
    }
  </k-sheet>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class MakeStatementSheet {
  protected readonly data = inject<MakeData>(DIALOG_DATA);
  protected readonly session = inject(Session);
  protected readonly until = signal<Day | null>(this.session.workDate());
  protected readonly fields = [/^until$/];
  protected readonly form = new ActForm(
    contract.makeStatement,
    computed(() => ({ personId: this.data.person.id, until: this.until() ?? '' })),
  );
  protected readonly money = (value: string) => money(value, this.data.currency);
  protected readonly counted = counted;
}
