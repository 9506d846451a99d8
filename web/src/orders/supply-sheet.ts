import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MAIN_LOCATION } from '@core/kernel';
import * as contract from '@api/stock';
import { ChoiceField, NumberField } from '../kit/fields';
import { quantity } from '../kit/formats';
import { Locations } from '../kit/live/locations';
import { ActForm, Sheet } from '../kit/act/sheet';
import type { OrderLine } from './service';
import { atPlace, suppliedName, suppliedOf, suppliedOptions, suppliedValue } from './supplied-from';

export interface SupplyData {
  order: string;
  line: OrderLine;
}

/** How a confirmed line is supplied: its route, what is held for it, and letting go of it where that must be. // S3 */
@Component({
  selector: 'k-supply-sheet',
  imports: [ChoiceField, NumberField, Sheet],
  template: `<k-sheet
    [head]="'Supply of ' + data.order + ' line ' + data.line.lineNo"
    [sub]="data.line.item.number + ', ' + data.line.item.name"
    act="Keep it so"
    [busy]="form.busy()"
    [refusals]="form.loose(fields)"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <dl class="facts">
      <dt>Ordered</dt>
      <dd>{{ quantity(data.line.quantity) }}, {{ quantity(data.line.shipped) }} shipped</dd>
      <dt>Held for it</dt>
      <dd>{{ quantity(data.line.reserved) }}, and {{ quantity(data.line.free) }} free{{ atPlace(data.line) }}</dd>
    </dl>
    <div class="fields">
      <k-choice
        data-first
        label="Supplied by"
        [value]="supplied()"
        (valueChange)="supplied.set($event)"
        [options]="options()"
        [error]="form.at('route') || form.at('locationId')"
      />
      @if (route() !== 'drop') {
        <k-number
          label="Hold for it"
          [(value)]="reserve"
          [error]="form.at('reserve', reserve() !== '')"
          hint="empty: as it is; 0: let go of it"
        />
      }
    </div>
    @if (asksToLift()) {
      <p class="notice warn">
        {{ quantity(data.line.reserved) }} of {{ data.line.item.number }} are held for this line. Supplied by
        {{ name() }}, they are let go of.
        <label><input type="checkbox" [checked]="lift()" (change)="lift.set(!lift())" /> Yes, let go of them</label>
      </p>
    }
    <span effect>{{ effect() }}</span>
  </k-sheet>`,
  styles: `
    label {
      display: block;
      margin-top: 6px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SupplySheet {
  protected readonly data = inject<SupplyData>(DIALOG_DATA);
  private readonly locations = inject(Locations).all;
  private readonly was = suppliedValue({
    route: this.data.line.route,
    locationId: this.data.line.location?.id ?? MAIN_LOCATION,
  });
  protected readonly supplied = signal(this.was);
  protected readonly route = computed(() => suppliedOf(this.supplied()).route);
  protected readonly name = computed(() => suppliedName(suppliedOf(this.supplied()), this.locations()));
  protected readonly options = computed(() => suppliedOptions(this.data.line.routes, this.locations()));
  protected readonly reserve = signal('');
  protected readonly lift = signal(false);
  protected readonly fields = [/^route$/, /^locationId$/, /^reserve$/, /^lift$/];
  protected readonly asksToLift = computed(() => this.supplied() !== this.was && this.data.line.reserved !== '0');
  protected readonly form = new ActForm(
    contract.supplyLine,
    computed(() => ({
      orderLineId: this.data.line.id,
      ...suppliedOf(this.supplied()),
      reserve: this.route() === 'drop' ? '' : this.reserve(),
      lift: this.lift(),
    })),
  );
  protected readonly effect = computed(() => {
    const effects = this.form.previewed()?.effects;
    if (!effects) return '';
    const { route, reserved, was, free } = effects;
    const held = reserved === was ? '' : `; ${quantity(reserved)} held for it, ${quantity(free)} free`;
    const bought = route === 'drop' || route === 'special';
    const waits =
      route === this.data.line.route ? '' : bought ? ', on the bench' : route === 'stock' ? '' : ', begun with it';
    return `Supplied by ${this.name()}${waits}${held}`;
  });
  protected readonly quantity = quantity;
  protected readonly atPlace = atPlace;
}
