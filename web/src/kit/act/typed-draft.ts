import { computed, effect, inject, signal, untracked, type Signal } from '@angular/core';
import { Router } from '@angular/router';
import type { Observable } from 'rxjs';
import type { DocumentKind, DocumentRef } from '@core/kernel';
import { refusalsOf, type ActDone, type RefusalShown } from './api';
import { pathOf } from '../documents';
import { dropDraft, keepDraft, keptDraft } from './drafts';
import type { LiveDocument } from '../live/live';
import { Notices } from './notices';
import { refusedAt } from './refusals';

interface Keyed {
  key: string;
}

/** What a document must tell about itself so that it can be typed. */
export interface Typing<Sheet, Typed, Line> {
  kind: DocumentKind;
  /** An id, or `new`. */
  id: Signal<string>;
  loaded: LiveDocument<Sheet | null>;
  /** Where the draft is kept in this browser: another company or document, another draft. */
  keptAs(): string;
  /** True while the document's content may be typed over. */
  typable(sheet: Sheet): boolean;
  empty(): Typed;
  typedOf(sheet: Sheet): Typed;
  blankLine(): Line;
  isUsed(line: Line): boolean;
  save(typed: Typed, id: number | null): Observable<ActDone>;
  /** True where saving would change something. */
  differs(typed: Typed, sheet: Sheet): boolean;
}

/**
 * A document's content while it is typed: kept in this browser until it is saved, with the blank line at its end,
 * what is refused where, and what somebody else saved meanwhile. // G2 G3
 * To be made in an injection context.
 */
export class TypedDraft<
  Sheet extends { version: number },
  Typed extends { version: number | null; lines: Line[] },
  Line extends Keyed,
> {
  private readonly router = inject(Router);
  private readonly notices = inject(Notices);
  readonly typed = signal<Typed | null>(null);
  readonly refusals = signal(this.refusalsBrought());
  readonly busy = signal(false);
  readonly isNew = computed(() => this.of.id() === 'new');
  readonly sheet = computed(() => this.of.loaded.state().value);
  readonly typing = computed(() => {
    const sheet = this.sheet();
    return this.isNew() || (sheet !== null && this.of.typable(sheet));
  });
  /** Somebody saved a newer version than the one being typed on. */
  readonly theirs = computed(() => {
    const sheet = this.sheet();
    const typed = this.typed();
    return sheet && typed && sheet.version !== typed.version ? sheet : null;
  });

  constructor(private readonly of: Typing<Sheet, Typed, Line>) {
    effect(() => {
      const sheet = this.sheet();
      const isNew = this.isNew();
      this.typing();
      untracked(() => this.begin(isNew, sheet));
    });
  }

  /** What was refused where one came from, where it was this document's. */
  private refusalsBrought(): RefusalShown[] {
    const { refusals } = (this.router.currentNavigation()?.extras.state ?? {}) as { refusals?: RefusalShown[] };
    return refusals ?? [];
  }

  /** What was being typed comes back; else what the server has. */
  private begin(isNew: boolean, sheet: Sheet | null): void {
    if (!isNew && !sheet) return;
    if (sheet && !this.of.typable(sheet)) return this.typed.set(null);
    const kept = keptDraft<Typed>(this.of.keptAs());
    if (this.typed() && sheet && kept) return;
    this.typed.set(this.withBlank(kept ?? (sheet ? this.of.typedOf(sheet) : this.of.empty())));
  }

  private withBlank(typed: Typed): Typed {
    return { ...typed, lines: [...typed.lines.filter((line) => this.of.isUsed(line)), this.of.blankLine()] };
  }

  /** Takes a change of the head; a refusal stands until its field is touched. */
  set(change: Partial<Typed>): void {
    this.typed.update((typed) => typed && { ...typed, ...change });
    keepDraft(this.of.keptAs(), this.typed());
    const fields = Object.keys(change);
    this.refusals.update((refusals) =>
      refusals.filter((refusal) => !fields.some((field) => refusal.field.startsWith(field)) && refusal.field !== ''),
    );
  }

  /** Takes a change of one line; the last line stays blank. */
  setLine(row: Line, change: Partial<Line>): void {
    const lines = this.typed()!.lines.map((line) => (line.key === row.key ? { ...line, ...change } : line));
    this.setLines(lines);
  }

  removeLine(row: Line): void {
    this.setLines(this.typed()!.lines.filter((line) => line.key !== row.key));
  }

  /** Puts lines behind those already typed. */
  addLines(added: readonly Line[]): void {
    this.setLines([...this.typed()!.lines.filter((line) => this.of.isUsed(line)), ...added]);
  }

  private setLines(lines: Line[]): void {
    const last = lines.at(-1);
    const closed = last && !this.of.isUsed(last) ? lines : [...lines, this.of.blankLine()];
    this.set({ lines: closed } as Partial<Typed>);
  }

  at(field: string): string {
    return refusedAt(this.refusals(), field);
  }

  /** Refusals with no control of their own, for the place under the title. */
  loose(fields: RegExp): RefusalShown[] {
    return this.refusals().filter((refusal) => !fields.test(refusal.field));
  }

  /** Saves, where there is something to save, and leads to what was made or goes on with `then`. */
  save(then?: (document: Pick<DocumentRef, 'id'>, version: number) => void): void {
    const typed = this.typed();
    const sheet = this.sheet();
    if (!typed || this.busy()) return;
    const id = this.isNew() ? null : Number(this.of.id());
    if (then && sheet && id !== null && !this.of.differs(typed, sheet)) return then({ id }, sheet.version);
    this.busy.set(true);
    this.of.save(typed, id).subscribe({
      next: ({ made, touched }) => {
        this.drop();
        this.busy.set(false);
        const document = (made[0] ?? touched[0])!;
        const version = document.version ?? (typed.version ?? 0) + 1;
        this.typed.update((current) => current && { ...current, version });
        if (then) return then(document, version);
        if (id === null) return void this.notices.showAndGo('Draft saved:', document);
        this.notices.show('Draft saved.');
        this.of.loaded.reload();
      },
      error: (error: unknown) => {
        this.busy.set(false);
        this.refuse(error);
      },
    });
  }

  /** Saves what is typed and moves the document on by `act`; where only the act is refused, the draft stays saved. */
  saveAnd(said: string, act: (id: number, version: number) => Observable<ActDone>): void {
    this.save(({ id }, version) =>
      act(id, version).subscribe({
        next: ({ touched }) => {
          this.drop();
          this.typed.set(null);
          this.of.loaded.reload();
          void this.notices.showAndGo(said, touched[0]!);
        },
        error: (error: unknown) => {
          this.refuse(error);
          if (!this.isNew()) return this.of.loaded.reload();
          // The page of what was just saved is another one: it is told what was refused.
          void this.router.navigateByUrl(pathOf({ kind: this.of.kind, id }), {
            state: { refusals: this.refusals() },
          });
        },
      }),
    );
  }

  /** Shows why something was refused; where it was an old version, theirs is read. */
  refuse(error: unknown): void {
    this.refusals.set(refusalsOf(error));
    if (this.refusals().some((refusal) => refusal.code === 'stale')) this.of.loaded.reload();
  }

  /** Whether anything was typed that is not saved. */
  readonly begun = computed(() => {
    const typed = this.typed();
    const sheet = this.sheet();
    if (!typed || !this.typing()) return false;
    if (sheet) return this.of.differs(typed, sheet);
    const head = ({ lines: _, ...rest }: Typed) => JSON.stringify(rest);
    return typed.lines.some((line) => this.of.isUsed(line)) || head(typed) !== head(this.of.empty());
  });

  /** Throws away what is typed: what was saved stands, or nothing does; it does not come back. */
  throwAway(): void {
    const sheet = this.sheet();
    this.drop();
    this.typed.set(this.withBlank(sheet ? this.of.typedOf(sheet) : this.of.empty()));
  }

  /** Forgets what is kept in this browser and what was refused. */
  drop(): void {
    dropDraft(this.of.keptAs());
    this.refusals.set([]);
  }

  /** Takes theirs: what was typed here is dropped. */
  takeTheirs(): void {
    const sheet = this.sheet();
    if (!sheet) return;
    this.drop();
    this.typed.set(this.withBlank(this.of.typedOf(sheet)));
  }

  /** Keeps mine: saving again replaces theirs. */
  keepMine(): void {
    this.set({ version: this.sheet()!.version } as Partial<Typed>);
    this.refusals.set([]);
  }
}
