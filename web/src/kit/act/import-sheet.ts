import { DIALOG_DATA, DialogRef } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type { ActEndpoint } from '@api/kit';
import { Api, refusalsOf, type ActDone, type RefusalShown } from './api';
import { counted } from '../formats';
import { FileDrop, type FileRead } from './file-drop';
import { Sheet } from './sheet';

interface Problem {
  line: number;
  column: string;
  sentence: string;
}

/** What a file was found to hold. */
interface Found {
  rows: number;
  /** What can be made of its good lines alone. */
  good: number;
  problems: Problem[];
  /** Worth a word, and no hindrance. */
  words?: Problem[];
}

/** What is brought in from files: the act that does it, and how a person is told. */
export interface ImportData {
  endpoint: ActEndpoint;
  /** One of what is made: `agreement`. */
  one: string;
  /** The name its count has in what the act shows. */
  counts: string;
  sub: string;
  accept: string;
  /** How the file is to be, and where the columns come from. */
  hint: string;
  columns: { path: string; words: string } | null;
}

/** Brings documents in from a file: what it holds, what is wrong line by line, and taking all or the good ones. // G4 */
@Component({
  selector: 'k-import-sheet',
  imports: [FileDrop, Sheet],
  template: `<k-sheet
    [head]="'Bring in ' + data.one + 's'"
    [sub]="data.sub"
    [act]="act()"
    [busy]="busy() || !ready()"
    [refusals]="refusals()"
    (done)="take()"
  >
    <k-file-drop [label]="'File of ' + data.one + 's'" [accept]="data.accept" (chosen)="read($event)" />
    @if (!found()) {
      <p class="faint">
        {{ data.hint }} Nothing is made before you have seen what the file holds.
        @if (data.columns; as columns) {
          <a class="link" [href]="columns.path" download>{{ columns.words }}</a> to have the columns.
        }
      </p>
    }
    @if (found(); as shown) {
      <p>
        <b>{{ counted(count(), data.one) }}</b> with {{ counted(shown.rows, 'line') }},
        {{ shown.problems.length === 0 ? 'all good' : counted(shown.problems.length, 'problem') }}.
      </p>
      @if (shown.problems.length > 0) {
        <table class="small">
          <thead>
            <tr>
              <th>Line</th>
              <th>Column</th>
              <th>What is wrong</th>
            </tr>
          </thead>
          <tbody>
            @for (problem of shown.problems; track $index) {
              <tr>
                <td>{{ problem.line }}</td>
                <td>{{ problem.column }}</td>
                <td class="bad">{{ problem.sentence }}</td>
              </tr>
            }
          </tbody>
        </table>
        @if (shown.good > 0) {
          <label class="check"
            ><input type="checkbox" [checked]="goodOnly()" (change)="goodOnly.set(!goodOnly())" /> Take the good lines:
            {{ counted(shown.good, data.one) }} without the lines named above</label
          >
        }
      }
      @if (shown.words?.length) {
        <p>Worth a word:</p>
        <ul>
          @for (word of shown.words; track $index) {
            <li>line {{ word.line }}: {{ word.sentence }}</li>
          }
        </ul>
      }
    }
    <span effect>{{ effect() }}</span>
  </k-sheet>`,
  styles: `
    p {
      margin: 14px 0 6px;
    }
    ul {
      margin: 0;
      padding-left: 18px;
      color: var(--ochre);
    }
    .check {
      display: block;
      margin-top: 14px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ImportSheet {
  protected readonly data = inject<ImportData>(DIALOG_DATA);
  private readonly api = inject(Api);
  private readonly ref = inject(DialogRef<ActDone>);
  private file: FileRead | null = null;
  protected readonly found = signal<Found | null>(null);
  protected readonly refusals = signal<RefusalShown[]>([]);
  protected readonly goodOnly = signal(false);
  protected readonly busy = signal(false);
  /** How many the file holds, good or bad. */
  protected readonly count = computed(() =>
    Number((this.found() as unknown as Record<string, number>)?.[this.data.counts] ?? 0),
  );
  protected readonly ready = computed(() => {
    const found = this.found();
    return found !== null && (found.problems.length === 0 ? this.count() > 0 : this.goodOnly());
  });
  protected readonly act = computed(() => (this.goodOnly() ? 'Take the good lines' : 'Bring them in'));
  protected readonly effect = computed(() => {
    const found = this.found();
    if (!found || !this.ready()) return '';
    return `${counted(this.goodOnly() ? found.good : this.count(), 'draft')} will be made`;
  });
  protected readonly counted = counted;

  /** Has the server say what is in it. */
  protected read(file: FileRead): void {
    this.file = file;
    this.api.preview(this.data.endpoint, { ...file, goodOnly: false, look: true }).subscribe({
      next: ({ effects, refusals }) => {
        this.found.set(effects as Found | null);
        this.refusals.set(refusals);
        this.goodOnly.set(false);
      },
      error: (error: unknown) => this.refusals.set(refusalsOf(error)),
    });
  }

  protected take(): void {
    if (!this.file || !this.ready() || this.busy()) return;
    this.busy.set(true);
    this.api.act(this.data.endpoint, { ...this.file, goodOnly: this.goodOnly() }).subscribe({
      next: (done) => this.ref.close(done),
      error: (error: unknown) => {
        this.busy.set(false);
        this.refusals.set(refusalsOf(error));
      },
    });
  }
}
