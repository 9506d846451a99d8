import { DIALOG_DATA, DialogRef } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { chosenOf, optionRefusals, optionsPrice, type OptionGroup } from '@core/catalogue';
import { dec } from '@core/kernel';
import { sentenceOf } from '@core/refusals';
import { Sheet } from '../kit/act/sheet';
import { price } from '../kit/formats';
import type { ChosenOption } from './typed';

export interface OptionsData {
  number: string;
  name: string;
  currency: string;
  groups: readonly OptionGroup[];
  chosen: readonly number[];
}

/** What is chosen for a line of what its item offers: one of each choice or several, with what that puts on its price. // W2 */
@Component({
  selector: 'k-options-sheet',
  imports: [Sheet],
  template: `<k-sheet
    [head]="'What goes into ' + data.number"
    [sub]="data.name"
    act="Take these"
    [busy]="wrong().length > 0"
    (done)="take()"
  >
    @for (group of data.groups; track group.id) {
      <fieldset>
        <legend>
          {{ group.name }}
          @if (howMany(group); as words) {
            <span class="faint">{{ words }}</span>
          }
        </legend>
        @if (group.atMost === 1 && group.atLeast === 0) {
          <label>
            <input
              type="radio"
              [attr.data-first]="group === data.groups[0] ? '' : null"
              [name]="'group' + group.id"
              [checked]="noneOf(group)"
              (change)="choose(group, null)"
            />
            <span>{{ group.replaces ? group.replaces.number + ', as usual' : 'none' }}</span>
          </label>
        }
        @for (option of group.options; track option.id) {
          <label>
            <input
              [type]="group.atMost === 1 ? 'radio' : 'checkbox'"
              [attr.data-first]="group === data.groups[0] && $index === 0 ? '' : null"
              [name]="'group' + group.id"
              [checked]="has(option.id)"
              (change)="choose(group, option.id)"
            />
            <span
              >{{ option.component.number }} <span class="faint">{{ option.component.name }}</span></span
            >
            <span class="on">{{ onPrice(option.price) }}</span>
          </label>
        }
      </fieldset>
    } @empty {
      <p class="faint">Nothing may be chosen for it.</p>
    }
    @for (sentence of wrong(); track sentence) {
      <p class="notice warn" role="alert">{{ sentence }}</p>
    }
    <span effect>{{ effect() }}</span>
  </k-sheet>`,
  styles: `
    fieldset {
      border: 0;
      border-top: 1px solid var(--rule);
      padding: 8px 0 12px;
      margin: 0;
    }
    legend {
      font: 600 16px var(--serif);
      padding: 0 8px 0 0;
    }
    legend .faint {
      font: 400 14px var(--sans);
    }
    label {
      display: grid;
      grid-template-columns: 20px 1fr auto;
      gap: 10px;
      align-items: center;
      min-height: 30px;
      cursor: pointer;
    }
    input {
      accent-color: var(--deep);
    }
    .notice {
      margin: 4px 0;
    }
    .on {
      font-variant-numeric: tabular-nums;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OptionsSheet {
  protected readonly data = inject<OptionsData>(DIALOG_DATA);
  private readonly ref = inject<DialogRef<ChosenOption[]>>(DialogRef);
  private readonly chosen = signal<readonly number[]>(this.data.chosen);
  protected readonly wrong = computed(() => [
    ...new Set(optionRefusals(this.data.number, this.data.groups, this.chosen(), '').map(sentenceOf)),
  ]);
  protected readonly effect = computed(() => {
    const on = optionsPrice(this.data.groups, this.chosen());
    return on.eq(0) ? 'At the price it has' : `${this.data.currency} ${this.onPrice(on.toFixed())} on each`;
  });

  protected readonly has = (id: number) => this.chosen().includes(id);
  protected readonly noneOf = ({ options }: OptionGroup) => !options.some(({ id }) => this.has(id));

  /** One of a choice instead of another, or one more of several; null for none. */
  protected choose({ atMost, options }: OptionGroup, id: number | null): void {
    this.chosen.update((all) => {
      if (atMost > 1) return all.includes(id!) ? all.filter((each) => each !== id) : [...all, id!];
      const others = all.filter((each) => !options.some((option) => option.id === each));
      return id === null ? others : [...others, id];
    });
  }

  protected take(): void {
    this.ref.close(
      chosenOf(this.data.groups, this.chosen()).map(({ id, component }) => ({ id, number: component.number })),
    );
  }

  /** How many of a choice; nothing where one may be taken or left. */
  protected readonly howMany = ({ atLeast, atMost }: OptionGroup) => {
    if (atLeast === 1 && atMost === 1) return 'one of them';
    if (atLeast === 0) return atMost === 1 ? '' : `up to ${atMost}`;
    return atLeast === atMost ? `${atLeast} of them` : `${atLeast} to ${atMost} of them`;
  };

  protected readonly onPrice = (value: string) =>
    dec(value).eq(0) ? '' : `${value.startsWith('-') ? '−' : '+'}${price(value.replace('-', ''), this.data.currency)}`;
}
