import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Title } from '@angular/platform-browser';
import { RouterLink } from '@angular/router';
import { forkJoin, of, Subject, timer, type Observable } from 'rxjs';
import { catchError, exhaustMap, map, mergeMap, startWith, switchMap } from 'rxjs/operators';
import type * as z from 'zod';
import { keptList, KEPT_LISTS } from '@core/lists';
import * as contract from '@api/lists';
import { Api, refusalsOf, type RefusalShown } from '../kit/act/api';
import { Refusals } from '../kit/act/refusals';
import { moment } from '../kit/formats';

type Brought = z.infer<typeof contract.listBroughtIn.out>['rows'][number];
type Opened = z.infer<typeof contract.openBroughtIn.out>;

/** How often a file that is worked at is asked how far it is. */
const BEAT_MS = 500;
/** Rows of a kept list, in the order in which one names another. */
const ORDER = KEPT_LISTS.map(({ name }) => name);

/** Files brought into kept lists: several at once, each looked at, then taken whole or its good lines. // U2 */
@Component({
  selector: 'k-bring-in',
  imports: [Refusals, RouterLink],
  template: `<div class="page">
    <div class="title">
      <h1>
        <b>Bring in</b
        ><span
          >items, customers, prices and every other list, from CSV or XLSX; nothing is kept before it is taken</span
        >
      </h1>
      <a class="act" routerLink="/lists">To the lists</a>
      <label class="act next"
        >Choose files…<input type="file" multiple accept=".csv,.xlsx" (change)="bring($any($event.target))"
      /></label>
    </div>
    <k-refusals [refusals]="refusals()" />
    <div
      class="drop"
      [class.over]="over()"
      (dragover)="$event.preventDefault(); over.set(true)"
      (dragleave)="over.set(false)"
      (drop)="$event.preventDefault(); over.set(false); read($any($event.dataTransfer).files)"
    >
      @if (rows().length === 0) {
        <p class="empty">
          Drop files here. A file is of the list its headings are of, whatever the order of its columns; any list can be
          taken along as a file to see how it is headed:
          @for (list of samples; track list) {
            <a class="link" [href]="'/api/kept.csv?list=' + list" download>{{ labelOf(list) }}</a>
          }
        </p>
      } @else {
        <table class="files">
          <thead>
            <tr>
              <th>File</th>
              <th>For</th>
              <th class="num">Lines</th>
              <th class="num">New</th>
              <th class="num">Changed</th>
              <th class="num">As it is</th>
              <th class="num">Wrong</th>
              <th></th>
            </tr>
          </thead>
          @for (file of rows(); track file.id) {
            <tbody [class.done]="file.state === 'taken'">
              <tr>
                <td>
                  <b>{{ file.fileName }}</b>
                  <small>{{ file.person }}, {{ moment(file.at) }}</small>
                </td>
                <td>
                  <a class="link" routerLink="/lists" [queryParams]="{ list: file.list }">{{ labelOf(file.list) }}</a>
                </td>
                <td class="num">{{ file.rowCount }}</td>
                <td class="num">{{ file.fresh }}</td>
                <td class="num">{{ file.changed }}</td>
                <td class="num">{{ file.alike }}</td>
                <td class="num" [class.bad]="file.bad > 0">{{ file.bad }}</td>
                <td class="acts">
                  @switch (file.state) {
                    @case ('ready') {
                      @if (file.fresh + file.changed > 0) {
                        <button type="button" class="act next" (click)="take(file)">
                          {{ file.bad > 0 ? 'Take the good lines' : 'Take it' }}
                        </button>
                      } @else {
                        <span class="faint">nothing of it is new</span>
                      }
                      <button type="button" class="act" (click)="again(file)">Look again</button>
                    }
                    @case ('taken') {
                      <span class="faint">taken</span>
                      <button type="button" class="act" (click)="again(file)">Look again</button>
                    }
                    @case ('stopped') {
                      <span class="faint">stopped at line {{ file.done }}</span>
                      <button type="button" class="act" (click)="again(file)">Look again</button>
                    }
                    @default {
                      <progress [value]="file.done" [max]="file.rowCount" [attr.aria-label]="file.fileName"></progress>
                      {{ file.state === 'looking' ? 'looking' : 'taking' }}
                      <button type="button" class="act" (click)="stop(file)">Stop</button>
                    }
                  }
                </td>
              </tr>
              @if (file.leftOut.length > 0) {
                <tr>
                  <td colspan="8" class="faint">
                    Left out, since {{ labelOf(file.list) }} know nothing of it: {{ file.leftOut.join(', ') }}
                  </td>
                </tr>
              }
              @if (told().get(file.id); as opened) {
                @for (problem of opened.problems; track $index) {
                  <tr class="problem">
                    <td>{{ problem.line > 0 ? 'line ' + problem.line : '' }}</td>
                    <td>
                      {{ problem.column }}
                      @if (problem.typed) {
                        <q>{{ problem.typed }}</q>
                      }
                    </td>
                    <td colspan="6" [class.bad]="!problem.word">{{ problem.sentence }}</td>
                  </tr>
                }
                @if (opened.problems.length < file.bad) {
                  <tr class="problem">
                    <td colspan="8" class="faint">and more; these first</td>
                  </tr>
                }
              }
            </tbody>
          }
        </table>
      }
    </div>
  </div>`,
  styles: `
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
      outline-offset: 2px;
    }
    .drop {
      flex: 1;
      overflow: auto;
      margin: 8px 24px 16px;
      border: 1px dashed transparent;
    }
    .drop.over {
      border-color: var(--deep);
      background: var(--deep-wash);
    }
    .empty .link {
      margin-right: 10px;
    }
    .files {
      width: 100%;
      border-collapse: collapse;
    }
    th {
      text-align: left;
      font-size: 12px;
      font-weight: 400;
      color: var(--ink-faint);
      padding: 4px 12px 4px 0;
    }
    td {
      padding: 7px 12px 7px 0;
      vertical-align: baseline;
    }
    tbody > tr:first-child > td {
      border-top: 1px solid var(--rule);
    }
    td small {
      display: block;
      color: var(--ink-faint);
    }
    .num {
      text-align: right;
    }
    .acts {
      white-space: nowrap;
      text-align: right;
    }
    .done {
      color: var(--ink-soft);
    }
    .problem td {
      padding: 2px 12px 2px 0;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BringInPage {
  private readonly api = inject(Api);
  private readonly asked = new Subject<void>();
  protected readonly over = signal(false);
  protected readonly refusals = signal<readonly RefusalShown[]>([]);
  protected readonly rows = signal<readonly Brought[]>([]);
  /** What is wrong, by the file. */
  protected readonly told = signal<ReadonlyMap<number, Opened>>(new Map());
  protected readonly samples = ['items', 'customers', 'ship-tos', 'vendors', 'vendor-items', 'prices'];
  private readonly works = computed(() => this.rows().some(({ state }) => state === 'looking' || state === 'taking'));
  protected readonly moment = moment;

  constructor() {
    inject(Title).setTitle('Bring in · Kampong');
    this.asked
      .pipe(
        startWith(undefined),
        // Where nothing is worked at, nothing is asked for; an answer that takes longer than a beat is waited for.
        switchMap(() =>
          timer(0, BEAT_MS).pipe(exhaustMap((beat) => (beat === 0 || this.works() ? this.listed() : of(null)))),
        ),
        takeUntilDestroyed(),
      )
      .subscribe((found) => found && this.show(found.rows));
  }

  private listed() {
    return this.api.call(contract.listBroughtIn).pipe(
      catchError((error: unknown) => {
        this.refusals.set(refusalsOf(error));
        return of(null);
      }),
    );
  }

  protected labelOf(list: string): string {
    return keptList(list)?.label ?? list;
  }

  /** Shows how far each is; one that came to its end is told, and what waited for it is looked at again. */
  private show(rows: readonly Brought[]): void {
    const before = new Map(this.rows().map((row) => [row.id, row]));
    this.rows.set(rows);
    const ended = rows.filter(({ id, state }) => before.get(id)?.state === 'taking' && state === 'taken');
    const waiting = ended.length > 0 ? rows.filter(({ state, bad }) => state === 'ready' && bad > 0) : [];
    const first = [...waiting].sort((a, b) => ORDER.indexOf(a.list) - ORDER.indexOf(b.list));
    if (first.length > 0) this.do(forkJoin(first.map(({ id }) => this.api.act(contract.lookAgainAt, { id }))));
    for (const row of rows) {
      const was = before.get(row.id);
      const settled = row.state !== 'looking' && row.state !== 'taking';
      if (settled && (!was || was.state !== row.state)) this.tell(row);
    }
  }

  private tell({ id }: Brought): void {
    this.api.call(contract.openBroughtIn, { params: { id } }).subscribe({
      next: (opened) => this.told.update((all) => new Map([...all, [id, opened]])),
      error: () => undefined,
    });
  }

  protected bring(input: HTMLInputElement): void {
    if (input.files) this.read(input.files);
    input.value = '';
  }

  /** Every file on its own: one that cannot be read hinders no other. */
  protected read(files: FileList): void {
    this.refusals.set([]);
    const all = [...files];
    of(...all)
      .pipe(mergeMap((file) => contentOf(file).pipe(switchMap((content) => this.brought(file, content))), 2))
      .subscribe(() => this.asked.next());
  }

  private brought(file: File, content: string): Observable<unknown> {
    return this.api.call(contract.bringIn, { body: { list: '', name: file.name, content } }).pipe(
      catchError((error: unknown) => {
        const said = refusalsOf(error).map((each) => ({ ...each, sentence: `${file.name}: ${each.sentence}` }));
        this.refusals.update((before) => [...before, ...said]);
        return of(null);
      }),
    );
  }

  protected take({ id, bad }: Brought): void {
    this.do(this.api.act(contract.takeBroughtIn, { id, goodOnly: bad > 0 }));
  }

  protected again({ id }: Brought): void {
    this.do(this.api.act(contract.lookAgainAt, { id }));
  }

  protected stop({ id }: Brought): void {
    this.do(this.api.act(contract.stopBroughtIn, { id }));
  }

  private do(act: Observable<unknown>): void {
    this.refusals.set([]);
    act.subscribe({
      next: () => this.asked.next(),
      error: (error: unknown) => {
        this.refusals.set(refusalsOf(error));
        this.asked.next();
      },
    });
  }
}

/** A file's content in base64. */
function contentOf(file: File): Observable<string> {
  return of(file).pipe(
    mergeMap((each) => each.arrayBuffer()),
    map((buffer) => {
      let text = '';
      const bytes = new Uint8Array(buffer);
      // As many at once as a call takes arguments.
      for (let at = 0; at < bytes.length; at += 32_768) text += String.fromCharCode(...bytes.subarray(at, at + 32_768));
      return btoa(text);
    }),
  );
}
