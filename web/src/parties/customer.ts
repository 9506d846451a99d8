import { ChangeDetectionStrategy, Component, computed, effect, inject, input } from '@angular/core';
import { Title } from '@angular/platform-browser';
import { RouterLink } from '@angular/router';
import { Session } from '../access/session';
import { pathOf } from '../kit/documents';
import { day, money } from '../kit/formats';
import { liveDocument } from '../kit/live';
import { Refusals } from '../kit/refusals';
import { OpenItems } from './open-items';
import { Parties } from './service';

/** A customer: what they owe and what makes it, where their goods go, what they agreed. */
@Component({
  selector: 'k-customer',
  imports: [OpenItems, Refusals, RouterLink],
  template: `<div class="page">
    @if (sheet(); as shown) {
      <div class="title">
        <h1>
          <b>{{ shown.name }}</b><span>{{ shown.number }} · owes {{ shown.currency }} {{ money(shown.balance) }}</span>
        </h1>
        <a class="act" routerLink="/lists" [queryParams]="{ list: 'customers', q: shown.number }">Limit and terms</a>
        <a class="act" routerLink="/lists" [queryParams]="{ list: 'permits', q: shown.name }">Permits</a>
      </div>
      <div class="head">
        <div><small>Phone</small>{{ shown.phone || '–' }}</div>
        <div><small>Terms</small>{{ shown.terms }}</div>
        <div>
          <small>Their reference</small>{{ shown.referenceRequired ? 'wanted on every order' : 'if they give one' }}
        </div>
        @for (shipTo of shown.shipTos; track shipTo.id) {
          <div>
            <small>{{ shipTo.label }}</small>{{ shipTo.street }}, {{ shipTo.postcode }} {{ shipTo.town }}
          </div>
        }
      </div>
      <div class="sheet scroll">
        <h2>Open items</h2>
        <k-open-items [items]="shown.openItems" [balance]="shown.balance" [currency]="shown.currency" />
        <h2>Agreements</h2>
        <table class="small">
          <tbody>
            @for (agreement of shown.agreements; track agreement.document.id) {
              <tr>
                <td>
                  <a class="link" [routerLink]="pathOf(agreement.document)">{{ agreement.document.number }}</a>
                </td>
                <td>{{ agreement.title }}</td>
                <td>{{ agreement.state.replace('-', ' ') }}</td>
                <td>to {{ day(agreement.lastDay) }}</td>
              </tr>
            } @empty {
              <tr>
                <td class="faint">No agreement yet.</td>
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
export class CustomerPage {
  private readonly parties = inject(Parties);
  private readonly session = inject(Session);
  private readonly titles = inject(Title);
  readonly id = input.required<string>();
  protected readonly loaded = liveDocument(
    this.id,
    (id) => this.parties.customer(Number(id)),
    (document) => ['CI', 'CN', 'PY', 'PP', 'AG'].includes(document.kind),
  );
  protected readonly sheet = computed(() => this.loaded.state().value);
  protected readonly pathOf = pathOf;
  protected readonly money = (value: string) => money(value, this.sheet()?.currency ?? 'MYR');
  protected readonly day = (value: string) => day(value, this.session.workDate());

  constructor() {
    effect(() => this.titles.setTitle(`${this.sheet()?.name ?? 'Customer'} · Kampong`));
  }
}
