import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { map } from 'rxjs/operators';
import { RouterLink } from '@angular/router';
import { dec } from '@core/kernel';
import { Session } from '../access';
import { DocumentPage, DocumentTitle } from '../kit/act/document-page';
import { Sheets } from '../kit/act/sheet';
import { counted, day, money } from '../kit/formats';
import { CloseDrawerSheet, MoveDrawerSheet } from './drawer-sheets';
import { Counter, type DrawerSheet } from './service';

const TENDER_NAMES = { cash: 'Cash', card: 'Card', voucher: 'Vouchers', account: 'On account' } as const;

/** One drawer: what came in by which kind of payment, what was put in or taken out, and how it was counted. // C4 */
@Component({
  selector: 'k-drawer',
  imports: [DocumentTitle, RouterLink],
  template: `<div class="page">
    <k-document-title [page]="page" />
    @if (page.sheet(); as shown) {
      <div class="columns">
        <section>
          <h2>What it holds</h2>
          <table>
            <tr>
              <td>Put in when it was opened</td>
              <td class="num">{{ money(shown.float) }}</td>
            </tr>
            <tr>
              <td>Cash taken</td>
              <td class="num">{{ money(cashOf(shown)) }}</td>
            </tr>
            @for (move of shown.moves; track $index) {
              <tr>
                <td>{{ move.reason }}, {{ move.by }}</td>
                <td class="num">{{ money(move.amount) }}</td>
              </tr>
            }
            <tr class="sum">
              <td>Should hold</td>
              <td class="num">{{ money(shown.cash) }}</td>
            </tr>
            @if (shown.counted !== null) {
              <tr>
                <td>Counted{{ shown.closedBy ? ' by ' + shown.closedBy : '' }}</td>
                <td class="num">{{ money(shown.counted) }}</td>
              </tr>
              @if (differs(shown) !== '0') {
                <tr class="differs">
                  <td>{{ shown.reason }}</td>
                  <td class="num">{{ money(differs(shown)) }}</td>
                </tr>
              }
            }
          </table>
        </section>
        <section>
          <h2>Takings</h2>
          <table>
            @for (each of shown.takings; track each.kind) {
              <tr>
                <td>{{ names[each.kind] }}</td>
                <td class="num">{{ counted(each.count, 'slip') }}</td>
                <td class="num">{{ money(each.amount) }}</td>
              </tr>
            } @empty {
              <tr>
                <td>Nothing yet; what is sold at the till stands here.</td>
              </tr>
            }
          </table>
          @if (shown.slips.count > 0) {
            <p>
              <a class="link" routerLink="/slips" [queryParams]="{ drawer: shown.document.id }"
                >{{ counted(shown.slips.count, 'slip') }}, {{ shown.slips.first }} to {{ shown.slips.last }}</a
              >
            </p>
          }
        </section>
        @if (shown.counts.length > 0) {
          <section>
            <h2>As it was counted</h2>
            <table>
              @for (each of shown.counts; track each.piece) {
                <tr>
                  <td class="num">{{ each.count }}</td>
                  <td>of {{ money(each.piece) }}</td>
                </tr>
              }
            </table>
          </section>
        }
      </div>
    }
  </div>`,
  styles: `
    .columns {
      display: flex;
      flex-wrap: wrap;
      gap: 12px 60px;
      padding: 6px 24px 24px;
      overflow: auto;
    }
    section {
      min-width: 320px;
    }
    h2 {
      font: 600 17px/1.3 var(--serif);
      margin: 10px 0 4px;
    }
    table {
      width: 100%;
      border-collapse: collapse;
      font-size: 15px;
    }
    td {
      padding: 5px 14px 5px 0;
      border-bottom: 1px solid var(--rule);
    }
    .num {
      text-align: right;
    }
    .sum td {
      font-weight: 600;
      border-top: 1px solid var(--rule-strong);
    }
    .differs td {
      color: var(--ochre);
    }
    p {
      margin-top: 10px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DrawerPage {
  private readonly counter = inject(Counter);
  private readonly session = inject(Session);
  private readonly sheets = inject(Sheets);
  readonly id = input.required<string>();
  protected readonly names = TENDER_NAMES;
  private readonly tills = toSignal(this.counter.tills().pipe(map(({ rows }) => rows)));
  protected readonly page: DocumentPage<string, DrawerSheet> = new DocumentPage({
    key: this.id,
    name: 'Drawer',
    open: (id) => this.counter.drawer(Number(id)),
    document: (sheet) => sheet.document,
    heading: (sheet) => ({
      strong: sheet.document.number,
      rest: ` of ${sheet.till.name}`,
      sub: `opened ${this.day(sheet.openedOn)} by ${sheet.openedBy} · ${sheet.closedOn === null ? 'open' : `closed ${this.day(sheet.closedOn)}`}`,
    }),
    touchedBy: (document, sheet) =>
      document.kind === 'SL' || (document.kind === 'DR' && document.id === sheet?.document.id),
    acts: () => {
      const sheet = this.page.sheet();
      const till = this.tills()?.find(({ id }) => id === sheet?.till.id);
      if (!sheet || !till || sheet.closedOn !== null || !this.session.may('counter')) return [];
      // As it is now: the till may have been read before.
      const now = {
        ...till,
        drawer: {
          document: sheet.document,
          version: sheet.version,
          cash: sheet.cash,
          openedOn: sheet.openedOn,
          openedBy: sheet.openedBy,
        },
      };
      return [
        {
          name: 'close',
          label: 'Close it…',
          place: 'step' as const,
          asks: true as const,
          does: () => this.sheets.open(CloseDrawerSheet, { till: now }),
          says: () => ['Closed:', sheet.document] as const,
        },
        {
          name: 'move',
          label: 'Put in or take out…',
          place: 'button' as const,
          asks: true as const,
          does: () => this.sheets.open(MoveDrawerSheet, { till: now }),
          says: () => ['Moved:', sheet.document] as const,
        },
      ];
    },
  });
  protected readonly cashOf = ({ cash, float, moves }: DrawerSheet) =>
    moves.reduce((left, { amount }) => left.minus(amount), dec(cash).minus(float)).toFixed();
  protected readonly differs = ({ counted: found, cash }: DrawerSheet) =>
    dec(found ?? cash)
      .minus(cash)
      .toFixed();
  protected readonly counted = counted;
  protected readonly money = (value: string) => money(value, this.page.sheet()?.currency ?? 'MYR');
  protected readonly day = (value: string) => day(value, this.session.workDate());
}
