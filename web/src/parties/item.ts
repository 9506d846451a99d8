import { ChangeDetectionStrategy, Component, computed, effect, inject, input } from '@angular/core';
import { Title } from '@angular/platform-browser';
import { RouterLink } from '@angular/router';
import { ROUTE_NAMES } from '@core/catalogue';
import { Session } from '../access/session';
import { pathOf } from '../kit/documents';
import { money, price, quantity } from '../kit/formats';
import { liveDocument } from '../kit/live';
import { Refusals } from '../kit/refusals';
import { Parties } from './service';

/** An item: how it is supplied, what is on hand, who sells it to us. */
@Component({
  selector: 'k-item',
  imports: [Refusals, RouterLink],
  template: `<div class="page">
    @if (sheet(); as shown) {
      <div class="title">
        <h1>
          <b>{{ shown.number }}</b> {{ shown.name
          }}<span>by {{ shown.unit }}, supplied by {{ routes[shown.route] }}</span>
        </h1>
      </div>
      <div class="head">
        <div><small>List price</small>{{ price(shown.listPrice) }}</div>
        <div><small>Tax</small>{{ shown.taxCode }}</div>
        <div><small>On hand</small>{{ quantity(shown.onHand) }} {{ shown.unit }}</div>
        <div><small>Stock value</small>{{ money(shown.stockValue) }}</div>
      </div>
      <div class="sheet">
        <table class="small">
          <thead>
            <tr>
              <th>Vendor</th>
              <th class="num">Price</th>
              <th class="num">Lead days</th>
              <th></th>
            </tr>
          </thead>
          <tbody>
            @for (vendor of shown.vendors; track vendor.id) {
              <tr>
                <td>
                  <a class="link" [routerLink]="pathOf({ kind: 'vendor', id: vendor.id })">{{ vendor.name }}</a>
                </td>
                <td class="num">{{ price(vendor.unitPrice) }}</td>
                <td class="num">{{ vendor.leadDays }}</td>
                <td>{{ vendor.preferred ? 'preferred' : '' }}</td>
              </tr>
            } @empty {
              <tr>
                <td class="faint">Nobody sells it to us.</td>
              </tr>
            }
          </tbody>
        </table>
      </div>
    } @else {
      <k-refusals [refusals]="loaded.state().refusals" />
    }
  </div>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ItemPage {
  private readonly parties = inject(Parties);
  private readonly titles = inject(Title);
  private readonly currency = inject(Session).company()?.currency ?? 'MYR';
  readonly id = input.required<string>();
  protected readonly loaded = liveDocument(
    this.id,
    (id) => this.parties.item(Number(id)),
    (document) => document.kind === 'SH' || document.kind === 'RC',
  );
  protected readonly sheet = computed(() => this.loaded.state().value);
  protected readonly routes = ROUTE_NAMES;
  protected readonly pathOf = pathOf;
  protected readonly quantity = quantity;
  protected readonly money = (value: string) => money(value, this.currency);
  protected readonly price = (value: string) => price(value, this.currency);

  constructor() {
    effect(() => this.titles.setTitle(`${this.sheet()?.number ?? 'Item'} · Kampong`));
  }
}
