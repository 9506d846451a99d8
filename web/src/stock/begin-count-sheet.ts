import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { map } from 'rxjs/operators';
import { MAIN_LOCATION } from '@core/kernel';
import * as terms from '@api/agreements';
import * as contract from '@api/stock';
import { Api } from '../kit/act/api';
import { ActForm, Sheet } from '../kit/act/sheet';
import { ChoiceField } from '../kit/fields';
import { counted } from '../kit/formats';
import { Locations } from '../kit/live/locations';

/** Where is counted, and what: all that is there, or an item group; with or without what is known. // W6 */
@Component({
  selector: 'k-begin-count-sheet',
  imports: [ChoiceField, Sheet],
  template: `<k-sheet
    head="Begin a count"
    sub="A sheet with a line for each item, to count on screen or on paper"
    act="Begin it"
    [busy]="form.busy()"
    [refusals]="form.loose([])"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <div class="fields">
      <k-choice data-first label="Place" [(value)]="place" [options]="places()" />
      <k-choice label="What" [(value)]="group" [options]="groups()" />
    </div>
    <label
      ><input type="checkbox" [checked]="blind()" (change)="blind.set(!blind())" /> Without what is known to be there:
      whoever counts is not told</label
    >
    <span effect>{{ effect() }}</span>
  </k-sheet>`,
  styles: `
    input[type='checkbox'] {
      accent-color: var(--deep);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BeginCountSheet {
  private readonly locations = inject(Locations).all;
  private readonly found = toSignal(
    inject(Api)
      .call(terms.itemGroups)
      .pipe(map(({ groups }) => groups)),
    {
      initialValue: [],
    },
  );
  protected readonly place = signal(String(MAIN_LOCATION));
  protected readonly group = signal('');
  protected readonly blind = signal(false);
  protected readonly places = computed(() =>
    this.locations().map(({ id, name }) => ({ value: String(id), label: name })),
  );
  protected readonly groups = computed(() => [
    { value: '', label: 'all that is there' },
    ...this.found().map(({ id, name }) => ({ value: String(id), label: name })),
  ]);
  protected readonly form = new ActForm(
    contract.beginCount,
    computed(() => ({
      locationId: Number(this.place()),
      groupId: this.group() === '' ? null : Number(this.group()),
      itemIds: [],
      blind: this.blind(),
    })),
  );
  protected readonly effect = computed(() => {
    const effects = this.form.previewed()?.effects;
    return effects ? `${counted(effects.lines, 'item')} to count` : '';
  });
}
