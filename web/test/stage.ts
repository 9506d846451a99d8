import { DIALOG_DATA, DialogRef } from '@angular/cdk/dialog';
import { signal, type Type } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { of, Subject, throwError, type Observable } from 'rxjs';
import { Session } from '../src/access/session';
import { Api, Refused, type ActDone, type Previewed, type RefusalShown } from '../src/kit/act/api';

export interface Asked {
  name: string;
  input: Record<string, unknown>;
}

/** What stands behind a component that is shown alone: its data, and a server that answers as told. */
export interface Backdrop {
  data?: unknown;
  workDate?: string;
  /** What the person may do; everything, where nothing is said. */
  rights?: readonly string[];
  /** There are other companies in the installation; none, where nothing is said. */
  sisters?: boolean;
  previews?: (asked: Asked) => unknown;
  /** Refusals with which the first try of the act ends. */
  refused?: RefusalShown[];
  reads?: (asked: Asked) => unknown;
}

export const refusal = (code: string, field: string, sentence = `${code}!`): RefusalShown => ({
  code,
  field,
  facts: {},
  sentence,
});

const DONE: ActDone = { made: [{ kind: 'SO', id: 9, number: 'SO-0009' }], touched: [] };

/** A component on an empty page, used as a person does: by the names of its buttons and fields. */
export class Stage {
  readonly previewed: Asked[] = [];
  readonly acted: Asked[] = [];
  readonly read: Asked[] = [];
  readonly closed: unknown[] = [];
  /** Clicks outside a side sheet, and keys pressed in it. */
  readonly backdrop = new Subject<MouseEvent>();
  readonly keys = new Subject<KeyboardEvent>();
  private tries = 0;
  private fixture!: ComponentFixture<unknown>;

  static async of(component: Type<unknown>, backdrop: Backdrop = {}, inputs: Record<string, unknown> = {}) {
    const stage = new Stage();
    TestBed.configureTestingModule({
      providers: [
        provideRouter([{ path: '**', children: [] }]),
        { provide: DIALOG_DATA, useValue: backdrop.data },
        {
          provide: DialogRef,
          useValue: {
            close: (answer: unknown) => stage.closed.push(answer),
            backdropClick: stage.backdrop,
            keydownEvents: stage.keys,
          },
        },
        {
          provide: Session,
          useValue: {
            workDate: signal(backdrop.workDate ?? '2027-03-01'),
            current: signal({ sisters: backdrop.sisters ?? false }),
            company: signal({ id: 1, name: 'Hulu Bening Water Works', currency: 'MYR' }),
            may: (right: string) => backdrop.rights?.includes(right) ?? true,
          },
        },
        { provide: Api, useValue: stage.server(backdrop) },
      ],
    });
    stage.fixture = TestBed.createComponent(component);
    for (const [name, value] of Object.entries(inputs)) stage.fixture.componentRef.setInput(name, value);
    await stage.rests();
    return stage;
  }

  /** Takes it off the page, so that another can be set. */
  close(): void {
    TestBed.resetTestingModule();
  }

  private server(backdrop: Backdrop) {
    return {
      preview: ({ name }: { name: string }, input: Asked['input']): Observable<Previewed<unknown>> => {
        this.previewed.push({ name, input });
        const effects: unknown = backdrop.previews?.({ name, input }) ?? null;
        return of({ refusals: [], warnings: [], effects, ...(isPreview(effects) ? effects : {}) });
      },
      act: ({ name }: { name: string }, input: Asked['input']): Observable<ActDone> => {
        this.acted.push({ name, input });
        this.tries += 1;
        return backdrop.refused && this.tries === 1 ? throwError(() => new Refused(409, backdrop.refused!)) : of(DONE);
      },
      call: (
        { name }: { name: string },
        given: { query?: Asked['input']; params?: Asked['input']; body?: Asked['input'] } = {},
      ) => {
        const asked = { name, input: { ...given.params, ...given.query, ...given.body } };
        this.read.push(asked);
        const answer = backdrop.reads?.(asked);
        return answer instanceof Error ? throwError(() => answer) : of(answer as never);
      },
    };
  }

  /** Until typing has rested and what it asked for is shown. */
  async rests(): Promise<void> {
    TestBed.tick();
    await new Promise((resolve) => setTimeout(resolve, 190));
    await this.fixture.whenStable();
  }

  get element(): HTMLElement {
    return this.fixture.nativeElement as HTMLElement;
  }

  /** All that is written in what the selector finds, spaces closed up. */
  text(selector = 'form'): string {
    return wordsOf(this.element.querySelector(selector) ?? this.element);
  }

  /** The cells of each row of the body of the tables. */
  rows(): string[][] {
    return [...this.element.querySelectorAll('tbody tr')].map((row) => [...row.children].map(wordsOf));
  }

  button(name: string): HTMLButtonElement {
    const found = [...this.element.querySelectorAll('button')].find(
      (each) => wordsOf(each) === name || each.getAttribute('aria-label') === name,
    );
    if (!found) throw new Error(`There is no button ${name}.`);
    return found;
  }

  async press(name: string): Promise<void> {
    this.button(name).click();
    await this.rests();
  }

  field(label: string): HTMLInputElement | HTMLSelectElement {
    const own = this.element.querySelector<HTMLInputElement>(`[aria-label="${label}"]`);
    if (own) return own;
    const labels = [...this.element.querySelectorAll('label')];
    const found = labels.find((each) => wordsOf(each).startsWith(label));
    const control =
      found?.querySelector('input, select') ?? (found && this.element.querySelector(`#${found.getAttribute('for')}`));
    if (!control) throw new Error(`There is no field ${label}.`);
    return control as HTMLInputElement;
  }

  async type(label: string, text: string): Promise<void> {
    const field = this.field(label);
    field.value = text;
    field.dispatchEvent(new Event('input'));
    await this.rests();
  }

  /** Looks for something in a lookup and takes the first that has the words. */
  async pick(label: string, words: string): Promise<void> {
    const field = this.field(label);
    field.focus();
    field.dispatchEvent(new Event('focusin'));
    await this.type(label, words);
    const option = [...document.querySelectorAll<HTMLElement>('mat-option')].find((each) =>
      wordsOf(each).includes(words),
    );
    if (!option) throw new Error(`${label} offers nothing with ${words}.`);
    option.click();
    await this.rests();
  }

  /** Chooses an option by its words, or ticks a box. */
  async choose(label: string, option?: string): Promise<void> {
    const field = this.field(label);
    if (option === undefined) field.click();
    else {
      const found = [...(field as HTMLSelectElement).options].find((each) => each.text === option);
      if (!found) throw new Error(`${label} has no option ${option}.`);
      field.value = found.value;
      field.dispatchEvent(new Event('change'));
    }
    await this.rests();
  }

  /** Sends the form, as Enter does. */
  async send(): Promise<void> {
    this.element.querySelector('form')!.dispatchEvent(new Event('submit', { cancelable: true }));
    await this.rests();
  }
}

const isPreview = (answer: unknown): answer is Previewed<unknown> =>
  typeof answer === 'object' && answer !== null && ('refusals' in answer || 'warnings' in answer);

function wordsOf(element: Element): string {
  return element.textContent!.replace(/\s+/g, ' ').trim();
}
