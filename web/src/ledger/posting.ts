import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import type { DocumentKind } from '@core/kernel';
import type * as z from 'zod';
import * as ledger from '@api/ledger';
import { DocumentPage, DocumentTitle } from '../kit/act/document-page';
import { kindName } from '../kit/documents';
import { Api } from '../kit/act/api';
import { day } from '../kit/formats';
import { Session } from '../access';
import { DocumentDock } from '../documents';

/** A journal or a payment: nothing but what it posted, who did it, and where it came from. */
@Component({
  selector: 'k-posting',
  imports: [DocumentDock, DocumentTitle],
  template: `<div class="page">
    <k-document-title [page]="page" />
    @if (page.document(); as document) {
      <k-document-dock class="whole" [document]="document" />
    }
  </div>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PostingPage {
  private readonly api = inject(Api);
  private readonly workDate = inject(Session).workDate;
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
    touchedBy: () => false,
  });
}
