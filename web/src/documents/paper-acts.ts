import { inject } from '@angular/core';
import type { DocumentRef } from '@core/kernel';
import { Session } from '../access';
import type { DocumentAct } from '../kit/act/document-page';
import { Sheets } from '../kit/act/sheet';
import { SendSheet } from './send-sheet';

/** What can be done with the paper of a document: its print, and sending it. To be made in an injection context. */
export class PaperActs {
  private readonly session = inject(Session);
  private readonly sheets = inject(Sheets);

  of(document: DocumentRef, place: DocumentAct['place'] = 'button'): DocumentAct[] {
    return [
      { name: 'pdf', label: 'PDF', place, file: `/api/documents/${document.kind}/${document.id}/pdf` },
      {
        name: 'send',
        label: 'Send…',
        place,
        when: this.session.may('send'),
        does: () => this.sheets.open(SendSheet, document),
        says: () => ['Sent; it can be read in the mail room:', document],
      },
    ];
  }
}
