import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import type * as z from 'zod';
import type { DocumentRef } from '@core/kernel';
import * as contract from '@api/mail';
import { Session } from '../access';
import { Api } from '../kit/act/api';
import { TextField } from '../kit/fields';
import { day } from '../kit/formats';
import { ActForm, Sheet } from '../kit/act/sheet';

/** A document on its way to its party: to whom, in which words, and the print that goes with it. */
@Component({
  selector: 'k-send-sheet',
  imports: [Sheet, TextField],
  template: `<k-sheet
    [head]="'Send ' + document.number"
    [sub]="party()"
    act="Send it"
    [busy]="form.busy() || party() === ''"
    [refusals]="form.loose(fields)"
    [warnings]="form.warnings"
    (done)="form.do()"
  >
    <div class="fields">
      <k-text
        data-first
        label="To"
        [(value)]="recipient"
        [most]="120"
        [error]="form.at('recipient', recipient() !== '')"
      />
      <k-text label="Subject" [(value)]="subject" [most]="200" [error]="form.at('subject')" />
    </div>
    <label for="message">Text</label>
    <textarea
      id="message"
      rows="9"
      maxlength="4000"
      [value]="body()"
      [attr.aria-invalid]="form.at('body') ? true : null"
      (input)="body.set($any($event.target).value)"
    ></textarea>
    @if (form.at('body'); as refused) {
      <p class="bad" role="alert">{{ refused }}</p>
    }
    <p>
      Goes with it:
      <a class="link" target="_blank" [href]="print">{{ attachment() }}</a>{{
        sentOn() ? '; it was sent already, ' + day(sentOn()!) : ''
      }}
    </p>
    <span effect>The mail room stands in for the post: what is sent can be read there</span>
  </k-sheet>`,
  styles: `
    label {
      font-size: 13px;
      color: var(--ink-soft);
    }
    textarea {
      display: block;
      width: 100%;
      margin: 2px 0 10px;
      padding: 8px 10px;
      font: inherit;
      color: var(--ink);
      background: var(--paper-lift);
      border: 1px solid var(--rule-strong);
      border-radius: 3px;
      resize: vertical;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SendSheet {
  protected readonly document = inject<DocumentRef & { draft?: z.infer<typeof contract.DraftRow> }>(DIALOG_DATA);
  private readonly workDate = inject(Session).workDate;
  protected readonly party = signal('');
  protected readonly recipient = signal('');
  protected readonly subject = signal('');
  protected readonly body = signal('');
  protected readonly attachment = signal(`${this.document.number}.pdf`);
  protected readonly sentOn = signal<string | null>(null);
  protected readonly fields = [/^recipient$/, /^subject$/, /^body$/];
  protected readonly print = `/api/documents/${this.document.kind}/${this.document.id}/pdf`;
  protected readonly form = new ActForm(
    contract.sendDocument,
    computed(() => ({
      kind: this.document.kind as (typeof contract.SENDABLE)[number],
      id: this.document.id,
      recipient: this.recipient(),
      subject: this.subject(),
      body: this.body(),
      ...(this.document.draft ? { draftId: this.document.draft.id } : {}),
    })),
    () => this.party() !== '',
  );

  constructor() {
    const { kind, id, draft: written } = this.document;
    const read = inject(Api).call(contract.draftMessage, { params: { kind, id } }).pipe(takeUntilDestroyed());
    this.form.begin(read, (draft) => {
      this.party.set(draft.party);
      this.recipient.set(written?.recipient ?? draft.recipient);
      this.subject.set(written?.subject ?? draft.subject);
      this.body.set(written?.body ?? draft.body);
      this.attachment.set(draft.attachment);
      this.sentOn.set(draft.sentOn);
    });
  }

  protected readonly day = (value: string) => day(value, this.workDate());
}
