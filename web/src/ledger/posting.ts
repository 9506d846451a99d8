import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { DocumentKind, DocumentRef } from '@core/kernel';
import type * as z from 'zod';
import * as ledger from '@api/ledger';
import * as stock from '@api/stock';
import { DocumentPage, DocumentTitle } from '../kit/act/document-page';
import { kindName, pathOf } from '../kit/documents';
import { ReasonSheet, type AsksReason } from '../kit/act/reason-sheet';
import { Sheets } from '../kit/act/sheet';
import { Api } from '../kit/act/api';
import { day, quantity } from '../kit/formats';
import { Session } from '../access';
import { DocumentDock } from '../documents';

/** A journal or a payment: nothing but what it posted, who did it, and where it came from. */
@Component({
  selector: 'k-posting',
  imports: [DocumentDock, DocumentTitle, RouterLink],
  template: `<div class="page">
    <k-document-title [page]="page" />
    @if (page.sheet()?.adjustment; as adjustment) {
      <div class="head">
        @if (adjustment.reason) {
          <div><small>Why</small>{{ adjustment.reason }}</div>
        }
        @if (adjustment.carried) {
          <div><small>Carried</small><a class="link" routerLink="/carriages">Under way</a></div>
        }
        @if (adjustment.reverses; as other) {
          <div>
            <small>Takes back</small><a class="link" [routerLink]="pathOf(other)">{{ other.number }}</a>
          </div>
        }
        @if (adjustment.reversedBy; as other) {
          <div>
            <small>Taken back by</small><a class="link" [routerLink]="pathOf(other)">{{ other.number }}</a>
          </div>
        }
      </div>
    }
    @if (page.document(); as document) {
      <k-document-dock class="whole" [document]="document" />
    }
  </div>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PostingPage {
  private readonly api = inject(Api);
  private readonly session = inject(Session);
  private readonly sheets = inject(Sheets);
  private readonly workDate = this.session.workDate;
  readonly id = input.required<string>();
  readonly kind = input.required<DocumentKind>();
  protected readonly page: DocumentPage<string, z.infer<typeof ledger.openTrail.out>> = new DocumentPage({
    key: this.id,
    name: 'Posting',
    open: (id) => this.api.call(ledger.openTrail, { params: { kind: this.kind(), id: Number(id) } }),
    document: (trail) => trail.document,
    heading: ({ document, journals }) => ({
      strong: document.number,
      sub: [
        kindName(this.kind()),
        ...journals.slice(0, 1).map(({ postedOn }) => `posted ${day(postedOn, this.workDate())}`),
      ].join(', '),
    }),
    touchedBy: ({ kind }) => kind === 'JR',
    acts: () => {
      const trail = this.page.sheet();
      const { reverses, reversedBy } = trail?.adjustment ?? {};
      return [
        {
          name: 'take-back',
          label: 'Take it back…',
          when: !!trail?.adjustment && !reverses && !reversedBy && this.session.may('goods'),
          does: () => {
            const { document, adjustment } = trail!;
            return adjustment!.carried
              ? this.sheets.open(ReasonSheet, carryingBackOf(document))
              : this.sheets.open(ReasonSheet, takingBackOf(document));
          },
          says: ({ made }) => ['Taken back by', made[0]],
        },
      ];
    },
  });
  protected readonly pathOf = pathOf;
}

/** Takes back what a journal put right of stock. // W6 P1 */
const takingBackOf = (journal: DocumentRef): AsksReason<typeof stock.takeBackAdjustment> => ({
  head: `Take ${journal.number} back`,
  sub: 'It stays as it was posted; a journal that names it takes it back',
  act: 'Take it back',
  of: stock.takeBackAdjustment,
  input: (reason) => ({ journalId: journal.id, reason }),
});

/** Takes back what a journal carried between our places. // W6 P1 */
const carryingBackOf = (journal: DocumentRef): AsksReason<typeof stock.carryBack> => ({
  head: `Take ${journal.number} back`,
  sub: 'It stays as it was posted; a journal that names it carries the goods back',
  act: 'Take it back',
  of: stock.carryBack,
  input: (reason) => ({ journalId: journal.id, reason }),
  effect: (effects) => `${quantity(effects.quantity)} go back where they were`,
});
