import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { DocumentRef } from '@core/kernel';
import { DocumentDock } from './dock';

/** The dock once the page is there: the first page does not wait for it. */
@Component({
  selector: 'k-document-dock-lazy',
  imports: [DocumentDock],
  template: `@defer (on idle) {
      <k-document-dock [document]="document()" [orderLineId]="orderLineId()" />
    } @placeholder {
      <div class="dock-to-come"></div>
    }`,
  styles: `
    .dock-to-come {
      height: 236px;
      background: var(--paper-sunk);
      border-top: 1px solid var(--rule-strong);
      padding: 10px 24px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DocumentDockLazy {
  readonly document = input<DocumentRef | null>(null);
  readonly orderLineId = input<number | null>(null);
}
