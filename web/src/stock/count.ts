import {
  ChangeDetectionStrategy,
  Component,
  computed,
  type ElementRef,
  inject,
  input,
  signal,
  viewChild,
} from '@angular/core';
import { RouterLink } from '@angular/router';
import type * as z from 'zod';
import * as catalogue from '@api/catalogue';
import * as contract from '@api/stock';
import { map } from 'rxjs/operators';
import { Session } from '../access';
import { DocumentDock } from '../documents';
import { Api, refusalsOf } from '../kit/act/api';
import { DocumentPage, DocumentTitle, type DocumentAct } from '../kit/act/document-page';
import { Notices } from '../kit/act/notices';
import { ReasonSheet } from '../kit/act/reason-sheet';
import { Sheets } from '../kit/act/sheet';
import { LookupField, NumberField, TextField, type Choice } from '../kit/fields';
import { NumbersField } from '../serial';
import { pathOf } from '../kit/documents';
import { counted, day, money, quantity } from '../kit/formats';
import { postingOf, takingBackOf } from './count-sheets';

type Sheet = z.infer<typeof contract.openCount.out>;
type Row = Sheet['rows'][number];

/** What was entered of a line; the numbers of its pieces where they have any. */
interface Entered {
  counted: string;
  unitCost: string;
  numbers: readonly string[];
}

/** A count sheet as it would be printed: what is there is written line by line, and each line is kept as it is left. // W6 */
@Component({
  selector: 'k-count',
  imports: [DocumentDock, DocumentTitle, LookupField, NumberField, NumbersField, RouterLink, TextField],
  templateUrl: './count.html',
  styles: `
    .sheet {
      overflow: auto;
    }
    .tools {
      display: flex;
      gap: 16px;
      align-items: end;
      margin-bottom: 8px;
      max-width: 640px;
    }
    .tools > * {
      flex: 1;
    }
    td.part {
      width: 120px;
    }
    tr.off td {
      background: var(--ochre-wash);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CountPage {
  private readonly api = inject(Api);
  private readonly session = inject(Session);
  private readonly sheets = inject(Sheets);
  private readonly notices = inject(Notices);
  private readonly table = viewChild<ElementRef<HTMLElement>>('rows');
  readonly id = input.required<string>();
  readonly do = input<string>();
  protected readonly page: DocumentPage<string, Sheet, Row> = new DocumentPage({
    key: this.id,
    name: 'Count',
    open: (id) => this.api.call(contract.openCount, { params: { id: Number(id) } }),
    document: (sheet) => sheet.document,
    heading: (sheet) => ({
      strong: sheet.document.number,
      rest: ` ${sheet.reverses ? `takes back ${sheet.reverses.number}` : `counts ${sheet.group || counted(sheet.lines, 'item')}`} · ${sheet.location}`,
      sub: this.sub(sheet),
    }),
    lines: (sheet) => sheet.rows,
    acts: () => this.acts(),
    doing: this.do,
    touchedBy: (document) => ['CT', 'JR', 'RC', 'SH', 'WR', 'CN'].includes(document.kind),
  });
  /** What was typed and is not kept yet, by line; and what was refused of it. */
  private readonly typed = signal<ReadonlyMap<number, Entered>>(new Map());
  protected readonly refused = signal<ReadonlyMap<number, string>>(new Map());
  protected readonly scanned = signal('');
  protected readonly open = computed(() => this.page.sheet()?.state === 'open' && this.session.may('goods'));
  protected readonly blind = computed(() => this.page.sheet()?.state === 'open' && Boolean(this.page.sheet()?.blind));
  protected readonly seesCosts = this.session.may('see-costs');

  private sub(sheet: Sheet): string {
    if (sheet.state === 'posted') return `posted ${this.day(sheet.postedOn!)} · ${sheet.reason}`;
    if (sheet.state === 'cancelled') return 'thrown away';
    return `open · ${sheet.counted} of ${counted(sheet.lines, 'line')} counted${sheet.blind ? ' · without what is known' : ''}`;
  }

  private acts(): DocumentAct[] {
    const sheet = this.page.sheet();
    if (!sheet) return [];
    const { document } = sheet;
    const may = this.session.may('goods');
    return [
      {
        name: 'paper',
        label: 'On paper',
        file: `/api/counts/${document.id}/sheet.pdf`,
        when: sheet.state !== 'cancelled',
      },
      { name: 'labels', label: 'Labels', place: 'menu', file: `/api/counts/${document.id}/labels.pdf` },
      {
        name: 'post',
        label: 'Post the differences…',
        place: 'step',
        when: may && sheet.state === 'open',
        asks: true,
        does: () => this.sheets.open(ReasonSheet, postingOf(sheet)),
        says: () => [`${document.number} is posted.`],
      },
      {
        name: 'cancel',
        label: 'Throw it away',
        place: 'menu',
        when: may && sheet.state === 'open',
        does: () => this.api.act(contract.cancelCount, { countId: document.id, version: sheet.version }),
        says: () => [`${document.number} is thrown away; nothing was posted.`],
      },
      {
        name: 'take-back',
        label: 'Take it back…',
        when: may && sheet.state === 'posted' && !sheet.reverses && !sheet.reversedBy,
        asks: true,
        does: () => this.sheets.open(ReasonSheet, takingBackOf(sheet)),
        says: ({ touched: [count] }) => ['Taken back:', count],
      },
    ];
  }

  protected readonly countedOf = (row: Row) => this.typed().get(row.id)?.counted ?? row.counted ?? '';
  protected readonly costOf = (row: Row) => this.typed().get(row.id)?.unitCost ?? row.unitCost;

  /** The numbers that are there, as they were told. */
  protected readonly numbersOf = (row: Row): readonly string[] =>
    this.typed().get(row.id)?.numbers ??
    row.numbers.filter(({ says }) => says !== 'missing').map(({ number }) => number);
  /** What is expected and was not told yet, to be pressed. */
  protected readonly expectedOf = (row: Row) => row.expected.map((number, id) => ({ id, number }));
  protected readonly missing = (row: Row) =>
    row.numbers.filter(({ says }) => says === 'missing').map(({ number }) => number);

  /** Each number that is told is a piece that was counted. */
  protected tell(row: Row, numbers: readonly string[]): void {
    this.type(row, { numbers, counted: String(numbers.length) });
    this.keep(row);
  }

  protected type(row: Row, change: Partial<Entered>): void {
    const before = { counted: this.countedOf(row), unitCost: this.costOf(row), numbers: this.numbersOf(row) };
    this.typed.update((all) => new Map(all).set(row.id, { ...before, ...change }));
  }

  /** Keeps a line as it is left; what is refused stays as it was typed. */
  protected keep(row: Row): void {
    const typed = this.typed().get(row.id);
    const told = row.numbers.filter(({ says }) => says !== 'missing').map(({ number }) => number);
    const sameNumbers = typed?.numbers.join() === told.join();
    if (!typed || (typed.counted === (row.counted ?? '') && typed.unitCost === row.unitCost && sameNumbers)) return;
    const countId = this.page.sheet()!.document.id;
    this.api
      .act(contract.enterCount, { countId, lines: [{ lineId: row.id, ...typed, numbers: [...typed.numbers] }] })
      .subscribe({
        next: () => {
          this.say(row, '');
          this.page.loaded.reload();
        },
        error: (error: unknown) =>
          this.say(
            row,
            refusalsOf(error)
              .map(({ sentence }) => sentence)
              .join(' '),
          ),
      });
  }

  private say(row: Row, refused: string): void {
    this.refused.update((all) => new Map(all).set(row.id, refused));
  }

  /** Goes to the line of the item that was scanned; one that is not on the sheet is added to it. */
  protected find(event: Event): void {
    event.preventDefault();
    const number = this.scanned().trim().toUpperCase();
    const at = this.page.sheet()!.rows.findIndex(({ item }) => item.number.toUpperCase() === number);
    this.scanned.set('');
    if (at < 0) return this.notices.show(`${number || 'Nothing'} is not on this sheet; add it where it was found.`);
    this.table()?.nativeElement.querySelectorAll<HTMLInputElement>('td.count input')[at]?.focus();
  }

  protected readonly search = (words: string) =>
    this.api.call(catalogue.findItems, { query: { q: words } }).pipe(map(({ rows }) => rows));

  protected add(item: Choice): void {
    const countId = this.page.sheet()!.document.id;
    this.page.follow(this.api.act(contract.addToCount, { countId, itemId: item.id }), {
      says: () => [`${item.number} is on the sheet.`],
    });
  }

  protected readonly off = (row: Row) => row.difference !== '' && row.difference !== '0';
  protected readonly pathOf = pathOf;
  protected readonly number = (text: string) => (text === '' ? '' : quantity(text));
  protected readonly signed = (text: string) =>
    text === '' || text === '0' ? '' : text.startsWith('-') ? `−${quantity(text.slice(1))}` : `+${quantity(text)}`;
  protected readonly money = (text: string) => money(text, this.page.sheet()?.currency ?? '');
  protected readonly day = (value: string) => day(value, this.session.workDate());
}
