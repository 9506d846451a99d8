import { Dialog, DialogRef } from '@angular/cdk/dialog';
import { Overlay } from '@angular/cdk/overlay';
import type { ComponentType } from '@angular/cdk/portal';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  inject,
  Injectable,
  input,
  output,
  signal,
  type Signal,
} from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { merge, of, type Observable } from 'rxjs';
import { catchError, debounceTime, filter, switchMap } from 'rxjs/operators';
import type * as z from 'zod';
import type { ActEndpoint } from '@api/kit';
import { Api, ASKED_FOR_STATUS, Refused, refusalsOf, type ActDone, type Previewed, type RefusalShown } from './api';
import { Icon } from '../controls/icon';
import { Notices } from './notices';
import { refusedAt, Refusals } from './refusals';

/** Opens side sheets: they slide over from the right, keep the focus, and answer what was done. */
@Injectable({ providedIn: 'root' })
export class Sheets {
  private readonly dialog = inject(Dialog);
  private readonly overlay = inject(Overlay);

  open<Data>(sheet: ComponentType<unknown>, data: Data): Observable<ActDone | undefined> {
    return this.choose<Data, ActDone>(sheet, data);
  }

  /** Opens a side sheet that does no act: it answers what was chosen. */
  choose<Data, Chosen>(sheet: ComponentType<unknown>, data: Data): Observable<Chosen | undefined> {
    return this.dialog.open<Chosen, Data>(sheet, {
      data,
      height: '100%',
      width: 'min(760px, 100vw)',
      positionStrategy: this.overlay.position().global().right('0').top('0'),
      backdropClass: 'sheet-backdrop',
      autoFocus: '[data-first] input, input[data-first]',
      restoreFocus: true,
      // The sheet itself asks before what was typed in it is lost.
      disableClose: true,
    }).closed;
  }
}

/** A side sheet's frame: what it is, its content, what stands against it, and the one button that names the act. */
@Component({
  selector: 'k-sheet',
  imports: [Icon, Refusals],
  template: `<form
    (submit)="$event.preventDefault(); done.emit()"
    (input)="typed.set(true)"
    aria-labelledby="sheet-title"
  >
    <header>
      <h2 id="sheet-title">
        {{ head() }}<span>{{ sub() }}</span>
      </h2>
      <button type="button" class="act" aria-label="Close" (click)="leave()"><k-icon name="close" /></button>
    </header>
    <div class="body"><ng-content /></div>
    <k-refusals [refusals]="refusals()" [warnings]="warnings()" />
    @if (asking()) {
      <div class="lost" role="alert">
        What you typed here would be lost.
        <button type="button" class="act" (click)="close()">Throw it away</button>
        <button type="button" class="act" (click)="asking.set(false)">Go on typing</button>
      </div>
    }
    <footer>
      <ng-content select="[effect]" />
      <span class="gap"></span>
      <button type="button" class="act" (click)="close()">Leave it</button>
      <button type="submit" class="act next" [disabled]="busy()">{{ act() }}</button>
    </footer>
  </form>`,
  styles: `
    :host {
      display: block;
      height: 100%;
      background: var(--paper);
      border-left: 1px solid var(--rule-strong);
      box-shadow: -8px 0 30px rgb(0 0 0 / 16%);
      animation: slide 140ms ease-out;
    }
    @keyframes slide {
      from {
        transform: translateX(40px);
        opacity: 0;
      }
    }
    form {
      height: 100%;
      display: flex;
      flex-direction: column;
    }
    header {
      display: flex;
      align-items: flex-start;
      padding: 14px 16px 10px 24px;
    }
    h2 {
      flex: 1;
      font: 600 20px/1.25 var(--serif);
    }
    h2 span {
      display: block;
      font-weight: 400;
      font-size: 15px;
      color: var(--ink-soft);
    }
    .body {
      flex: 1;
      overflow: auto;
      padding: 4px 24px 16px;
    }
    footer {
      display: flex;
      align-items: center;
      gap: 10px;
      padding: 12px 24px;
      border-top: 1px solid var(--rule);
      background: var(--paper-sunk);
    }
    .lost {
      padding: 10px 24px;
      background: var(--ochre-wash);
      color: var(--ochre);
    }
    .gap {
      flex: 1;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Sheet {
  readonly head = input.required<string>();
  readonly sub = input('');
  readonly act = input.required<string>();
  readonly busy = input(false);
  readonly refusals = input<readonly RefusalShown[]>([]);
  readonly warnings = input<readonly RefusalShown[]>([]);
  readonly done = output<void>();
  private readonly ref = inject<DialogRef<ActDone>>(DialogRef);
  /** Something was typed in it since it opened. */
  protected readonly typed = signal(false);
  /** One wants to leave what was typed. */
  protected readonly asking = signal(false);

  constructor() {
    merge(this.ref.backdropClick, this.ref.keydownEvents.pipe(filter(({ key }) => key === 'Escape')))
      .pipe(takeUntilDestroyed())
      .subscribe((event) => {
        event.preventDefault();
        this.leave();
      });
  }

  /** Leaves it by Escape, a click outside or the cross: where something was typed, it is asked once; the second time it goes. */
  protected leave(): void {
    if (!this.typed() || this.asking()) return this.close();
    this.asking.set(true);
  }

  protected close(): void {
    this.ref.close();
  }
}

/**
 * An act being filled in on a side sheet: its live preview, what is refused where, and doing it.
 * To be made in an injection context.
 */
export class ActForm<E extends ActEndpoint> {
  private readonly api = inject(Api);
  private readonly ref = inject(DialogRef<ActDone>);
  private readonly notices = inject(Notices);
  readonly previewed = signal<Previewed<z.output<E['preview']>> | null>(null);
  private readonly begun = signal(true);
  private readonly doing = signal(false);
  readonly busy = computed(() => this.doing() || !this.begun());
  /** True once it was tried: from then on every refusal is shown, not only those of fields already typed in. */
  readonly tried = signal(false);
  private readonly failed = signal<RefusalShown[]>([]);

  constructor(
    private readonly endpoint: E,
    private readonly input: Signal<z.input<E['input']>>,
    /** Whether there is anything to preview yet. */
    ready: () => boolean = () => true,
  ) {
    toObservable(computed(() => (this.begun() ? { typed: input() } : null)))
      .pipe(
        debounceTime(150),
        filter((filled) => filled !== null),
        filter(ready),
        switchMap(({ typed }) =>
          this.api
            .preview(endpoint, typed)
            .pipe(
              catchError((error: unknown) =>
                of<Previewed<z.output<E['preview']>>>({ refusals: refusalsOf(error), warnings: [], effects: null }),
              ),
            ),
        ),
        takeUntilDestroyed(inject(DestroyRef)),
      )
      .subscribe((previewed) => {
        this.previewed.set(previewed);
        this.failed.set([]);
      });
  }

  /** Reads what the sheet begins with: nothing can be done before it is there; where it cannot be read, that is said. */
  begin<Found>(read: Observable<Found>, take: (found: Found) => void): void {
    this.begun.set(false);
    read.subscribe({
      next: (found) => {
        take(found);
        this.begun.set(true);
      },
      error: (error: unknown) => this.failed.set(refusalsOf(error)),
    });
  }

  /** Everything that stands against it, of the try and of the preview, each said once. */
  get refusals(): RefusalShown[] {
    const all = [...this.failed(), ...(this.previewed()?.refusals ?? [])];
    const same = (a: RefusalShown, b: RefusalShown) => a.field === b.field && a.sentence === b.sentence;
    return all.filter((refusal, index) => all.findIndex((each) => same(each, refusal)) === index);
  }

  /** What is refused at a field, as far as it is to be shown now. */
  at(field: string, typed = true): string {
    if (!typed && !this.tried()) return '';
    return refusedAt([...this.failed(), ...(this.previewed()?.refusals ?? [])], field);
  }

  /** Refusals that belong to no field of the sheet. */
  loose(fields: readonly RegExp[]): RefusalShown[] {
    const all = this.refusals;
    const once = all.filter((refusal, index) => all.findIndex((each) => each.sentence === refusal.sentence) === index);
    return once.filter(
      (refusal) => (this.tried() || refusal.field === '') && !fields.some((field) => field.test(refusal.field)),
    );
  }

  get warnings(): RefusalShown[] {
    return this.previewed()?.warnings ?? [];
  }

  /** Does the act and closes the sheet with what was made; a refusal keeps the sheet and everything typed. */
  do(): void {
    if (this.busy()) return;
    this.tried.set(true);
    this.doing.set(true);
    this.api.act(this.endpoint, this.input()).subscribe({
      next: (result) => this.ref.close(result),
      error: (error: unknown) => {
        if (error instanceof Refused && error.status === ASKED_FOR_STATUS) {
          this.notices.show(error.message);
          return this.ref.close();
        }
        this.failed.set(refusalsOf(error));
        this.doing.set(false);
      },
    });
  }
}
