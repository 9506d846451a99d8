import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { DocumentRef } from '@core/kernel';
import { Session } from '../access/session';
import { Quiet } from '../kit/quiet';
import { Sheets } from '../kit/sheet';
import { SendSheet } from './send-sheet';

/** A document's print, and sending it to its party. */
@Component({
  selector: 'k-post-buttons',
  template: `<a class="act" [href]="print()" target="_blank">PDF</a>
    @if (mayShow()) {
      <button type="button" class="act" (click)="send()">Send…</button>
    }`,
  styles: `
    :host {
      display: contents;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PostButtons {
  private readonly session = inject(Session);
  private readonly sheets = inject(Sheets);
  private readonly quiet = inject(Quiet);
  readonly document = input.required<DocumentRef>();
  protected readonly print = computed(() => `/api/documents/${this.document().kind}/${this.document().id}/pdf`);
  protected readonly mayShow = computed(() => this.session.may('send'));

  protected send(): void {
    const document = this.document();
    this.sheets.open(SendSheet, document).subscribe((done) => {
      if (done) this.quiet.say('Sent; it can be read in the mail room:', document);
    });
  }
}
