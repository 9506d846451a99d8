import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import * as contract from '@api/serial';
import { Session } from '../access';
import { Api } from '../kit/act/api';
import { DocumentPage, DocumentTitle, type DocumentAct } from '../kit/act/document-page';
import { Sheets } from '../kit/act/sheet';
import { kindName, pathOf } from '../kit/documents';
import { day } from '../kit/formats';
import { CorrectSheet } from './correct-sheet';
import { PartSheet } from './part-sheet';
import { forWhom, happened, whereIs, type PieceSheet } from './words';

/** One piece with a number of its own: where it is, what is in it and what it is in, and its whole life. // W7 */
@Component({
  selector: 'k-piece',
  imports: [DocumentTitle, RouterLink],
  template: `<div class="page">
    <k-document-title [page]="page"><a class="act" routerLink="/serials">Serial numbers</a></k-document-title>
    @if (page.sheet(); as shown) {
      <div class="head">
        <div>
          <small>Item</small
          ><a class="link" [routerLink]="pathOf({ kind: 'item', id: shown.item.id })">{{ shown.item.name }}</a>
        </div>
        @if (forWhom(shown); as whom) {
          <div>
            <small>{{ shown.place === 'ours' ? 'Held for' : 'Went out on' }}</small><a
              class="link"
              [routerLink]="pathOf(shown.line!.order)"
              >{{ whom }}</a
            >
          </div>
        }
        @if (shown.work; as work) {
          <div>
            <small>Used in</small><a class="link" [routerLink]="pathOf(work)">{{ work.number }}</a>
          </div>
        }
        <div>
          <small>Came with</small><a class="link" [routerLink]="pathOf(shown.born)">{{ shown.born.number }}</a
          >, {{ day(shown.bornOn) }}
        </div>
      </div>
      <div class="sheet">
        <section>
          <h2>Its life</h2>
          <ol class="life">
            @for (event of shown.life; track $index) {
              <li [class.back]="event.what === 'taken-back'" [class.last]="$last">
                <span class="day">{{ day(event.postedOn) }}</span>
                <i aria-hidden="true"></i>
                <span>
                  {{ happened(event) }}{{ event.by ? ', by ' + event.by : '' }}
                  <span class="faint">
                    with {{ kindName(event.document.kind) }}
                    <a class="link" [routerLink]="pathOf(event.document)">{{ event.document.number }}</a>
                    @if (event.order; as order) {
                      · <a class="link" [routerLink]="pathOf(order)">{{ order.number }}</a>
                    }
                  </span>
                </span>
              </li>
            }
          </ol>
        </section>
        <section>
          @if (shown.above.length > 0) {
            <h2>What it is in</h2>
            <ul class="parts">
              @for (product of shown.above; track product.id; let depth = $index) {
                <li [style.padding-left.px]="depth * 20">
                  <a class="link" [routerLink]="pathOf({ kind: 'serial', id: product.id })">{{ product.number }}</a>
                  {{ product.item }} <span class="faint">{{ product.place === 'used' ? '' : 'at ' + product.at }}</span>
                </li>
              }
            </ul>
          }
          <h2>What is in it</h2>
          <ul class="parts">
            @for (part of shown.parts; track part.id) {
              <li [style.padding-left.px]="(part.depth - 1) * 20">
                <a class="link" [routerLink]="pathOf({ kind: 'serial', id: part.id })">{{ part.number }}</a>
                {{ part.item }}
              </li>
            } @empty {
              <li class="faint">Nothing in it has a number of its own.</li>
            }
          </ul>
        </section>
      </div>
    }
  </div>`,
  styles: `
    .sheet {
      display: grid;
      grid-template-columns: 1.6fr 1fr;
      gap: 4px 40px;
      align-content: start;
      overflow: auto;
    }
    h2 {
      font: 600 16px var(--serif);
      margin: 8px 0 6px;
    }
    ol,
    ul {
      list-style: none;
      margin: 0;
      padding: 0;
    }
    .life li {
      display: grid;
      grid-template-columns: 96px 22px 1fr;
      align-items: start;
      padding-bottom: 16px;
      position: relative;
    }
    .life .day {
      text-align: right;
      padding-right: 10px;
      color: var(--ink-soft);
    }
    .life i {
      width: 12px;
      height: 12px;
      margin-top: 4px;
      border-radius: 50%;
      background: var(--deep);
      z-index: 1;
    }
    .life li::before {
      content: '';
      position: absolute;
      left: 101px;
      top: 10px;
      bottom: -10px;
      width: 2px;
      background: var(--deep);
    }
    .life li.last::before {
      display: none;
    }
    .life li.back i {
      background: var(--paper-lift);
      border: 2px solid var(--deep);
    }
    .parts li {
      padding-bottom: 4px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PiecePage {
  private readonly api = inject(Api);
  private readonly session = inject(Session);
  private readonly sheets = inject(Sheets);
  readonly id = input.required<string>();
  protected readonly page: DocumentPage<string, PieceSheet> = new DocumentPage({
    key: this.id,
    name: 'Serial number',
    open: (id) => this.api.call(contract.openSerial, { params: { id: Number(id) } }),
    heading: (sheet) => ({
      strong: sheet.number,
      rest: ` ${sheet.item.number}`,
      sub: this.where(sheet),
    }),
    acts: () => this.acts(),
    touchedBy: (document) => ['RC', 'SH', 'WR', 'CN', 'JR', 'CT', 'PR', 'AS', 'SO'].includes(document.kind),
  });

  private acts(): DocumentAct[] {
    const sheet = this.page.sheet();
    if (!sheet) return [];
    return [
      {
        name: 'part',
        label: 'What it is part of…',
        when: sheet.place === 'used' && sheet.products.length > 0 && this.session.may('work'),
        asks: true,
        does: () => this.sheets.open<PieceSheet>(PartSheet, sheet),
        says: () => [`${sheet.number} is where it was said to be.`],
      },
      {
        name: 'correct',
        label: 'Correct the number…',
        when: this.session.may('goods'),
        asks: true,
        does: () => this.sheets.open<PieceSheet>(CorrectSheet, sheet),
        says: () => [`${sheet.number} has the right number now.`],
      },
    ];
  }

  protected readonly where = (sheet: PieceSheet) => {
    const place = whereIs(sheet);
    const outermost = sheet.above.at(-1);
    if (outermost) return `${place}, ${outermost.place === 'used' ? 'in production' : `at ${outermost.at}`}`;
    return sheet.place === 'ours' || sheet.place === 'customer' ? `at ${place}` : place;
  };
  protected readonly forWhom = forWhom;
  protected readonly happened = happened;
  protected readonly kindName = kindName;
  protected readonly pathOf = pathOf;
  protected readonly day = (value: string) => day(value, this.session.workDate());
}
