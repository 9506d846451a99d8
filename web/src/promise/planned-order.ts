import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { DocumentKind } from '@core/kernel';
import { Session } from '../access';
import { DocumentDock } from '../documents';
import { DocumentPage, DocumentTitle, type DocumentAct } from '../kit/act/document-page';
import { Sheets } from '../kit/act/sheet';
import { pathOf } from '../kit/documents';
import { day, quantity } from '../kit/formats';
import { PlaceSheet } from '../supply';
import { Promises, type PlannedRow, type PlannedSheet } from './service';

/** A planned purchase: who it is for, by when it is ordered, and the purchase it was placed on. // T12 */
@Component({
  selector: 'k-planned',
  imports: [DocumentDock, DocumentTitle, RouterLink],
  template: `<div class="page">
    <k-document-title [page]="page"><a class="act" routerLink="/bench">Bench</a></k-document-title>
    @if (page.sheet(); as shown) {
      <div class="head">
        <div>
          <small>For</small>
          @if (shown.for; as whom) {
            <a class="link" [routerLink]="pathTo(whom)">{{ whom.number }}{{ whom.party ? ', ' + whom.party : '' }}</a>
          } @else {
            our own stock
          }
        </div>
        <div>
          <small>Item</small>
          <a class="link" [routerLink]="pathOf({ kind: 'item', id: shown.item.id })">{{ shown.item.name }}</a>
        </div>
        <div><small>Order by</small>{{ day(shown.start) }}</div>
        @if (shown.purchase; as purchase) {
          <div>
            <small>Placed with</small><a class="link" [routerLink]="pathOf(purchase)">{{ purchase.number }}</a>
          </div>
        }
        <div><small>Held for it</small>{{ number(shown.held) }} of {{ number(shown.quantity) }}</div>
      </div>
      <div class="sheet">
        <p class="faint">
          It is bought:
          {{ shown.purchase ? 'its purchase order goes on from here.' : 'place it by ' + day(shown.start) + '.' }}
        </p>
      </div>
      <k-document-dock [document]="page.document()" [itemId]="shown.item.id" />
    }
  </div>`,
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
    document: (sheet) => ({ kind: 'PL', id: sheet.id, number: sheet.number }),
    heading: (sheet) => ({
      strong: sheet.number,
      rest: ` ${quantity(sheet.quantity)} ${sheet.item.number}`,
      sub: `${sheet.state} · bought from ${sheet.vendor} · there on ${this.day(sheet.due)}`,
    }),
    acts: () => this.acts(),
    doing: this.do,
    touchedBy: (document) => ['SO', 'PR', 'AS', 'PL'].includes(document.kind),
  });

  private acts(): DocumentAct[] {
    const shown = this.page.sheet();
    if (!shown) return [];
    return [
      {
        name: 'place',
        label: 'Place the purchase',
        place: 'step',
        when: shown.state === 'planned',
        asks: true,
        does: () => this.sheets.open(PlaceSheet, { plannedId: shown.id }),
        says: ({ made: [purchase] }) => ['Placed:', purchase],
      },
    ];
  }

  protected readonly pathOf = pathOf;
  protected readonly pathTo = (whom: NonNullable<PlannedRow['for']>) =>
    pathOf({ kind: whom.kind as DocumentKind, id: whom.id });
  protected readonly number = quantity;
  protected readonly day = (value: string) => day(value, this.session.workDate());
}
