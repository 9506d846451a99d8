import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import type * as z from 'zod';
import * as contract from '@api/mail';
import { Session } from '../access';
import { SendSheet } from '../documents';
import { Api, refusalsOf, type RefusalShown } from '../kit/act/api';
import { Dock } from '../kit/controls/dock';
import { day } from '../kit/formats';
import type { GridColumn } from '../kit/grid';
import { DocumentList, ListPage } from '../kit/live/list-page';
import { Notices } from '../kit/act/notices';
import { Refusals } from '../kit/act/refusals';
import { Sheets } from '../kit/act/sheet';

type Query = z.input<typeof contract.listDrafts.query>;
type Row = z.infer<typeof contract.DraftRow>;

/** Messages that were drafted: read, changed and sent by somebody, or dropped. // T9 */
@Component({
  selector: 'k-drafts',
  imports: [Dock, ListPage, Refusals, RouterLink],
  template: `<k-list-page [list]="list">
    <span acts><a class="act" routerLink="/mail">What was sent</a></span>
    <k-dock [tabs]="['Message']" chosen="Message" [about]="list.row()?.recipient ?? ''">
      <k-refusals [refusals]="refusals()" />
      @if (list.row(); as row) {
        <div class="message">
          <div>
            <h3>{{ row.subject }}</h3>
            <p class="faint">to {{ row.party }}, drafted for {{ row.person }}</p>
            <p class="body">{{ row.body }}</p>
          </div>
          <div class="does">
            <button type="button" class="act" (click)="drop(row)">Drop it</button>
            <button type="button" class="act next" (click)="send(row)">Send…</button>
          </div>
        </div>
      } @else {
        <p class="faint">Choose a message to read it.</p>
      }
    </k-dock>
  </k-list-page>`,
  styles: `
    h3 {
      font: 600 16px var(--serif);
    }
    .message {
      display: flex;
      justify-content: space-between;
      gap: 24px;
    }
    .does {
      display: flex;
      gap: 8px;
      align-items: start;
      white-space: nowrap;
    }
    .body {
      white-space: pre-line;
      margin: 8px 0;
      max-width: 90ch;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DraftsPage {
  private readonly session = inject(Session);
  private readonly api = inject(Api);
  private readonly sheets = inject(Sheets);
  private readonly notices = inject(Notices);
  protected readonly list: DocumentList<Query, Row> = new DocumentList({
    head: 'To be sent',
    sub: 'messages that were drafted; each is read, changed where it must be, and sent or dropped',
    looksIn: 'Party or subject',
    load: (query) => this.api.call(contract.listDrafts, { query }),
    kinds: [...contract.SENDABLE],
    document: (row) => row.document,
    columns: () => this.columns(),
    empty: 'Nothing waits to be sent. Whoever’s promise moves gets a message drafted here.',
  });
  protected readonly refusals = signal<RefusalShown[]>([]);

  private columns(): GridColumn<Row>[] {
    return [
      { id: 'written', head: 'Drafted', width: 110, text: (row) => day(row.writtenOn, this.session.workDate()) },
      { id: 'party', head: 'To', width: 210, text: (row) => row.party },
      { id: 'address', head: 'Address', width: 250, text: (row) => row.recipient },
      { id: 'subject', head: 'Subject', text: (row) => row.subject },
      { id: 'document', head: 'Goes with it', width: 110, text: (row) => row.document.number, link: this.list.pathTo },
    ];
  }

  protected send(row: Row): void {
    this.sheets.open(SendSheet, { ...row.document, draft: row }).subscribe((done) => {
      if (!done) return;
      this.notices.show(`Sent to ${row.party}.`);
    });
  }

  protected drop(row: Row): void {
    this.refusals.set([]);
    this.api.act(contract.dropDraft, { id: row.id }).subscribe({
      next: () => this.notices.show(`The message to ${row.party} is dropped.`),
      error: (error: unknown) => {
        this.refusals.set(refusalsOf(error));
      },
    });
  }
}
