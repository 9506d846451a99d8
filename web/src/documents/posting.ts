import { ChangeDetectionStrategy, Component, computed, effect, inject, input } from '@angular/core';
import { Title } from '@angular/platform-browser';
import type { DocumentKind, DocumentRef } from '@core/kernel';
import * as ledger from '@api/ledger';
import { kindName } from '../kit/documents';
import { Api } from '../kit/api';
import { counted } from '../kit/formats';
import { liveDocument } from '../kit/live';
import { Refusals } from '../kit/refusals';
import { DocumentDock } from './dock';

/** A journal or a payment: nothing but what it posted, who did it, and where it came from. */
@Component({
  selector: 'k-posting',
  imports: [DocumentDock, Refusals],
  template: `<div class="page">
    @if (trail(); as shown) {
      <div class="title">
        <h1>
          <b>{{ shown.document.number }}</b><span>{{ name() }}, {{ counted(shown.journals.length, 'journal') }}</span>
        </h1>
      </div>
      <k-document-dock class="whole" [document]="document()" />
    } @else {
      <k-refusals [refusals]="loaded.state().refusals" />
    }
  </div>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PostingPage {
  private readonly api = inject(Api);
  private readonly titles = inject(Title);
  readonly id = input.required<string>();
  readonly kind = input.required<DocumentKind>();
  private readonly key = computed(() => ({ kind: this.kind(), id: Number(this.id()) }));
  protected readonly loaded = liveDocument(
    this.key,
    (params) => this.api.call(ledger.openTrail, { params }),
    () => false,
  );
  protected readonly trail = computed(() => this.loaded.state().value);
  protected readonly document = computed<DocumentRef | null>(() => this.trail()?.document ?? null);
  protected readonly name = computed(() => kindName(this.kind()));
  protected readonly counted = counted;

  constructor() {
    effect(() => this.titles.setTitle(`${this.trail()?.document.number ?? 'Posting'} · Kampong`));
  }
}
