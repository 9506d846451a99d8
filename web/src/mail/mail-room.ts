import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { RouterLink } from '@angular/router';
import { of } from 'rxjs';
import type * as z from 'zod';
import * as contract from '@api/mail';
import { Session } from '../access';
import { Api } from '../kit/act/api';
import { Dock } from '../kit/controls/dock';
import { pathOf } from '../kit/documents';
import { counted, day, moment } from '../kit/formats';
import type { GridColumn } from '../kit/grid';
import { DocumentList, ListPage } from '../kit/live/list-page';
import { liveDocument } from '../kit/live/live';

type Query = z.input<typeof contract.listMessages.query>;
type Row = z.infer<typeof contract.MessageRow>;

/** The mail room: it stands in for the post. What was sent to parties, newest first, each with its attachment. */
@Component({
  selector: 'k-mail-room',
  imports: [Dock, ListPage, RouterLink],
  template: `<k-list-page [list]="list">
    <span acts><a class="act" routerLink="/mail/drafts">To be sent</a></span>
    <k-dock [tabs]="['Message']" chosen="Message" [about]="message().value?.recipient ?? ''">
      @if (message().value; as shown) {
        <h3>{{ shown.subject }}</h3>
        <p class="faint">
          to {{ shown.party }}, {{ shown.recipient }}, by {{ shown.person }} on {{ moment(shown.sentAt) }}
        </p>
        <p class="body">{{ shown.body }}</p>
        <p>
          <a class="link" target="_blank" [href]="'/api/messages/' + shown.id + '/attachment'">{{
            shown.attachment
          }}</a>
          <small class="faint"> {{ size(shown.bytes) }}</small> · about
          <a class="link" [routerLink]="pathOf(shown.document)">{{ shown.document.number }}</a>
        </p>
      } @else {
        <p class="faint">Choose a message to read it.</p>
      }
    </k-dock>
  </k-list-page>`,
  styles: `
    h3 {
      font: 600 16px var(--serif);
    }
    .body {
      white-space: pre-line;
      margin: 8px 0;
      max-width: 70ch;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class MailRoom {
  private readonly session = inject(Session);
  private readonly api = inject(Api);
  protected readonly list: DocumentList<Query, Row> = new DocumentList({
    head: 'Mail room',
    sub: 'what was sent to customers and vendors; it stands in for the post',
    looksIn: 'Party, subject or document',
    load: (query) => this.api.call(contract.listMessages, { query }),
    kinds: [...contract.SENDABLE],
    document: (row) => row.document,
    columns: () => this.columns(),
    empty: 'Nothing was sent yet. Documents are sent from their own page, with Send…',
  });
  private readonly shownId = computed(() => this.list.row()?.id ?? null);
  protected readonly message = liveDocument(
    this.shownId,
    (id) => (id === null ? of(null) : this.api.call(contract.openMessage, { params: { id } })),
    () => false,
  ).state;

  private columns(): GridColumn<Row>[] {
    return [
      { id: 'sent', head: 'Sent', width: 110, text: (row) => day(row.sentOn, this.session.workDate()) },
      { id: 'party', head: 'To', width: 210, text: (row) => row.party },
      { id: 'address', head: 'Address', width: 250, text: (row) => row.recipient },
      { id: 'subject', head: 'Subject', text: (row) => row.subject },
      {
        id: 'document',
        head: 'Document',
        width: 100,
        text: (row) => row.document.number,
        link: this.list.pathTo,
      },
      { id: 'by', head: 'By', width: 100, text: (row) => row.person },
    ];
  }
  protected readonly pathOf = pathOf;
  protected readonly moment = moment;
  protected readonly size = (bytes: number) => counted(Math.max(1, Math.round(bytes / 1024)), 'kilobyte');
}
