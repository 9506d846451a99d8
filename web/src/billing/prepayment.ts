import { ChangeDetectionStrategy, Component, computed, effect, inject, input } from '@angular/core';
import { Title } from '@angular/platform-browser';
import { RouterLink } from '@angular/router';
import { Session } from '../access/session';
import { DocumentDock } from '../documents/dock';
import { pathOf } from '../kit/documents';
import { day, money } from '../kit/formats';
import { liveDocument } from '../kit/live';
import { Refusals } from '../kit/refusals';
import { Billing } from './service';

const MOVED = { drawn: 'Drawn by', returned: 'Paid back', carried: 'Carried to the renewal' } as const;

/** One prepayment: what is left of it, and everything that moved it. // A12 */
@Component({
  selector: 'k-prepayment',
  imports: [DocumentDock, Refusals, RouterLink],
  template: `<div class="page">
    @if (sheet(); as shown) {
      <div class="title">
        <h1>
          <b>{{ shown.document.number }}</b> from {{ shown.party.name
          }}<span>{{ shown.currency }} {{ money(shown.left) }} left of {{ money(shown.amount) }}</span>
        </h1>
      </div>
      <div class="head">
        <div>
          <small>Customer</small
          ><a class="link" [routerLink]="pathOf({ kind: 'customer', id: shown.party.id })">{{ shown.party.name }}</a>
        </div>
        <div>
          <small>Agreement</small><a class="link" [routerLink]="pathOf(shown.agreement)">{{ shown.agreement.number }}</a
          >{{ shown.lineNo === null ? '' : ', line ' + shown.lineNo }}
        </div>
        <div><small>Taken</small>{{ day(shown.takenOn) }}</div>
      </div>
      <div class="sheet">
        <table class="small">
          <thead>
            <tr>
              <th>What</th>
              <th>Day</th>
              <th>Invoice</th>
              <th class="num">Amount</th>
            </tr>
          </thead>
          <tbody>
            @for (move of shown.moves; track $index) {
              <tr>
                <td>{{ moved[move.kind] }}</td>
                <td>{{ day(move.day) }}</td>
                <td>
                  @if (move.invoice; as invoice) {
                    <a class="link" [routerLink]="pathOf(invoice)">{{ invoice.number }}</a>
                  }
                </td>
                <td class="num">{{ money(move.amount) }}</td>
              </tr>
            } @empty {
              <tr>
                <td colspan="4" class="faint">Nothing has drawn on it yet; the next invoice of the agreement will.</td>
              </tr>
            }
          </tbody>
        </table>
      </div>
      <k-document-dock [document]="shown.document" />
    } @else {
      <k-refusals [refusals]="loaded.state().refusals" />
    }
  </div>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PrepaymentPage {
  private readonly billing = inject(Billing);
  private readonly session = inject(Session);
  private readonly titles = inject(Title);
  readonly id = input.required<string>();
  protected readonly loaded = liveDocument(
    this.id,
    (id) => this.billing.prepayment(Number(id)),
    (document, shown) => document.kind === 'AG' && document.id === shown?.agreement.id,
  );
  protected readonly sheet = computed(() => this.loaded.state().value);
  protected readonly moved = MOVED;
  protected readonly money = (value: string) => money(value, this.sheet()?.currency ?? 'MYR');
  protected readonly day = (value: string) => day(value, this.session.workDate());
  protected readonly pathOf = pathOf;

  constructor() {
    effect(() => this.titles.setTitle(`${this.sheet()?.document.number ?? 'Prepayment'} · Kampong`));
  }
}
