import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import type { Signal } from '@angular/core';
import { Title } from '@angular/platform-browser';
import { Router } from '@angular/router';
import type { Observable } from 'rxjs';
import type { DocumentRef } from '@core/kernel';
import { refusalsOf, type ActDone, type RefusalShown } from './api';
import { liveDocument } from '../live/live';
import { MoreMenu } from './more-menu';
import { Notices } from './notices';
import { Refusals } from './refusals';

/** What is said once an act is done: in words, with the document it is about, and whether one goes there. */
export type Saying = readonly [words: string, document?: DocumentRef, go?: 'go there'];

/** Something that can be done with the document shown. */
export interface DocumentAct {
  name: string;
  label: string;
  /** The one strong step, a quiet button beside it, or an entry of the menu. A button where nothing is said. */
  place?: 'step' | 'button' | 'menu';
  /** False where it cannot be done now. */
  when?: boolean;
  /** A file it leads to, instead of something it does. */
  file?: string;
  /** True where the file is kept rather than looked at. */
  download?: boolean;
  /** True where it asks on a side sheet before anything is done: an address may begin it (`?do=` its name). */
  asks?: true;
  /** True where it changes the document itself: what is typed over the old one is given up. */
  endsTyping?: true;
  /** Answers what was done; nothing, where one left it. */
  does?: () => Observable<ActDone | undefined> | void;
  says?: (done: ActDone) => Saying | undefined;
  /** Takes it back, where the rules allow; offered with what is said. */
  undo?: (done: ActDone) => Observable<ActDone | undefined>;
}

/** A page's sentence: the document's number, the rest of its name, and how it stands. */
export interface Heading {
  strong: string;
  rest?: string;
  sub: string;
}

/** What one kind of document has of its own. */
export interface PageOf<Key, Shown, Line> {
  /** What is opened: another key, another document. */
  key: Signal<Key>;
  open(key: Key): Observable<Shown | null>;
  /** What the page is called where no document is read yet. */
  name: string;
  /** The document shown; none where a page is about a party or an item. */
  document?: (shown: Shown) => DocumentRef;
  heading(shown: Shown): Heading;
  /** The heading of one that is being begun. */
  begun?: () => Heading | null;
  lines?: (shown: Shown) => readonly Line[];
  rowId?: (line: Line) => string;
  /** True where what was touched changes what is shown; else the document itself, and those that hang on it, do. */
  touchedBy?: (document: DocumentRef, shown: Shown | null) => boolean;
  acts?: () => readonly DocumentAct[];
  /** The act to do at once, where the address names one. */
  doing?: Signal<string | undefined>;
  /** Where what is refused is shown; else under the title. */
  refuse?: (error: unknown) => void;
  /** Gives up what is typed, where an act changed the document under it. */
  endTyping?: () => void;
}

const same = (a: DocumentRef, b: DocumentRef) => a.kind === b.kind && a.id === b.id;

/**
 * A page about one document: what it is of, its heading and title, the line one is on, and what can be done with it.
 * Made anew with the page, in an injection context; the router makes a page for each document.
 */
export class DocumentPage<Key, Shown extends object, Line = { id: number }> {
  private readonly notices = inject(Notices);
  private readonly router = inject(Router);
  readonly loaded;
  readonly sheet: Signal<Shown | null>;
  readonly document: Signal<DocumentRef | null>;
  readonly heading: Signal<Heading>;
  readonly acts: Signal<readonly DocumentAct[]>;
  readonly refusals = signal<readonly RefusalShown[]>([]);
  /** True while an act is under way. */
  readonly busy = signal(false);
  /** The row one is on. */
  readonly selected = signal<string | null>(null);
  /** The line one is on, else the first. */
  readonly line: Signal<Line | null>;

  constructor(private readonly of: PageOf<Key, Shown, Line>) {
    this.loaded = liveDocument(
      of.key,
      (key) => of.open(key),
      of.touchedBy ?? ((document, shown) => shown !== null && this.hangsTogether(document, shown)),
    );
    this.sheet = computed(() => this.loaded.state().value);
    this.document = computed(() => {
      const sheet = this.sheet();
      return (sheet && of.document?.(sheet)) ?? null;
    });
    this.heading = computed(() => {
      const sheet = this.sheet();
      return of.begun?.() ?? (sheet ? of.heading(sheet) : { strong: '', sub: '' });
    });
    this.line = computed(() => {
      const sheet = this.sheet();
      const lines = (sheet && of.lines?.(sheet)) ?? [];
      return lines.find((line) => this.rowId(line) === this.selected()) ?? lines[0] ?? null;
    });
    this.acts = computed(() => of.acts?.() ?? []);
    const titles = inject(Title);
    effect(() => titles.setTitle(`${this.heading().strong || of.name} · Kampong`));
    effect(() => {
      const asked = of.doing?.();
      if (asked && this.sheet()) untracked(() => this.doOnce(asked));
    });
  }

  readonly rowId = (line: Line): string => this.of.rowId?.(line) ?? String((line as { id: number }).id);
  readonly select = (line: Line): void => this.selected.set(this.rowId(line));

  private hangsTogether(touched: DocumentRef, shown: Shown): boolean {
    const { documents = [] } = shown as { documents?: readonly { document: DocumentRef }[] };
    const own = this.of.document?.(shown);
    return (own !== undefined && same(touched, own)) || documents.some(({ document }) => same(touched, document));
  }

  private doOnce(name: string): void {
    void this.router.navigate([], { queryParams: {}, replaceUrl: true });
    // A link never does more than ask: what changes something at once is a person's to press.
    if (this.acts().some((act) => act.name === name && act.asks)) this.do(name);
  }

  /** Does the act of that name, where there is one. */
  do(name: string): void {
    const act = this.acts().find((each) => each.name === name);
    if (act) this.perform(act);
  }

  perform(act: DocumentAct): void {
    const doing = this.busy() ? undefined : act.does?.();
    if (doing) this.follow(doing, act);
  }

  private takeBack(undoing: Observable<ActDone | undefined>): void {
    this.follow(undoing, { says: ({ touched }) => ['Taken back:', touched[0]] });
  }

  /** Follows what is being done to its end: reads the document again and says what was done, or shows why not. */
  follow(
    doing: Observable<ActDone | undefined>,
    { says, endsTyping, undo }: Pick<DocumentAct, 'says' | 'endsTyping' | 'undo'>,
  ): void {
    this.busy.set(true);
    this.refusals.set([]);
    doing.subscribe({
      next: (done) => {
        if (!done) return;
        if (endsTyping) this.of.endTyping?.();
        this.loaded.reload();
        const [words, document, go] = says?.(done) ?? [];
        if (words && document && go) void this.notices.showAndGo(words, document);
        else if (words) this.notices.show(words, document, undo ? () => this.takeBack(undo(done)) : null);
      },
      error: (error: unknown) => {
        this.busy.set(false);
        if (this.of.refuse) this.of.refuse(error);
        else this.refusals.set(refusalsOf(error));
      },
      complete: () => this.busy.set(false),
    });
  }
}

/** The title of a document's page: its heading, what can be done, and what stands against it. */
@Component({
  selector: 'k-document-title',
  imports: [MoreMenu, Refusals],
  template: `<div class="title">
      <h1>
        <b>{{ page().heading().strong }}</b>{{ page().heading().rest }}<span>{{ page().heading().sub }}</span>
      </h1>
      <ng-content />
      @if (menu().length > 0) {
        <k-more-menu [entries]="menu()" (chosen)="page().perform($event)" />
      }
      @for (act of buttons(); track act.name) {
        @if (act.file) {
          <a
            class="act"
            [href]="act.file"
            [attr.target]="act.download ? null : '_blank'"
            [attr.download]="act.download ? '' : null"
            >{{ act.label }}</a
          >
        } @else {
          <button
            type="button"
            class="act"
            [class.next]="act.place === 'step'"
            [disabled]="busy()"
            [attr.aria-disabled]="page().busy() || null"
            (click)="page().perform(act)"
          >
            {{ act.label }}
          </button>
        }
      }
    </div>
    <k-refusals [refusals]="page().loaded.state().refusals" />
    <k-refusals [refusals]="page().refusals()" />`,
  styles: `
    :host {
      display: contents;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DocumentTitle {
  readonly page =
    input.required<
      Pick<DocumentPage<unknown, object>, 'heading' | 'acts' | 'perform' | 'loaded' | 'refusals' | 'busy'>
    >();
  /** True while something else is under way that the acts have to wait for. */
  readonly busy = input(false);
  private readonly possible = computed(() =>
    this.page()
      .acts()
      .filter((act) => act.when ?? true),
  );
  protected readonly menu = computed(() => this.possible().filter((act) => act.place === 'menu'));
  /** The quiet ones first, the strong step last. */
  protected readonly buttons = computed(() => [
    ...this.possible().filter((act) => (act.place ?? 'button') === 'button'),
    ...this.possible().filter((act) => act.place === 'step'),
  ]);
}
