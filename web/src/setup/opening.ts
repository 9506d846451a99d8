import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Title } from '@angular/platform-browser';
import { RouterLink } from '@angular/router';
import { parse } from 'csv-parse/browser/esm/sync';
import { catchError, EMPTY, map, of, Subject, switchMap } from 'rxjs';
import { pastedCells } from '@core/typed';
import { Session } from '../access';
import { Api, refusalsOf, type RefusalShown } from '../kit/act/api';
import { dropDraft, keepDraft, keptDraft } from '../kit/act/drafts';
import { Notices } from '../kit/act/notices';
import { Refusals } from '../kit/act/refusals';
import { counted } from '../kit/formats';
import { OPENING_KINDS, type OpeningKind } from './opening-kinds';

/** Lines of one act at most: what is beyond them stays, and is taken next. */
const MOST = 500;

/** The lines among rows of cells: a heading is none, for its figure is no number. */
export const linesOf = (rows: readonly (readonly string[])[], { figure }: Pick<OpeningKind, 'figure'>) =>
  rows.filter((row, at) => at > 0 || /\d/.test(row[figure] ?? '')).map((row) => row.map((cell) => cell.trim()));

/** What a company begins with: pasted or from a file, each line seen before it is posted. // U3 */
@Component({
  selector: 'k-opening',
  imports: [Refusals, RouterLink],
  template: `<div class="page">
    <div class="title">
      <h1>
        <b>Opening: {{ kind().name.toLowerCase() }}</b
        ><span>{{ kind().sub }}</span>
      </h1>
      <label class="act"
        >Choose a CSV…<input type="file" accept=".csv,text/csv" (change)="read($any($event.target))"
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
    <nav aria-label="What to open">
      @for (each of kinds; track each.what) {
        <a
          class="act"
          [routerLink]="'/opening/' + each.what"
          [class.on]="each === kind()"
          [attr.aria-current]="each === kind() ? 'page' : null"
          >{{ each.name }}</a
        >
      }
      <span class="faint">Orders and agreements themselves come in by file in their lists, as drafts.</span>
    </nav>
    <k-refusals [refusals]="loose()" />
    <div class="two">
      <label
        >Pasted from a spreadsheet: {{ heads() }}
        <textarea
          spellcheck="false"
          rows="12"
          [placeholder]="kind().example"
          [value]="text()"
          (input)="take($any($event.target).value)"
        ></textarea>
      </label>
      @if (lines().length > 0) {
        <div class="lines" tabindex="0" role="region" aria-label="Lines">
          <table class="small">
            <thead>
              <tr>
                <th></th>
                @for (column of kind().columns; track column.head) {
                  <th [class.num]="column.figures">{{ column.head }}</th>
                }
                <th></th>
              </tr>
            </thead>
            <tbody>
              @for (line of lines(); track $index; let index = $index) {
                <tr>
                  <td class="faint">{{ index + 1 }}</td>
                  @for (column of kind().columns; track column.head; let at = $index) {
                    <td [class.num]="column.figures">
                      {{ at === kind().columns.length - 1 ? line.slice(at).join(', ') : line[at] }}
                    </td>
                  }
                  <td class="bad">{{ wrong().get(index) ?? '' }}</td>
                </tr>
              }
            </tbody>
          </table>
          @if (says() !== '') {
            <p>
              <b>{{ says() }}</b>
            </p>
          }
          @if (beyond() > 0) {
            <p>{{ counted(beyond(), 'more line') }} after these; they stay here and are posted next.</p>
          }
        </div>
      }
    </div>
  </div>`,
  styles: `
    nav {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 6px;
      padding: 0 24px 10px;
    }
    nav .on {
      background: var(--paper-sunk);
      font-weight: 600;
    }
    nav .faint {
      margin-left: 10px;
    }
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
  private readonly title = inject(Title);
  /** What is opened, of the address. */
  readonly what = input.required<string>();
  protected readonly kinds = OPENING_KINDS.filter(({ right }) => this.session.may(right));
  protected readonly kind = computed(
    () => this.kinds.find(({ what }) => what === this.what()) ?? this.kinds[0] ?? OPENING_KINDS[0]!,
  );
  protected readonly heads = computed(() =>
    this.kind()
      .columns.map(({ head }) => head.toLowerCase())
      .join(', '),
  );
  private readonly keptAs = computed(() => `opening ${this.kind().what} ${this.session.company()?.id ?? 0}`);
  protected readonly text = signal('');
  private readonly rows = computed(() =>
    linesOf(
      pastedCells(this.text()).map(({ cells }) => cells),
      this.kind(),
    ),
  );
  protected readonly lines = computed(() => this.rows().slice(0, MOST));
  protected readonly beyond = computed(() => this.rows().length - this.lines().length);
  protected readonly refused = signal<readonly RefusalShown[]>([]);
  protected readonly says = signal('');
  protected readonly busy = signal(false);
  private readonly looked = new Subject<void>();
  private readonly own = this.session.company()?.currency ?? '';
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
    // What was typed last is what is told of.
    this.looked
      .pipe(
        switchMap(() => {
          const [kind, lines] = [this.kind(), this.lines()];
          if (lines.length === 0) return EMPTY;
          return this.api.preview(kind.endpoint, kind.input(lines)).pipe(
            map(({ refusals, effects }) => ({ refusals, says: effects ? kind.says(effects, this.own) : '' })),
            catchError((error: unknown) => of({ refusals: refusalsOf(error), says: '' })),
          );
        }),
        takeUntilDestroyed(),
      )
      .subscribe(({ refusals, says }) => {
        this.refused.set(refusals);
        this.says.set(says);
      });
    // Another kind is another page: what was typed of it is where it was left.
    effect(() => {
      const [{ name }, keptAs] = [this.kind(), this.keptAs()];
      untracked(() => {
        clearTimeout(this.timer);
        this.title.setTitle(`Opening: ${name.toLowerCase()} · Kampong`);
        this.text.set(keptDraft<string>(keptAs) ?? '');
        this.look();
      });
    });
  }

  protected take(text: string): void {
    this.text.set(text);
    if (text === '') dropDraft(this.keptAs());
    else keepDraft(this.keptAs(), text);
    clearTimeout(this.timer);
    this.timer = setTimeout(() => this.look(), 300);
  }

  protected async read(field: HTMLInputElement): Promise<void> {
    const file = field.files?.[0];
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
    // The same file chosen again, once it was put right, is read again.
    field.value = '';
  }

  /** Says what stands against each line while it is typed. */
  private look(): void {
    this.refused.set([]);
    this.says.set('');
    this.looked.next();
  }

  protected post(goodOnly: boolean): void {
    if (this.busy()) return;
    const [kind, wrong, all] = [this.kind(), this.wrong(), this.lines()];
    const rest = this.rows().slice(all.length);
    const lines = goodOnly ? all.filter((_, index) => !wrong.has(index)) : all;
    const left = goodOnly ? all.filter((_, index) => wrong.has(index)) : [];
    this.busy.set(true);
    this.api.act(kind.endpoint, kind.input(lines)).subscribe({
      next: (did) => {
        this.busy.set(false);
        this.notices.show(kind.done(did, lines.length), did.made[0]);
        this.take([...left, ...rest].map((row) => row.join('\t')).join('\n'));
      },
      error: (error: unknown) => {
        this.busy.set(false);
        this.refused.set(refusalsOf(error));
      },
    });
  }
}
