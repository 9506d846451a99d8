import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { dec } from '@core/kernel';
import { Session } from '../access';
import { DocumentDock } from '../documents';
import { DocumentPage, DocumentTitle, type DocumentAct } from '../kit/act/document-page';
import { Sheets } from '../kit/act/sheet';
import { pathOf } from '../kit/documents';
import { counted, day, money, quantity } from '../kit/formats';
import { Numbers } from '../serial';
import { ChangeWorkSheet, type ChangeWorkData } from './change-sheet';
import { LaySheet, type LayData } from './lay-sheet';
import { OperationsSheet, type OperationsData } from './operations-sheet';
import { PartsSheet, type PartsData } from './parts-sheet';
import { ReportSheet, type ReportData } from './report-sheet';
import { Workshop, type WorkSheet } from './service';
import { Steps } from './steps';
import { TieWorkSheet, type TieWorkData } from './tie-sheet';
import { madeOf } from './words';

/** A production or assembly order: whom it is for, its steps, what goes into it, and what was reported. // W1 W3 W4 */
@Component({
  selector: 'k-work',
  imports: [DocumentDock, DocumentTitle, Numbers, RouterLink, Steps],
  templateUrl: './work.html',
  styles: `
    h2 {
      font: 600 16px var(--serif);
      margin: 14px 0 2px;
    }
    .sheet {
      overflow: auto;
      padding-bottom: 12px;
    }
    .columns {
      display: grid;
      grid-template-columns: 1.15fr 1fr;
      gap: 0 32px;
      align-items: start;
    }
    td.lacks {
      color: var(--ochre);
    }
    button.untie {
      border: 0;
      background: none;
      padding: 0 4px;
      color: var(--ink-soft);
      text-decoration: underline;
      cursor: pointer;
    }
    .back {
      text-decoration: line-through;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class WorkPage {
  private readonly workshop = inject(Workshop);
  private readonly session = inject(Session);
  private readonly sheets = inject(Sheets);
  readonly id = input.required<string>();
  readonly do = input<string>();
  protected readonly page: DocumentPage<string, WorkSheet> = new DocumentPage({
    key: this.id,
    name: 'Order',
    open: (id) => this.workshop.open(Number(id)),
    document: (sheet) => sheet.document,
    heading: (sheet) => ({
      strong: sheet.document.number,
      rest: ` ${sheet.document.kind === 'PR' ? 'makes' : 'assembles'} ${quantity(sheet.quantity)} ${sheet.item.number}`,
      sub: `${sheet.state} · ${madeOf(sheet)} · ${this.when(sheet)}`,
    }),
    acts: () => this.acts(),
    doing: this.do,
    touchedBy: (document) => ['SO', 'PR', 'AS', 'PL', 'WR', 'RC', 'JR'].includes(document.kind),
  });
  /** What was told of the lines it is for is later than they ship. */
  protected readonly late = computed(() => {
    const sheet = this.page.sheet();
    return sheet && sheet.state !== 'finished' ? sheet.for.filter((each) => each.shipDate < sheet.due) : [];
  });
  protected readonly seesCosts = this.session.may('see-costs');

  private when(sheet: WorkSheet): string {
    if (sheet.finishedOn) return `finished ${this.day(sheet.finishedOn)}`;
    if (sheet.startedOn) return `begun ${this.day(sheet.startedOn)}, there on ${this.day(sheet.due)}`;
    return `to begin ${this.day(sheet.start)}, there on ${this.day(sheet.due)}`;
  }

  private acts(): DocumentAct[] {
    const sheet = this.page.sheet();
    if (!sheet) return [];
    const { document, state, version } = sheet;
    const open = state === 'planned' || state === 'firm' || state === 'running';
    const plans = this.session.may('plan');
    const untied = Number(sheet.untied) > 0;
    return [
      {
        name: 'report',
        label: 'Report work…',
        place: 'step',
        when: (state === 'firm' || state === 'running') && this.session.may('work'),
        asks: true,
        does: () => this.sheets.open<ReportData>(ReportSheet, { sheet }),
        says: ({ made: [report] }) => ['Reported:', report],
      },
      {
        name: 'firm',
        label: 'Make it firm',
        place: 'step',
        when: plans && state === 'planned',
        does: () => this.workshop.makeFirm(document.id, true),
        says: () => [`${document.number} is firm: promising and planning leave it as it is.`],
      },
      {
        name: 'tie',
        label: 'For whom…',
        when: plans && open && untied,
        asks: true,
        does: () => this.sheets.open<TieWorkData>(TieWorkSheet, { workId: document.id, title: document.number }),
        says: () => [`${document.number} is for them now.`],
      },
      {
        name: 'parts',
        label: 'Components…',
        when: plans && open,
        asks: true,
        does: () => this.sheets.open<PartsData>(PartsSheet, { sheet }),
        says: () => ['Changed for this order alone.'],
      },
      {
        name: 'operations',
        label: 'Operations…',
        place: 'menu',
        when: plans && open,
        asks: true,
        does: () => this.sheets.open<OperationsData>(OperationsSheet, { sheet }),
        says: () => ['Changed for this order alone.'],
      },
      {
        name: 'lay',
        label: 'Another day or centre…',
        place: 'menu',
        when: plans && open && sheet.operations.length > 0,
        asks: true,
        does: () => this.sheets.open<LayData>(LaySheet, { workId: document.id, number: document.number, at: null }),
        says: () => [`${document.number} is laid again.`],
      },
      {
        name: 'change',
        label: 'Quantity and day…',
        place: 'menu',
        when: plans && (state === 'planned' || state === 'firm') && sheet.reports.length === 0,
        asks: true,
        does: () => this.sheets.open<ChangeWorkData>(ChangeWorkSheet, { sheet }),
        says: () => [`${document.number} is laid anew.`],
      },
      {
        name: 'plan-again',
        label: 'Plan it again',
        place: 'menu',
        when: plans && state === 'firm' && sheet.for.length === 0,
        does: () => this.workshop.makeFirm(document.id, false),
        says: () => [`${document.number} is only planned again.`],
      },
      {
        name: 'cancel',
        label: 'Cancel it',
        place: 'menu',
        when: plans && (state === 'planned' || state === 'firm'),
        does: () => this.workshop.cancel(document.id, version),
        says: () => [`${document.number} is cancelled.`],
      },
    ];
  }

  /** Lets the order go on for nobody, and says how to tie it again. */
  protected untie(orderLineId: number): void {
    const sheet = this.page.sheet()!;
    this.page.follow(this.workshop.untie(sheet.document.id, orderLineId), {
      says: () => [`${sheet.document.number} goes on for nobody in particular; say for whom whenever you know.`],
    });
  }

  protected readonly mayUntie = (sheet: WorkSheet, line: WorkSheet['for'][number]) =>
    this.session.may('plan') &&
    sheet.state !== 'finished' &&
    sheet.state !== 'cancelled' &&
    line.quantity !== line.made;
  protected readonly lacks = (row: WorkSheet['components'][number]) =>
    dec(row.quantity).minus(row.used).gt(row.free) && this.page.sheet()?.state !== 'finished';
  protected readonly losing = ({ earns }: { earns: string }) => earns.startsWith('-');
  /** `earns 3,889.17, 46.4 %`. */
  protected earns(sold: { earns: string; percent: string }): string {
    const percent = sold.percent ? `, ${quantity(sold.percent.replace('-', ''))} %` : '';
    return `${this.losing(sold) ? 'loses' : 'earns'} ${this.money(sold.earns.replace('-', ''))}${percent}`;
  }
  protected readonly pathOf = pathOf;
  protected readonly counted = counted;
  protected readonly number = quantity;
  protected readonly money = (value: string) => money(value, this.page.sheet()?.currency ?? '');
  protected readonly day = (value: string) => day(value, this.session.workDate());
}
