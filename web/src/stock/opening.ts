import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { Title } from '@angular/platform-browser';
import { RouterLink } from '@angular/router';
import { parse } from 'csv-parse/browser/esm/sync';
import { openStock } from '@api/stock';
import { pastedCells } from '@core/typed';
import { Session } from '../access';
import { Api, refusalsOf, type RefusalShown } from '../kit/act/api';
import { dropDraft, keepDraft, keptDraft } from '../kit/act/drafts';
import { Notices } from '../kit/act/notices';
import { Refusals } from '../kit/act/refusals';
import { counted, money } from '../kit/formats';

interface Line {
  item: string;
  location: string;
  quantity: string;
  unitCost: string;
  numbers: string[];
}

/** Lines of one act at most; a longer file is taken in parts. */
const MOST = 500;

/** A row of cells as a line of opening stock: item, place, quantity, cost of one, serial numbers between commas or spaces. */
const lineOf = ([item = '', location = '', quantity = '', unitCost = '', ...numbers]: readonly string[]): Line => ({
  item,
  location,
  quantity,
  unitCost,
  numbers: numbers.flatMap((each) => each.split(/[\s,;]+/)).filter((each) => each !== ''),
});

/** A heading is no line: its quantity is no number. */
const linesOf = (rows: readonly (readonly string[])[]) =>
  rows.filter((row, at) => at > 0 || /\d/.test(row[2] ?? '')).map(lineOf);

/** The stock a company begins with: pasted or from a file, each line seen before it is posted. // U3 */
@Component({
  selector: 'k-opening',
  imports: [Refusals, RouterLink],
  template: `<div class="page">
    <div class="title">
      <h1>
        <b>Opening stock</b><span>what was there before Kampong, at what it cost, against the opening balance</span>
      </h1>
      <a class="act" routerLink="/stock">To stock</a>
      <label class="act"
        >Choose a CSV…<input type="file" accept=".csv,text/csv" (change)="read($any($event.target).files[0])"
      /></label>
      @if (lines().length > 0) {
        <button type="button" class="act" (click)="take('')">Give it up</button>
        @if (bad() > 0 && bad() < lines().length) {
          <button type="button" class="act" [disabled]="busy()" (click)="post(true)">Take the good lines</button>
        }
        <button type="button" class="act next" [disabled]="busy() || bad() > 0" (click)="post(false)">
          Post {{ counted(lines().length, 'line') }}
        </button>
      }
    </div>
    <k-refusals [refusals]="loose()" />
    <div class="two">
      <label
        >Pasted from a spreadsheet: item, place, quantity, cost of one, serial numbers
        <textarea
          spellcheck="false"
          rows="12"
          placeholder="CL-10&#9;MAIN&#9;40&#9;121"
          [value]="text()"
          (input)="take($any($event.target).value)"
        ></textarea>
      </label>
      @if (lines().length > 0) {
        <div class="lines">
          <table class="small">
            <thead>
              <tr>
                <th></th>
                <th>Item</th>
                <th>Place</th>
                <th class="num">Quantity</th>
                <th class="num">Cost of one</th>
                <th>Numbers</th>
                <th></th>
              </tr>
            </thead>
            <tbody>
              @for (line of lines(); track $index; let index = $index) {
                <tr>
                  <td class="faint">{{ index + 1 }}</td>
                  <td>{{ line.item }}</td>
                  <td>{{ line.location || 'the first' }}</td>
                  <td class="num">{{ line.quantity }}</td>
                  <td class="num">{{ line.unitCost }}</td>
                  <td>{{ line.numbers.join(', ') }}</td>
                  <td class="bad">{{ wrong().get(index) ?? '' }}</td>
                </tr>
              }
            </tbody>
          </table>
          @if (worth() !== '') {
            <p>
              Worth <b>{{ worth() }}</b> together.
            </p>
          }
        </div>
      }
    </div>
  </div>`,
  styles: `
    .two {
      display: grid;
      grid-template-columns: minmax(300px, 1fr) 2fr;
      gap: 24px;
      padding: 8px 24px;
      min-height: 0;
      flex: 1;
    }
    textarea {
      width: 100%;
      margin-top: 4px;
      font: 13px/1.5 var(--sans);
      border: 1px solid var(--rule-strong);
      border-radius: var(--r);
      background: var(--paper-lift);
      color: var(--ink);
      padding: 8px;
      white-space: pre;
    }
    .two > label {
      font-size: 12px;
      color: var(--ink-faint);
    }
    .lines {
      overflow: auto;
    }
    td:not(.bad) {
      white-space: nowrap;
    }
    label.act {
      position: relative;
    }
    label.act input {
      position: absolute;
      opacity: 0;
      width: 1px;
    }
    label.act:focus-within {
      outline: 2px solid var(--ink);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OpeningPage {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  private readonly session = inject(Session);
  private readonly keptAs = `opening stock ${this.session.company()?.id ?? 0}`;
  protected readonly text = signal(keptDraft<string>(this.keptAs) ?? '');
  protected readonly lines = computed(() => linesOf(pastedCells(this.text()).map(({ cells }) => cells)).slice(0, MOST));
  protected readonly refused = signal<readonly RefusalShown[]>([]);
  protected readonly worth = signal('');
  protected readonly busy = signal(false);
  private timer: ReturnType<typeof setTimeout> | undefined = undefined;
  /** What is wrong, by line. */
  protected readonly wrong = computed(() => {
    const wrong = new Map<number, string>();
    for (const { field, sentence } of this.refused()) {
      const at = /^lines\.(\d+)\./.exec(field)?.[1];
      if (at !== undefined && !wrong.has(Number(at))) wrong.set(Number(at), sentence);
    }
    return wrong;
  });
  protected readonly bad = computed(() => this.wrong().size);
  protected readonly loose = computed(() => this.refused().filter(({ field }) => !field.startsWith('lines.')));
  protected readonly counted = counted;

  constructor() {
    inject(Title).setTitle('Opening stock · Kampong');
    this.look();
  }

  protected take(text: string): void {
    this.text.set(text);
    if (text === '') dropDraft(this.keptAs);
    else keepDraft(this.keptAs, text);
    clearTimeout(this.timer);
    this.timer = setTimeout(() => this.look(), 300);
  }

  protected async read(file: File | undefined): Promise<void> {
    if (!file) return;
    try {
      const rows = parse(await file.text(), {
        bom: true,
        relax_column_count: true,
        skip_empty_lines: true,
      }) as string[][];
      this.take(rows.map((row) => row.join('\t')).join('\n'));
    } catch {
      this.notices.show(`${file.name} cannot be read as CSV.`);
    }
  }

  /** Says what stands against each line while it is typed. */
  private look(): void {
    const lines = this.lines();
    this.refused.set([]);
    this.worth.set('');
    if (lines.length === 0) return;
    this.api.preview(openStock, { lines }).subscribe({
      next: ({ refusals, effects }) => {
        this.refused.set(refusals);
        this.worth.set(effects ? money(effects.cost, this.session.company()?.currency ?? '') : '');
      },
      error: (error: unknown) => this.refused.set(refusalsOf(error)),
    });
  }

  protected post(goodOnly: boolean): void {
    if (this.busy()) return;
    const wrong = this.wrong();
    const all = this.lines();
    const lines = goodOnly ? all.filter((_, index) => !wrong.has(index)) : all;
    this.busy.set(true);
    this.api.act(openStock, { lines }).subscribe({
      next: ({ made }) => {
        this.busy.set(false);
        this.notices.show(`${counted(lines.length, 'line')} on hand.`, made[0]);
        const left = goodOnly ? all.filter((_, index) => wrong.has(index)) : [];
        const cells = left.map((line) => [
          line.item,
          line.location,
          line.quantity,
          line.unitCost,
          line.numbers.join(' '),
        ]);
        this.take(cells.map((row) => row.join('\t')).join('\n'));
      },
      error: (error: unknown) => {
        this.busy.set(false);
        this.refused.set(refusalsOf(error));
      },
    });
  }
}
