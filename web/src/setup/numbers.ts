import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { Title } from '@angular/platform-browser';
import { Subject, startWith, switchMap } from 'rxjs';
import { DOCUMENTS, documentNumber } from '@core/kernel';
import * as contract from '@api/setup';
import { Session } from '../access';
import { Api } from '../kit/act/api';
import { Notices } from '../kit/act/notices';
import { Sheets } from '../kit/act/sheet';
import { SeriesSheet, type SeriesRow } from './series-sheet';

/** How documents are numbered: what stands before the serial, and which is next. // U2 */
@Component({
  selector: 'k-numbers',
  template: `<div class="page">
    <div class="title">
      <h1>Numbers of documents<span>what stands before them, and which is next; they have no gaps</span></h1>
    </div>
    <div class="sheet">
      <table class="small">
        <thead>
          <tr>
            <th>Document</th>
            <th>The next one</th>
            <th></th>
          </tr>
        </thead>
        <tbody>
          @for (row of rows()?.rows ?? []; track row.kind) {
            <tr>
              <td>{{ nameOf(row) }}</td>
              <td>
                <b>{{ numberOf(row) }}</b>
                @if (!row.begun) {
                  <span class="faint">none was given yet</span>
                }
              </td>
              <td>
                @if (session.may('upkeep')) {
                  <button
                    type="button"
                    class="act"
                    [attr.aria-label]="'Change… numbers of a ' + nameOf(row)"
                    (click)="change(row)"
                  >
                    Change…
                  </button>
                }
              </td>
            </tr>
          }
        </tbody>
      </table>
    </div>
  </div>`,
  styles: `
    table {
      max-width: 720px;
    }
    td span {
      margin-left: 12px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class NumbersPage {
  private readonly api = inject(Api);
  private readonly sheets = inject(Sheets);
  private readonly notices = inject(Notices);
  protected readonly session = inject(Session);
  private readonly again = new Subject<void>();
  protected readonly rows = toSignal(
    this.again.pipe(
      startWith(undefined),
      switchMap(() => this.api.call(contract.listSeries)),
    ),
  );

  constructor() {
    inject(Title).setTitle('Numbers of documents · Kampong');
  }

  protected readonly nameOf = ({ kind }: SeriesRow) => DOCUMENTS[kind].name;
  protected readonly numberOf = ({ kind, next, prefix }: SeriesRow) => documentNumber(kind, next, prefix);

  protected change(row: SeriesRow): void {
    this.sheets.open(SeriesSheet, row).subscribe((done) => {
      if (!done) return;
      this.notices.show(`Numbers of a ${this.nameOf(row)} changed.`);
      this.again.next();
    });
  }
}
