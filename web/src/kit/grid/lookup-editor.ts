import type { ICellEditorComp, ICellEditorParams } from 'ag-grid-community';
import { Subject, type Subscription } from 'rxjs';
import { debounceTime, startWith, switchMap } from 'rxjs/operators';
import { fits, type Choice } from '../fields';
import type { CellEdit } from './columns';

interface Params extends ICellEditorParams {
  edit: Extract<CellEdit<unknown>, { kind: 'lookup' }>;
}

/** A cell that finds something by number or name: arrows choose, Enter or Tab takes, emptied it clears, Escape leaves. */
export class LookupEditor implements ICellEditorComp {
  private host!: HTMLElement;
  private input!: HTMLInputElement;
  private list!: HTMLUListElement;
  private found: Choice[] = [];
  private active = 0;
  /** What was chosen; an empty text where the cell is to be cleared. */
  private chosen: Choice | '' | null = null;
  private reading!: Subscription;
  private readonly words = new Subject<string>();
  private params!: Params;

  init(params: Params): void {
    this.params = params;
    this.host = document.createElement('div');
    this.host.className = 'lookup-editor';
    this.input = document.createElement('input');
    this.input.setAttribute('role', 'combobox');
    this.input.setAttribute('aria-label', params.colDef.headerName ?? 'Item');
    this.input.setAttribute('aria-expanded', 'true');
    this.input.setAttribute('aria-controls', 'lookup-list');
    const begun = params.eventKey?.length === 1 ? params.eventKey : null;
    this.input.value = begun ?? (params.edit.setText ? String(params.value ?? '') : '');
    this.list = document.createElement('ul');
    this.list.id = 'lookup-list';
    this.list.setAttribute('role', 'listbox');
    this.host.append(this.input, this.list);
    this.input.addEventListener('input', () => {
      this.active = 0;
      this.draw();
      this.words.next(this.input.value);
    });
    this.input.addEventListener('keydown', (event) => this.key(event));
    this.reading = this.words
      .pipe(
        debounceTime(80),
        startWith(this.input.value),
        switchMap((words) => params.edit.search(words)),
      )
      .subscribe((choices) => {
        this.found = choices;
        this.active = 0;
        this.draw();
      });
  }

  getGui(): HTMLElement {
    return this.host;
  }

  afterGuiAttached(): void {
    this.input.focus();
    if (this.params.eventKey?.length !== 1) this.input.select();
  }

  isPopup(): boolean {
    return true;
  }

  getValue(): Choice | '' | null {
    return this.chosen;
  }

  destroy(): void {
    this.reading.unsubscribe();
  }

  /** What was found and still fits what is typed: Enter never takes a stale one. */
  private get choices(): Choice[] {
    return this.found.filter((choice) => fits(choice, this.input.value));
  }

  private key(event: KeyboardEvent): void {
    if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      event.preventDefault();
      event.stopPropagation();
      const count = Math.max(1, this.choices.length);
      this.active = (this.active + (event.key === 'ArrowDown' ? 1 : count - 1)) % count;
      this.draw();
    } else if (event.key === 'Enter' || event.key === 'Tab') {
      const none = this.params.edit.setText ? '' : null;
      this.chosen = this.input.value === '' ? none : (this.choices[this.active] ?? null);
    }
  }

  private draw(): void {
    this.list.replaceChildren(
      ...this.choices.map((choice, index) => {
        const option = document.createElement('li');
        option.setAttribute('role', 'option');
        option.setAttribute('aria-selected', String(index === this.active));
        const number = document.createElement('b');
        number.textContent = choice.number;
        const detail = document.createElement('small');
        detail.textContent = choice.detail ?? '';
        option.append(number, ` ${choice.name} `, detail);
        option.addEventListener('mousedown', (event) => {
          event.preventDefault();
          this.chosen = choice;
          this.params.stopEditing();
        });
        return option;
      }),
    );
  }
}
