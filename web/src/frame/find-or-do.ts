import { DIALOG_DATA, DialogRef } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, effect, inject, signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { Router } from '@angular/router';
import { of } from 'rxjs';
import { catchError, debounceTime, map, switchMap } from 'rxjs/operators';
import * as contract from '@api/find';
import { Api } from '../kit/act/api';
import { kindName, pathOf } from '../kit/documents';
import { DOINGS } from './places';
import type { TypedAhead } from './typed-ahead';
import { CUSTOMER_ACTS, fitsWords, meantFor, wordsOf } from './words';

/** Customers on whom acts are offered. */
const MOST_ACTED_ON = 2;

interface Entry {
  text: string;
  detail: string;
  kind: string;
  path: string;
}

/** Finds any document, party and item, and does any act by name. */
@Component({
  selector: 'k-find-or-do',
  template: `<div class="box">
    <input
      data-first
      role="combobox"
      aria-expanded="true"
      aria-controls="found"
      aria-label="Find or do"
      [attr.aria-activedescendant]="entries().length > 0 ? 'found-' + active() : null"
      placeholder="A number, a name, or what you want to do"
      autocomplete="off"
      [value]="words()"
      (focus)="begin()"
      (input)="type($any($event.target).value)"
      (keydown)="key($event)"
    />
    <ul id="found" role="listbox" aria-label="Found">
      @for (entry of entries(); track entry.path + entry.text) {
        <li
          role="option"
          [id]="'found-' + $index"
          [attr.aria-selected]="$index === active()"
          (mousemove)="active.set($index)"
          (click)="go(entry)"
        >
          <span class="kind">{{ entry.kind }}</span>
          <b>{{ entry.text }}</b>
          <span class="detail">{{ entry.detail }}</span>
        </li>
      } @empty {
        <li class="none" role="option" aria-selected="false">Nothing by that name in this company.</li>
      }
    </ul>
  </div>`,
  styles: `
    .box {
      background: var(--paper-lift);
      border: 1px solid var(--rule-strong);
      border-radius: 6px;
      box-shadow: 0 14px 40px rgb(0 0 0 / 22%);
      overflow: hidden;
    }
    input {
      width: 100%;
      height: 42px;
      padding: 0 14px;
      border: 0;
      border-bottom: 1px solid var(--rule);
      background: none;
      font-size: 16px;
      outline: none;
    }
    ul {
      list-style: none;
      margin: 0;
      padding: 6px 0;
      max-height: 420px;
      overflow: auto;
    }
    li {
      display: grid;
      grid-template-columns: 130px auto 1fr;
      gap: 12px;
      padding: 5px 14px;
      cursor: pointer;
    }
    li[aria-selected='true'] {
      background: var(--deep-tint);
    }
    li.none {
      display: block;
    }
    b {
      font-weight: 600;
    }
    .kind,
    .detail,
    .none {
      color: var(--ink-faint);
    }
    .detail {
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FindOrDo {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly ref = inject(DialogRef);
  private readonly ahead = inject<TypedAhead>(DIALOG_DATA);
  private readonly entered = signal(false);
  protected readonly words = signal('');
  protected readonly active = signal(0);
  private readonly found = toSignal(
    toObservable(this.words).pipe(
      debounceTime(90),
      switchMap((words) =>
        words.trim().length < 2
          ? of({ words, rows: [] })
          : this.api.call(contract.find, { query: { q: meantFor(wordsOf(words))?.words.join(' ') ?? words } }).pipe(
              map(({ rows }) => ({ words, rows })),
              catchError(() => of({ words, rows: [] })),
            ),
      ),
    ),
    { initialValue: { words: '', rows: [] } },
  );
  protected readonly entries = computed<Entry[]>(() => {
    const words = wordsOf(this.words());
    // What begins as it was typed stands first.
    const typed = words.join(' ');
    const begins = ({ name }: { name: string }) => Number(!name.toLowerCase().startsWith(typed));
    const doings = DOINGS.filter(({ name }) => fitsWords(name, words))
      .sort((a, b) => begins(a) - begins(b))
      .slice(0, words.length > 0 ? 6 : 11);
    const meant = meantFor(words);
    // What was found for other words is not offered: Enter never takes a stale one.
    const rows = this.found().words === this.words() ? this.found().rows : [];
    const customers = rows.filter(({ kind }) => kind === 'customer').slice(0, MOST_ACTED_ON);
    const acts = (meant ? [meant.act] : CUSTOMER_ACTS).flatMap((act) =>
      customers.map((each) => ({
        text: `${act.name} ${each.name}`,
        detail: each.number,
        kind: 'do',
        path: act.path(each),
      })),
    );
    const found = rows.map((each) => ({
      text: each.kind === 'customer' || each.kind === 'vendor' ? each.name : each.number,
      detail: each.kind === 'customer' || each.kind === 'vendor' ? each.number : each.name,
      kind: kindName(each.kind),
      path: pathOf(each),
    }));
    const named = doings.map((doing) => ({ text: doing.name, detail: '', kind: 'do', path: doing.path }));
    // Where an act is meant, it stands first.
    return meant ? [...acts, ...found, ...named] : [...found, ...acts, ...named];
  });

  constructor() {
    // Enter that came before the box did goes where it leads once what was typed with it is answered.
    effect(() => {
      if (!this.entered() || this.found().words !== this.words()) return;
      const [entry] = this.entries();
      this.entered.set(false);
      if (entry) this.go(entry);
    });
  }

  /** Goes on from what was typed while it was opening. */
  protected begin(): void {
    const { text, entered } = this.ahead.take();
    this.type(this.words() + text);
    this.entered.set(entered && text !== '');
  }

  protected type(words: string): void {
    this.entered.set(false);
    this.words.set(words);
    this.active.set(0);
  }

  protected key(event: KeyboardEvent): void {
    const count = this.entries().length;
    if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      event.preventDefault();
      this.active.update((at) => (at + (event.key === 'ArrowDown' ? 1 : count - 1)) % Math.max(1, count));
    } else if (event.key === 'Enter') {
      event.preventDefault();
      const entry = this.entries()[this.active()];
      if (entry) this.go(entry);
    }
  }

  protected go(entry: Entry): void {
    this.ref.close();
    void this.router.navigateByUrl(entry.path);
  }
}
