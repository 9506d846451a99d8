import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { DocumentKind } from '@core/kernel';
import { Session } from '../access';
import { DocumentDock } from '../documents';
import { DocumentPage, DocumentTitle, type DocumentAct } from '../kit/act/document-page';
import { Sheets } from '../kit/act/sheet';
import { PlaceSheet } from '../supply';
import { pathOf } from '../kit/documents';
import { day, quantity } from '../kit/formats';
import { forWhom, KIND_WORDS } from './planned-orders';
import { Promises, type PlannedRow, type PlannedSheet } from './service';

const KINDS = { make: 'PR', assemble: 'AS', buy: 'PL' } as const;

/** One planned order: who it is for, what it needs and when, where it is worked on, and what is planned for it. */
@Component({
  selector: 'k-planned',
  imports: [DocumentDock, DocumentTitle, RouterLink],
  template: `<div class="page">
    <k-document-title [page]="page"><a class="act" routerLink="/load">Load of the work centres</a></k-document-title>
    @if (page.sheet(); as shown) {
      <div class="head">
        <div>
          <small>For</small>
          @if (shown.for; as whom) {
            <a class="link" [routerLink]="pathTo(whom)">{{ forWhom(shown) }}</a>
          } @else {
            our own stock
          }
        </div>
        <div>
          <small>Item</small>
          <a class="link" [routerLink]="pathOf({ kind: 'item', id: shown.item.id })">{{ shown.item.name }}</a>
        </div>
        <div>
          <small>{{ shown.kind === 'buy' ? 'Order by' : 'Begun by' }}</small>{{ day(shown.start) }}
        </div>
        @if (shown.purchase; as purchase) {
          <div>
            <small>Placed with</small><a class="link" [routerLink]="pathOf(purchase)">{{ purchase.number }}</a>
          </div>
        }
        <div><small>Held for it</small>{{ number(shown.held) }} of {{ number(shown.quantity) }}</div>
      </div>
      <div class="sheet columns">
        @if (shown.kind === 'buy') {
          <p class="faint">
            It is bought:
            {{ shown.purchase ? 'its purchase order goes on from here.' : 'place it by ' + day(shown.start) + '.' }}
          </p>
        } @else {
          <section>
            <h2>Components</h2>
            <table class="small">
              <thead>
                <tr>
                  <th>Item</th>
                  <th class="num">Quantity</th>
                  <th class="num">Planned for it</th>
                  <th>Needed on</th>
                </tr>
              </thead>
              <tbody>
                @for (row of shown.components; track $index) {
                  <tr>
                    <td>
                      <a class="link" [routerLink]="pathOf({ kind: 'item', id: row.item.id })">{{ row.item.number }}</a>
                      {{ row.item.name }}
                    </td>
                    <td class="num">{{ number(row.quantity) }}</td>
                    <td class="num">{{ row.covered === '0' ? 'from stock' : number(row.covered) }}</td>
                    <td>{{ day(row.neededOn) }}</td>
                  </tr>
                } @empty {
                  <tr>
                    <td colspan="4" class="faint">Nothing goes into it.</td>
                  </tr>
                }
              </tbody>
            </table>
          </section>
          <section>
            <h2>Operations</h2>
            <table class="small">
              <thead>
                <tr>
                  <th></th>
                  <th>Operation</th>
                  <th>Work centre</th>
                  <th class="num">Minutes</th>
                  <th>From</th>
                  <th>To</th>
                </tr>
              </thead>
              <tbody>
                @for (row of shown.operations; track row.no) {
                  <tr>
                    <td>{{ row.no }}</td>
                    <td>{{ row.name }}</td>
                    <td>{{ row.centre }}</td>
                    <td class="num">{{ row.minutes }}</td>
                    <td>{{ day(row.firstDay) }}</td>
                    <td>{{ day(row.lastDay) }}</td>
                  </tr>
                } @empty {
                  <tr>
                    <td colspan="6" class="faint">It goes through no work centre.</td>
                  </tr>
                }
              </tbody>
            </table>
          </section>
        }
        @if (shown.below.length > 0) {
          <section>
            <h2>Planned for it</h2>
            <table class="small">
              <tbody>
                @for (row of shown.below; track row.id) {
                  <tr>
                    <td>
                      <a class="link" [routerLink]="pathOf({ kind: 'PR', id: row.id })">{{ row.number }}</a>
                    </td>
                    <td>{{ row.item.number }}</td>
                    <td class="num">{{ number(row.quantity) }}</td>
                    <td>{{ row.vendor ? 'from ' + row.vendor : words[row.kind] }}</td>
                    <td>{{ day(row.due) }}</td>
                  </tr>
                }
              </tbody>
            </table>
          </section>
        }
      </div>
      <k-document-dock [document]="page.document()" [itemId]="shown.item.id" />
    }
  </div>`,
  styles: `
    h2 {
      font: 600 16px var(--serif);
      margin: 12px 0 2px;
    }
    .columns {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 4px 32px;
      align-content: start;
      overflow: auto;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PlannedPage {
  private readonly promises = inject(Promises);
  private readonly session = inject(Session);
  private readonly sheets = inject(Sheets);
  readonly id = input.required<string>();
  readonly do = input<string>();
  protected readonly page: DocumentPage<string, PlannedSheet> = new DocumentPage({
    key: this.id,
    name: 'Planned',
    open: (id) => this.promises.openPlanned(Number(id)),
    document: (sheet) => ({ kind: KINDS[sheet.kind], id: sheet.id, number: sheet.number }),
    heading: (sheet) => ({
      strong: sheet.number,
      rest: ` ${quantity(sheet.quantity)} ${sheet.item.number}`,
      sub: `${sheet.state} · ${sheet.vendor ? `bought from ${sheet.vendor}` : KIND_WORDS[sheet.kind]} · there on ${this.day(sheet.due)}`,
    }),
    acts: () => this.acts(),
    doing: this.do,
    touchedBy: (document) => ['SO', 'PR', 'AS', 'PL'].includes(document.kind),
  });
  private acts(): DocumentAct[] {
    const shown = this.page.sheet();
    if (!shown) return [];
    const { id, kind, state } = shown;
    const bought = kind === 'buy';
    return [
      {
        name: 'place',
        label: 'Place the purchase',
        place: 'step',
        when: bought && state === 'planned',
        asks: true,
        does: () => this.sheets.open(PlaceSheet, { plannedId: id }),
        says: ({ made: [purchase] }) => ['Placed:', purchase],
      },
      {
        name: 'firm',
        label: 'Make it firm',
        place: 'step',
        when: !bought && state === 'planned',
        does: () => this.promises.makeFirm(id, true),
        says: () => [`${shown.number} is firm: promising and planning leave it as it is.`],
      },
      {
        name: 'plan-again',
        label: 'Plan it again',
        when: !bought && state === 'firm',
        does: () => this.promises.makeFirm(id, false),
        says: () => [`${shown.number} is only planned again.`],
      },
    ];
  }

  protected readonly words = KIND_WORDS;
  protected readonly forWhom = forWhom;
  protected readonly pathOf = pathOf;
  protected readonly pathTo = (whom: NonNullable<PlannedRow['for']>) =>
    pathOf({ kind: whom.kind as DocumentKind, id: whom.id });
  protected readonly number = quantity;
  protected readonly day = (value: string) => day(value, this.session.workDate());
}
