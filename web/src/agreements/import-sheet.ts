import { DialogRef } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type { ActDone, RefusalShown } from '../kit/api';
import { refusalsOf } from '../kit/api';
import { counted } from '../kit/formats';
import { Sheet } from '../kit/sheet';
import { Agreements, type ImportRead } from './service';

/** Brings agreements in from a file: what it holds, what is wrong line by line, and taking all or the good ones. // G4 */
@Component({
  selector: 'k-import-sheet',
  imports: [Sheet],
  template: `<k-sheet
    head="Bring in agreements"
    sub="From a CSV or XLSX file with the columns that Save as CSV writes; each becomes a draft"
    [act]="act()"
    [busy]="busy() || !ready()"
    [refusals]="refusals()"
    (done)="take()"
  >
    <label
      class="drop"
      [class.over]="over()"
      (dragover)="$event.preventDefault(); over.set(true)"
      (dragleave)="over.set(false)"
      (drop)="$event.preventDefault(); over.set(false); read($event.dataTransfer?.files?.[0])"
    >
      <input
        type="file"
        data-first
        aria-label="File of agreements"
        accept=".csv,.xlsx"
        (change)="read($any($event.target).files[0])"
      />
      <b>{{ name() || 'Choose a file' }}</b>
      <span>{{ name() ? 'Choose or drop another to read it instead' : 'or drop it here' }}</span>
    </label>
    @if (!found()) {
      <p class="faint">
        One row for each line. Rows with the same word in the column “agreement” are one agreement; its head stands on
        the first of them. Nothing is made before you have seen what the file holds.
        <a class="link" href="/api/agreements.csv" download>Save the list as CSV</a> to have the columns.
      </p>
    }
    @if (found(); as shown) {
      <p>
        <b>{{ counted(shown.agreements, 'agreement') }}</b> with {{ counted(shown.rows, 'line') }},
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
            {{ counted(shown.good, 'agreement') }} without the lines named above</label
          >
        }
      }
    }
    <span effect>{{ effect() }}</span>
  </k-sheet>`,
  styles: `
    .drop {
      display: grid;
      gap: 2px;
      justify-items: center;
      padding: 22px;
      border: 1.5px dashed var(--rule-strong);
      border-radius: 6px;
      cursor: pointer;
      color: var(--ink-soft);
    }
    .drop b {
      color: var(--deep);
    }
    .drop.over,
    .drop:hover,
    .drop:focus-within {
      border-color: var(--deep);
      background: var(--deep-wash);
    }
    .drop:focus-within {
      outline: 2px solid var(--deep);
      outline-offset: 1px;
    }
    .drop input {
      position: absolute;
      opacity: 0;
      width: 1px;
      height: 1px;
    }
    p {
      margin: 14px 0 6px;
    }
    .check {
      display: block;
      margin-top: 14px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ImportSheet {
  private readonly agreements = inject(Agreements);
  private readonly ref = inject(DialogRef<ActDone>);
  private file: { name: string; content: string } | null = null;
  protected readonly name = signal('');
  protected readonly over = signal(false);
  protected readonly found = signal<ImportRead | null>(null);
  protected readonly refusals = signal<RefusalShown[]>([]);
  protected readonly goodOnly = signal(false);
  protected readonly busy = signal(false);
  protected readonly ready = computed(() => {
    const found = this.found();
    return found !== null && (found.problems.length === 0 ? found.agreements > 0 : this.goodOnly());
  });
  protected readonly act = computed(() => (this.goodOnly() ? 'Take the good lines' : 'Bring them in'));
  protected readonly effect = computed(() => {
    const found = this.found();
    if (!found || !this.ready()) return '';
    return `${counted(this.goodOnly() ? found.good : found.agreements, 'draft')} will be made`;
  });
  protected readonly counted = counted;

  /** Reads the file here, and has the server say what is in it. */
  protected read(file: File | undefined): void {
    if (!file) return;
    this.name.set(file.name);
    const reader = new FileReader();
    reader.onload = () => {
      const content = String(reader.result).split(',')[1] ?? '';
      this.file = { name: file.name, content };
      this.agreements.previewImport(this.file).subscribe({
        next: ({ effects, refusals }) => {
          this.found.set(effects);
          this.refusals.set(refusals);
          this.goodOnly.set(false);
        },
        error: (error: unknown) => this.refusals.set(refusalsOf(error)),
      });
    };
    reader.readAsDataURL(file);
  }

  protected take(): void {
    if (!this.file || !this.ready() || this.busy()) return;
    this.busy.set(true);
    this.agreements.bringIn({ ...this.file, goodOnly: this.goodOnly() }).subscribe({
      next: (done) => this.ref.close(done),
      error: (error: unknown) => {
        this.busy.set(false);
        this.refusals.set(refusalsOf(error));
      },
    });
  }
}
