import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { Title } from '@angular/platform-browser';
import { RouterLink } from '@angular/router';
import { Session } from '../access';
import { Refusals } from '../kit/act/refusals';
import { Sheets } from '../kit/act/sheet';
import { liveDocument } from '../kit/live/live';
import { ElsewhereSheet } from './elsewhere-sheet';
import { Sisters, type SisterRow } from './service';

/** The other companies of the installation, and how they are paired with ours. // X1 */
@Component({
  selector: 'k-sisters',
  imports: [Refusals, RouterLink],
  template: `<div class="page">
    <div class="title">
      <h1>Sister companies<span>who each is to us, and what goes between us</span></h1>
      @if (session.may('lists')) {
        <button type="button" class="act" (click)="keep(null)">Add a company elsewhere…</button>
      }
      <a class="act" routerLink="/tray">Tray</a>
    </div>
    <k-refusals [refusals]="state().refusals" />
    <section class="sheet" aria-label="Sister companies">
      <table class="small">
        <thead>
          <tr>
            <th>Company</th>
            <th>Buys of us as</th>
            <th>Sells us as</th>
            <th>They pay</th>
            <th class="num">Items that are one</th>
            <th class="num">Waits here</th>
            <th class="num">Waits there</th>
            <th class="num">Came back</th>
            <th></th>
          </tr>
        </thead>
        <tbody>
          @for (row of state().value?.rows ?? []; track row.sister.id) {
            <tr>
              <td>
                <a class="link" [routerLink]="['/sisters', row.sister.id]">{{ row.sister.name }}</a>
                <span class="faint"> {{ row.sister.currency }}{{ row.sister.elsewhere ? ', elsewhere' : '' }}</span>
              </td>
              <td>{{ row.half.customer?.number ?? '–' }}</td>
              <td>{{ row.half.vendor?.number ?? '–' }}</td>
              <td>{{ pays(row) }}</td>
              <td class="num">{{ row.items }}</td>
              <td class="num">{{ row.waiting || '–' }}</td>
              <td class="num">{{ row.sent || '–' }}</td>
              <td class="num" [class.need]="row.returned > 0">{{ row.returned || '–' }}</td>
              <td>
                @if (session.may('see-debts')) {
                  <a class="link" [routerLink]="['/sisters', row.sister.id, 'reconciliation']">Books side by side</a>
                }
                @if (row.sister.elsewhere && session.may('lists')) {
                  <button type="button" class="act" [attr.aria-label]="'Change ' + row.sister.name" (click)="keep(row)">
                    Change…
                  </button>
                }
              </td>
            </tr>
          } @empty {
            <tr>
              <td class="faint">There is no other company in this installation, and none elsewhere is known.</td>
            </tr>
          }
        </tbody>
      </table>
    </section>
  </div>`,
  styles: `
    .sheet {
      padding: 8px 24px;
      overflow: auto;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SistersPage {
  private readonly sisters = inject(Sisters);
  protected readonly session = inject(Session);
  private readonly sheets = inject(Sheets);
  private readonly asked = signal(0);
  protected readonly state = liveDocument(
    computed(() => ({ at: this.session.workDate(), asked: this.asked() })),
    () => this.sisters.all(),
    () => true,
  ).state;

  constructor() {
    inject(Title).setTitle('Sister companies · Kampong');
  }

  /** A company elsewhere is added, or changed. */
  protected keep(row: SisterRow | null): void {
    this.sheets.open(ElsewhereSheet, { row }).subscribe((done) => {
      if (done) this.asked.update((count) => count + 1);
    });
  }

  protected pays({ half }: SisterRow): string {
    if (half.customer === null) return '–';
    if (half.transfer === 'ordinary') return 'what anybody pays';
    return half.transfer === 'list-less' ? `the list less ${half.perCent} %` : `what it cost and ${half.perCent} %`;
  }
}
