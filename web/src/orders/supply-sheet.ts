import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { ROUTE_NAMES, type Route } from '@core/catalogue';
import * as contract from '@api/stock';
import { ChoiceField, NumberField } from '../kit/fields';
import { quantity } from '../kit/formats';
import { ActForm, Sheet } from '../kit/sheet';
import type { OrderLine } from './service';

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
    (done)="form.do()"
  >
    <dl class="facts">
      <dt>Ordered</dt>
      <dd>{{ quantity(data.line.quantity) }}, {{ quantity(data.line.shipped) }} shipped</dd>
      <dt>Held for it</dt>
      <dd>{{ quantity(data.line.reserved) }}, and {{ quantity(data.line.free) }} free</dd>
    </dl>
    <div class="fields">
      <k-choice
        data-first
        label="Supplied by"
        [value]="route()"
        (valueChange)="route.set($any($event))"
        [options]="routes"
        [error]="form.at('route')"
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
        {{ names[route()] }}, they are let go of.
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
  protected readonly names = ROUTE_NAMES;
  protected readonly route = signal<Route>(this.data.line.route);
  protected readonly reserve = signal('');
  protected readonly lift = signal(false);
  protected readonly routes = this.data.line.routes.map((value) => ({ value, label: ROUTE_NAMES[value] }));
  protected readonly fields = [/^route$/, /^reserve$/, /^lift$/];
  protected readonly asksToLift = computed(
    () => this.route() !== this.data.line.route && this.data.line.reserved !== '0',
  );
  protected readonly form = new ActForm(
    contract.supplyLine,
    computed(() => ({
      orderLineId: this.data.line.id,
      route: this.route(),
      reserve: this.route() === 'drop' ? '' : this.reserve(),
      lift: this.lift(),
    })),
  );
  protected readonly effect = computed(() => {
    const effects = this.form.previewed()?.effects;
    if (!effects) return '';
    const { route, reserved, was, free } = effects;
    const held = reserved === was ? '' : `; ${quantity(reserved)} held for it, ${quantity(free)} free`;
    const waits = route !== this.data.line.route && route !== 'stock' ? ', on the bench' : '';
    return `Supplied by ${ROUTE_NAMES[route]}${waits}${held}`;
  });
  protected readonly quantity = quantity;
}
