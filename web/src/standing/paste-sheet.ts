import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { readTypedDay } from '@core/typed';
import { readRecurrence, sayRecurrence } from '@core/recurrence';
import * as contract from '@api/standing';
import { Session } from '../access';
import { ActForm, Sheet } from '../kit/act/sheet';
import { ChoiceField, NumberField } from '../kit/fields';
import { counted, day } from '../kit/formats';

interface Row {
  customer: string;
  item: string;
  quantity: string;
  rule: string;
  firstDay: string;
}

/** Standing orders for many customers, by rows from a spreadsheet; each is checked by itself. // S7 */
@Component({
  selector: 'k-paste-standing-sheet',
  imports: [ChoiceField, NumberField, Sheet],
  template: `<k-sheet
    head="Standing orders for many"
    sub="Customer, item, quantity, how often, first day; rows of one customer at the same dates are one"
    act="Make them"
    [busy]="form.busy()"
    [refusals]="form.loose(fields)"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <label for="pasted-standing">Rows from a spreadsheet</label>
    <textarea
      id="pasted-standing"
      data-first
      rows="7"
      spellcheck="false"
      placeholder="Kasturi Bottling&#9;SALT-25&#9;12&#9;every Tuesday&#9;2/3"
      [value]="text()"
      (input)="text.set($any($event.target).value)"
    ></textarea>
    <div class="pair">
      <k-number label="Made so many days ahead" [(value)]="ahead" />
      <k-choice label="Where we are closed, it ships" [options]="closedChoices" [(value)]="closed" />
    </div>
    @if (rows().length > 0) {
      <table class="small">
        <thead>
          <tr>
            <th>Customer</th>
            <th>Item</th>
            <th class="num">Quantity</th>
            <th>How often</th>
            <th>First day</th>
          </tr>
        </thead>
        <tbody>
          @for (row of rows(); track $index; let index = $index) {
            <tr [class.bad]="problem(index) !== ''">
              <td>{{ row.customer }}</td>
              <td>{{ row.item }}</td>
              <td class="num">{{ row.quantity }}</td>
              <td>{{ say(row.rule) }}</td>
              <td>{{ row.firstDay ? shown(row.firstDay) : '' }}</td>
            </tr>
            @if (problem(index); as words) {
              <tr class="bad">
                <td colspan="5" role="alert">{{ words }}</td>
              </tr>
            }
          }
        </tbody>
      </table>
    }
    <span effect>{{ effect() }}</span>
  </k-sheet>`,
  styles: `
    textarea {
      display: block;
      width: 100%;
      margin: 2px 0 12px;
      padding: 8px 10px;
      font: inherit;
      color: var(--ink);
      background: var(--paper-lift);
      border: 1px solid var(--rule-strong);
      border-radius: 3px;
    }
    .pair {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 14px;
    }
    table {
      width: 100%;
    }
    .bad td {
      color: var(--brick);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PasteStandingSheet {
  private readonly session = inject(Session);
  protected readonly text = signal('');
  protected readonly ahead = signal('3');
  protected readonly closed = signal('after');
  protected readonly closedChoices = [
    { value: 'after', label: 'the next open day' },
    { value: 'before', label: 'the open day before' },
    { value: 'skip', label: 'not at all' },
  ];
  protected readonly fields = [/^rows\.\d+\./];
  protected readonly rows = computed((): Row[] =>
    this.text()
      .split(/\r?\n/)
      .filter((line) => line.trim() !== '')
      .map((line) => {
        const [customer = '', item = '', quantity = '', often = '', first = ''] = line
          .split('\t')
          .map((cell) => cell.trim());
        return {
          customer,
          item,
          quantity,
          rule: readRecurrence(often, this.session.workDate()) ?? often,
          firstDay: first === '' ? this.session.workDate() : (readTypedDay(first, this.session.workDate()) ?? first),
        };
      }),
  );
  protected readonly form = new ActForm(
    contract.pasteStanding,
    computed(() => ({ rows: this.rows(), aheadDays: this.ahead(), closed: this.closed() })),
    () => this.rows().length > 0,
  );
  protected readonly effect = computed(() => {
    const effects = this.form.previewed()?.effects;
    return effects ? `${counted(effects.standing, 'standing order')} of ${counted(effects.lines, 'line')}` : '';
  });
  protected problem(index: number): string {
    return ['customer', 'item', 'quantity', 'rule', 'firstDay', 'shipToId', 'aheadDays', 'closed']
      .map((name) => this.form.at(`rows.${index}.${name}`))
      .filter((words) => words !== '')
      .join(' ');
  }
  protected readonly say = sayRecurrence;
  protected readonly shown = (value: string) => (/^\d{4}-/.test(value) ? day(value, this.session.workDate()) : value);
}
