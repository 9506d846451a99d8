import { ChangeDetectionStrategy, Component, computed, effect, inject, input } from '@angular/core';
import { Title } from '@angular/platform-browser';
import { RouterLink } from '@angular/router';
import { pathOf } from '../kit/documents';
import { money, price } from '../kit/formats';
import { liveDocument } from '../kit/live';
import { Refusals } from '../kit/refusals';
import { OpenItems } from './open-items';
import { Parties } from './service';

/** A vendor: what we owe them, and what they sell us. */
@Component({
  selector: 'k-vendor',
  imports: [OpenItems, Refusals, RouterLink],
  template: `<div class="page">
    @if (sheet(); as shown) {
      <div class="title">
        <h1>
          <b>{{ shown.name }}</b><span
            >{{ shown.number }} · we owe {{ shown.currency }} {{ money(shown.balance) }}</span
          >
        </h1>
      </div>
      <div class="head">
        <div><small>Phone</small>{{ shown.phone || '–' }}</div>
        <div><small>Terms</small>{{ shown.terms }}</div>
      </div>
      <div class="sheet scroll">
        <h2>Open items</h2>
        <k-open-items [items]="shown.openItems" [balance]="shown.balance" [currency]="shown.currency" />
        <h2>Sells us</h2>
        <table class="small">
          <thead>
            <tr>
              <th>Item</th>
              <th>What</th>
              <th class="num">Price</th>
              <th class="num">Lead days</th>
              <th></th>
            </tr>
          </thead>
          <tbody>
            @for (item of shown.items; track item.id) {
              <tr>
                <td>
                  <a class="link" [routerLink]="pathOf({ kind: 'item', id: item.id })">{{ item.number }}</a>
                </td>
                <td>{{ item.name }}</td>
                <td class="num">{{ price(item.unitPrice) }}</td>
                <td class="num">{{ item.leadDays }}</td>
                <td>{{ item.preferred ? 'preferred' : '' }}</td>
              </tr>
            }
          </tbody>
        </table>
      </div>
    } @else {
      <k-refusals [refusals]="loaded.state().refusals" />
    }
  </div>`,
  styles: `
    h2 {
      font: 600 16px var(--serif);
      margin: 12px 0 2px;
    }
    .scroll {
      overflow: auto;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class VendorPage {
  private readonly parties = inject(Parties);
  private readonly titles = inject(Title);
  readonly id = input.required<string>();
  protected readonly loaded = liveDocument(
    this.id,
    (id) => this.parties.vendor(Number(id)),
    (document) => document.kind === 'VI' || document.kind === 'PY',
  );
  protected readonly sheet = computed(() => this.loaded.state().value);
  protected readonly pathOf = pathOf;
  protected readonly money = (value: string) => money(value, this.sheet()?.currency ?? 'MYR');
  protected readonly price = (value: string) => price(value, this.sheet()?.currency ?? 'MYR');

  constructor() {
    effect(() => this.titles.setTitle(`${this.sheet()?.name ?? 'Vendor'} · Kampong`));
  }
}
