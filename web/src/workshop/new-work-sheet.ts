import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type { Day } from '@core/kernel';
import * as contract from '@api/workshop';
import { Session } from '../access';
import { ActForm, Sheet } from '../kit/act/sheet';
import { DayField, LookupField, NumberField, type Choice } from '../kit/fields';
import { counted, day, quantity } from '../kit/formats';
import { Workshop } from './service';

/** Something is made for our stock: what, how many, by when; what it needs is said while it is typed. // W5 */
@Component({
  selector: 'k-new-work-sheet',
  imports: [DayField, LookupField, NumberField, Sheet],
  template: `<k-sheet
    head="Make for stock"
    sub="Laid on its work centres, with all that is planned for it"
    act="Make it"
    [busy]="form.busy()"
    [refusals]="form.loose(fields)"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <div class="fields">
      <k-lookup
        data-first
        label="Item"
        [chosen]="item()?.number ?? ''"
        [search]="search"
        [error]="form.at('itemId', item() !== null)"
        (picked)="item.set($event)"
      />
      <k-number label="How many" [(value)]="quantity" [error]="form.at('quantity', quantity() !== '')" />
      <k-day
        label="There on"
        hint="Empty: as soon as can be"
        [(value)]="due"
        [workDate]="session.workDate()"
        [error]="form.at('due', due() !== null)"
      />
    </div>
    @if (form.previewed()?.effects; as effects) {
      @if (effects.below.length > 0) {
        <h3>Planned for it</h3>
        <table class="small">
          <tbody>
            @for (row of effects.below; track $index) {
              <tr>
                <td>{{ row.item }}</td>
                <td class="num">{{ figures(row.quantity) }}</td>
                <td>{{ words[row.kind] }}</td>
                <td>there on {{ day(row.due) }}</td>
              </tr>
            }
          </tbody>
        </table>
      }
    }
    <span effect>{{ effect() }}</span>
  </k-sheet>`,
  styles: `
    h3 {
      font: 600 15px var(--serif);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class NewWorkSheet {
  private readonly workshop = inject(Workshop);
  protected readonly session = inject(Session);
  protected readonly item = signal<Choice | null>(null);
  protected readonly quantity = signal('');
  protected readonly due = signal<Day | null>(null);
  protected readonly fields = [/^itemId$/, /^quantity$/, /^due$/];
  protected readonly words = { make: 'made', assemble: 'assembled', buy: 'bought' };
  protected readonly form = new ActForm(
    contract.newWork,
    computed(() => ({ itemId: this.item()?.id ?? 0, quantity: this.quantity(), due: this.due() })),
    () => this.item() !== null && this.quantity() !== '',
  );
  protected readonly effect = computed(() => {
    const effects = this.form.previewed()?.effects;
    if (!effects) return '';
    const below = effects.below.length > 0 ? `, ${counted(effects.below.length, 'order')} planned for it` : '';
    return `Begun ${this.day(effects.start)}, there on ${this.day(effects.day)}${below}`;
  });
  protected readonly search = (words: string) => this.workshop.findItems(words);
  protected readonly figures = quantity;
  protected readonly day = (value: string) => day(value, this.session.workDate());
}
