import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { inUnits } from '@core/kernel';
import * as contract from '@api/workshop';
import { Session } from '../access';
import { DocumentDock } from '../documents';
import { DocumentPage, DocumentTitle, type DocumentAct } from '../kit/act/document-page';
import { ReasonSheet, type AsksReason } from '../kit/act/reason-sheet';
import { Sheets } from '../kit/act/sheet';
import { pathOf } from '../kit/documents';
import { day, money, quantity } from '../kit/formats';
import { Numbers } from '../serial';
import { Workshop, type WorkReportSheet } from './service';

/** One work report: what was used, how long it took, what came out, and for whom. // W3 P1 */
@Component({
  selector: 'k-work-report',
  imports: [DocumentDock, DocumentTitle, Numbers, RouterLink],
  template: `<div class="page">
    <k-document-title [page]="page" />
    @if (page.sheet(); as shown) {
      <div class="head">
        <div>
          <small>Order</small><a class="link" [routerLink]="pathOf(shown.work)">{{ shown.work.number }}</a>
        </div>
        <div>
          <small>Item</small
          ><a class="link" [routerLink]="pathOf({ kind: 'item', id: shown.item.id })">{{ shown.item.name }}</a>
        </div>
        <div><small>By</small>{{ shown.by }}</div>
        @if (shown.numbers.length > 0) {
          <div><small>Serial numbers</small><k-numbers [numbers]="shown.numbers" /></div>
        }
        @for (line of shown.for; track $index) {
          <div>
            <small>{{ line.made.startsWith('-') ? 'Not held any more for' : 'Held for' }}</small>
            {{ number(line.made.replace('-', '')) }} for
            <a class="link" [routerLink]="pathOf(line.order)">{{ line.order.number }} line {{ line.lineNo }}</a
            >,
            {{ line.party }}
          </div>
        }
        @if (shown.reverses; as other) {
          <div>
            <small>Takes back</small><a class="link" [routerLink]="pathOf(other)">{{ other.number }}</a>
          </div>
          <div><small>Why</small>{{ shown.reason }}</div>
        }
        @if (shown.reversedBy; as other) {
          <div>
            <small>Taken back by</small><a class="link" [routerLink]="pathOf(other)">{{ other.number }}</a>
          </div>
        }
      </div>
      <div class="sheet columns">
        <section>
          <h2>What it used</h2>
          <table class="small">
            <thead>
              <tr>
                <th>Item</th>
                <th class="num">Quantity</th>
                <th class="num">Cost</th>
              </tr>
            </thead>
            <tbody>
              @for (row of shown.components; track $index) {
                <tr>
                  <td>
                    <a class="link" [routerLink]="pathOf({ kind: 'item', id: row.item.id })">{{ row.item.number }}</a>
                    {{ row.item.name }}
                    @if (row.numbers.length > 0) {
                      <br /><k-numbers [numbers]="row.numbers" />
                    }
                  </td>
                  <td class="num">{{ number(row.quantity) }}</td>
                  <td class="num">{{ money(row.cost) }}</td>
                </tr>
              } @empty {
                <tr>
                  <td colspan="3" class="faint">It used nothing.</td>
                </tr>
              }
            </tbody>
          </table>
        </section>
        <section>
          <h2>How long it took</h2>
          <table class="small">
            <thead>
              <tr>
                <th>Operation</th>
                <th class="num">Done</th>
                <th class="num">Lost</th>
                <th class="num">Minutes</th>
                <th class="num">Cost</th>
              </tr>
            </thead>
            <tbody>
              @for (row of shown.operations; track row.no) {
                <tr>
                  <td>{{ row.no }} {{ row.name }}</td>
                  <td class="num">{{ number(row.done) }}</td>
                  <td class="num">{{ number(row.scrapped) }}</td>
                  <td class="num">{{ row.minutes }}</td>
                  <td class="num">{{ money(row.cost) }}</td>
                </tr>
              } @empty {
                <tr>
                  <td colspan="5" class="faint">No work was reported.</td>
                </tr>
              }
            </tbody>
          </table>
        </section>
      </div>
      <k-document-dock [document]="shown.document" />
    }
  </div>`,
  styles: `
    h2 {
      font: 600 16px var(--serif);
      margin: 8px 0 2px;
    }
    .columns {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 4px 32px;
      align-content: start;
      overflow: auto;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class WorkReportPage {
  private readonly workshop = inject(Workshop);
  private readonly session = inject(Session);
  private readonly sheets = inject(Sheets);
  readonly id = input.required<string>();
  protected readonly page: DocumentPage<string, WorkReportSheet> = new DocumentPage({
    key: this.id,
    name: 'Work report',
    open: (id) => this.workshop.report(Number(id)),
    document: (sheet) => sheet.document,
    heading: (sheet) => ({
      strong: sheet.document.number,
      rest: ` ${this.what(sheet)}`,
      sub: `posted ${this.day(sheet.postedOn)} · ${sheet.operation || 'the order as a whole'}${sheet.finishes ? ' · finished it' : ''}`,
    }),
    acts: () => this.acts(),
    touchedBy: (document) => ['PR', 'AS', 'WR'].includes(document.kind),
  });

  private what({ good, item, work, reverses }: WorkReportSheet): string {
    if (reverses) return `takes back ${reverses.number}`;
    return good === '0' ? `work on ${work.number}` : `made ${inUnits(quantity(good), item.unit)} of ${item.number}`;
  }

  private acts(): DocumentAct[] {
    const sheet = this.page.sheet();
    if (!sheet) return [];
    return [
      {
        name: 'take-back',
        label: 'Take it back…',
        when: !sheet.reverses && !sheet.reversedBy && this.session.may('work'),
        does: () => this.sheets.open(ReasonSheet, takingBackOf(sheet)),
        says: ({ made: [report] }) => ['Taken back:', report],
      },
    ];
  }

  protected readonly pathOf = pathOf;
  protected readonly number = quantity;
  protected readonly money = (value: string) => money(value, this.page.sheet()?.currency ?? '');
  protected readonly day = (value: string) => day(value, this.session.workDate());
}

/** Takes a work report back. // P1 */
function takingBackOf({ document, work, currency }: WorkReportSheet): AsksReason<typeof contract.takeBackWork> {
  return {
    head: `Take ${document.number} back`,
    sub: 'A report of its own that names this one: parts, work and what came out',
    act: 'Take it back',
    of: contract.takeBackWork,
    input: (reason) => ({ reportId: document.id, reason }),
    effect: ({ state, stockDifference }) => {
      const difference =
        stockDifference === '' || stockDifference === '0'
          ? ''
          : `; ${currency} ${money(stockDifference.replace('-', ''), currency)} to stock differences`;
      return `${work.number} is ${state} again${difference}`;
    },
  };
}
