import { DialogRef } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type * as z from 'zod';
import * as contract from '@api/sisters';
import { Api, refusalsOf, type ActDone, type RefusalShown } from '../kit/act/api';
import { FileDrop, type FileRead } from '../kit/act/file-drop';
import { Sheet } from '../kit/act/sheet';
import { arrivalOf } from './words';

type Arrival = z.infer<typeof contract.bringInExchange.preview>;

/** A file of a company elsewhere: what it tells, before it stands in the tray. // X2 */
@Component({
  selector: 'k-bring-in-sheet',
  imports: [FileDrop, Sheet],
  template: `<k-sheet
    head="Bring in a file"
    sub="what a sister company of another installation sent"
    act="Bring it in"
    [busy]="busy() || told() === null"
    [refusals]="refusals()"
    (done)="take()"
  >
    <k-file-drop label="File of a sister company" accept=".xml" (chosen)="read($event)" />
    @if (told(); as arrival) {
      <p>
        <b>{{ arrival.number }}</b> {{ words(arrival) }}
      </p>
    } @else {
      <p class="faint">
        An order, an order response, a despatch advice, an invoice or an answer in UBL 2.1. Nothing is made before you
        have seen what it tells; what came before comes once.
      </p>
    }
  </k-sheet>`,
  styles: `
    p {
      margin: 14px 0 6px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BringInSheet {
  private readonly api = inject(Api);
  private readonly ref = inject(DialogRef<ActDone>);
  private readonly file = signal<FileRead | null>(null);
  private readonly found = signal<Arrival | null>(null);
  protected readonly refusals = signal<RefusalShown[]>([]);
  protected readonly busy = signal(false);
  protected readonly told = computed(() => (this.refusals().length > 0 ? null : this.found()));
  protected readonly words = arrivalOf;

  protected read(file: FileRead): void {
    this.file.set(file);
    this.api.preview(contract.bringInExchange, file).subscribe({
      next: ({ effects, refusals }) => {
        this.found.set(effects);
        this.refusals.set(refusals);
      },
      error: (error: unknown) => this.refusals.set(refusalsOf(error)),
    });
  }

  protected take(): void {
    const file = this.file();
    if (!file || this.told() === null || this.busy()) return;
    this.busy.set(true);
    this.api.act(contract.bringInExchange, file).subscribe({
      next: (done) => this.ref.close(done),
      error: (error: unknown) => {
        this.busy.set(false);
        this.refusals.set(refusalsOf(error));
      },
    });
  }
}
