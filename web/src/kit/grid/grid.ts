import {
  ChangeDetectionStrategy,
  Component,
  computed,
  CSP_NONCE,
  effect,
  ElementRef,
  inject,
  input,
  output,
  signal,
  ViewEncapsulation,
} from '@angular/core';
import { Router } from '@angular/router';
import { AgGridAngular } from 'ag-grid-angular';
import type {
  BodyScrollEvent,
  CellDoubleClickedEvent,
  CellEditingStartedEvent,
  CellFocusedEvent,
  CellKeyDownEvent,
  ColDef,
  ColumnMovedEvent,
  ColumnResizedEvent,
  FullWidthCellKeyDownEvent,
  GridApi,
  ICellRendererParams,
  RowSelectionOptions,
  SuppressKeyboardEventParams,
} from 'ag-grid-community';
import { spreadsheetCells } from '@core/typed';
import { beadsElement } from '../charts/bead';
import type { Choice } from '../fields';
import { textSetter, type GridColumn } from './columns';
import { LookupEditor } from './lookup-editor';
import { gridTheme } from './theme';

/** A row that only says what those under it have in common. */
class Heading {
  constructor(readonly words: string) {}
}

/** Which way a column is sorted, of `net-down`. */
function sortedWay(sort: string, id: string): 'asc' | 'desc' | null {
  if (sort === `${id}-up`) return 'asc';
  return sort === `${id}-down` ? 'desc' : null;
}

/**
 * The dense grid of every list and document. Enter opens (or edits a cell that can be), the row one is on is told
 * to the dock, Ctrl+D copies from above, Ctrl+Delete removes a row, pasted cells fill from the focused one on. Home and
 * End stay in the row; Enter after a run of Tabs goes to where the run began, a row below, as in a spreadsheet.
 */
@Component({
  selector: 'k-grid',
  imports: [AgGridAngular],
  template: `<ag-grid-angular
    [class.natural]="natural()"
    [theme]="theme"
    [styleNonce]="nonce"
    [domLayout]="natural() ? 'autoHeight' : 'normal'"
    [rowData]="$any(shown())"
    [isFullWidthRow]="isHeading"
    [fullWidthCellRenderer]="headingElement"
    [columnDefs]="definitions()"
    [getRowId]="rowIdOf"
    [suppressCellFocus]="false"
    [singleClickEdit]="false"
    [stopEditingWhenCellsLoseFocus]="true"
    [enterNavigatesVerticallyAfterEdit]="false"
    [suppressScrollOnNewData]="true"
    [suppressMovableColumns]="!laid()"
    [suppressDragLeaveHidesColumns]="true"
    [rowSelection]="marking()"
    [selectionColumnDef]="markColumn"
    [suppressNoRowsOverlay]="true"
    [animateRows]="false"
    (gridReady)="ready($event.api)"
    (cellFocused)="focused($event)"
    (cellKeyDown)="key($event)"
    (cellEditingStarted)="showChoices($event)"
    (cellDoubleClicked)="doubleClicked($event)"
    (bodyScroll)="scrolled($event)"
    (sortChanged)="sortChosen()"
    (columnMoved)="moved($event)"
    (columnResized)="sized($event)"
    (selectionChanged)="markedAgain()"
    (paste)="paste($any($event))"
  />`,
  styleUrl: './grid.scss',
  encapsulation: ViewEncapsulation.None,
  host: { '[class.natural]': 'natural()', '[attr.aria-label]': 'label()', role: 'region' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Grid<Row> {
  readonly label = input.required<string>();
  readonly rows = input.required<readonly Row[]>();
  readonly columns = input.required<readonly GridColumn<Row>[]>();
  readonly rowId = input.required<(row: Row) => string>();
  /** As tall as its rows instead of filling the place. */
  readonly natural = input(false);
  /** The rows that so many pasted ones go into from a row on, made where they are lacking; null for those shown. */
  readonly roomFor = input<((row: Row, count: number) => readonly Row[] | null) | null>(null);
  /** The row to stand on as soon as it is there; by its id. */
  readonly standOn = input<string | null>(null);
  /** Columns that can be sorted by, by their ids. */
  readonly sorts = input<readonly string[]>([]);
  /** The column the rows are in the order of, with `-up` or `-down` behind it; empty for none of them. */
  readonly sort = input('');
  /** Columns may be moved and sized, and are told. */
  readonly laid = input(false);
  /** What rows stand under, where several in a row stand under one; rows come by it. */
  readonly heading = input<((row: Row) => string) | null>(null);
  /** Rows may be marked. */
  readonly marks = input(false);
  readonly sorted = output<string>();
  readonly laidOut = output<{ order: string[]; widths: Record<string, number> }>();
  readonly marked = output<Row[]>();
  readonly opened = output<Row>();
  readonly selected = output<Row>();
  readonly nearEnd = output<void>();
  readonly removed = output<Row>();

  protected readonly theme = gridTheme;
  protected readonly nonce = inject(CSP_NONCE, { optional: true }) ?? undefined;
  private readonly router = inject(Router);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  private readonly api_ = signal<GridApi | null>(null);
  private get api(): GridApi | null {
    return this.api_();
  }

  /** The row that was stood on: once, not again whenever the rows are read. */
  private stoodOn: string | null = null;

  constructor() {
    effect(() => {
      // Rows that are read again, or gone, are marked as they stand.
      this.rows();
      if (this.marks()) setTimeout(() => this.markedAgain());
    });
    effect(() => {
      const api = this.api_();
      const wanted = this.standOn();
      const at = this.rows().findIndex((row) => this.rowId()(row) === wanted);
      const column = this.columns()[0]?.id;
      if (!api || at < 0 || !column || wanted === this.stoodOn) return;
      this.stoodOn = wanted;
      setTimeout(() => {
        api.ensureIndexVisible(at);
        api.setFocusedCell(at, column);
      });
    });
  }

  /** The rows, each group of them under its heading. */
  protected readonly shown = computed((): readonly (Row | Heading)[] => {
    const of = this.heading();
    const rows = this.rows();
    if (!of) return rows;
    return rows.flatMap((row, at) => {
      const before = rows[at - 1];
      return before !== undefined && of(before) === of(row) ? [row] : [new Heading(of(row)), row];
    });
  });
  protected readonly isHeading = ({ rowNode }: { rowNode: { data?: unknown } }) => rowNode.data instanceof Heading;
  protected readonly headingElement = ({ data }: { data: Heading }) => {
    const element = document.createElement('div');
    element.className = 'grid-heading';
    element.setAttribute('role', 'gridcell');
    element.textContent = data.words;
    return element;
  };
  protected readonly rowIdOf = ({ data }: { data: unknown }) =>
    data instanceof Heading ? `heading ${data.words}` : this.rowId()(data as Row);
  protected readonly definitions = computed(() => this.columns().map((column) => this.define(column)));
  protected readonly marking = computed((): RowSelectionOptions | undefined =>
    this.marks()
      ? {
          mode: 'multiRow',
          checkboxes: true,
          headerCheckbox: true,
          enableClickSelection: false,
          isRowSelectable: ({ data }) => !(data instanceof Heading),
        }
      : undefined,
  );
  protected readonly markColumn: ColDef = { width: 36, maxWidth: 36, resizable: false, suppressMovable: true };

  /** Puts the focus on the first cell, or the first of that column. */
  focusFirst(columnId?: string): void {
    const column = columnId ?? this.columns()[0]?.id;
    if (this.api && column && this.rows().length > 0) this.api.setFocusedCell(0, column);
  }

  /** Begins editing a cell. */
  edit(rowIndex: number, columnId: string): void {
    this.api?.setFocusedCell(rowIndex, columnId);
    this.api?.startEditingCell({ rowIndex, colKey: columnId });
  }

  /** Ends an edit that is under way, keeping what was typed. */
  finishEditing(): void {
    this.api?.stopEditing();
  }

  protected ready(api: GridApi): void {
    this.api_.set(api);
  }

  protected focused(event: CellFocusedEvent): void {
    const row = event.rowIndex === null ? undefined : this.api?.getDisplayedRowAtIndex(event.rowIndex)?.data;
    if (row !== undefined && !(row instanceof Heading)) this.selected.emit(row as Row);
  }

  /** A cell with a few values shows them as soon as it is edited, however that began. */
  protected showChoices({ column }: CellEditingStartedEvent): void {
    if (this.spec(column.getColId())?.edit?.kind !== 'choice') return;
    setTimeout(() => {
      const picker = this.host.querySelector('.ag-cell-inline-editing [role="combobox"][aria-expanded="false"]');
      picker?.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true, cancelable: true }));
    });
  }

  /** Opens the row, but where the cell is one to type in. */
  protected doubleClicked({ data, column }: CellDoubleClickedEvent): void {
    const edit = this.spec(column.getColId())?.edit;
    if (data !== undefined && !(edit && (edit.when?.(data as Row) ?? true))) this.opened.emit(data as Row);
  }

  protected scrolled(event: BodyScrollEvent): void {
    if (event.direction !== 'vertical' || !this.api) return;
    if (this.api.getLastDisplayedRowIndex() >= this.rows().length - 20) this.nearEnd.emit();
  }

  /** What the header says the rows are to be in the order of; the rows come so from where they are read. */
  protected sortChosen(): void {
    const chosen = this.api?.getColumnState().find(({ sort }) => sort);
    const said = chosen ? `${chosen.colId}-${chosen.sort === 'asc' ? 'up' : 'down'}` : '';
    if (said !== this.sort()) this.sorted.emit(said);
  }

  protected moved({ finished, source }: ColumnMovedEvent): void {
    if (finished && source === 'uiColumnMoved') this.tellLayout({});
  }

  protected sized({ finished, source, column }: ColumnResizedEvent): void {
    if (finished && source === 'uiColumnResized' && column) {
      this.tellLayout({ [column.getColId()]: Math.round(column.getActualWidth()) });
    }
  }

  private tellLayout(widths: Record<string, number>): void {
    const order = (this.api?.getColumnState() ?? []).map(({ colId }) => colId);
    this.laidOut.emit({ order: order.filter((id) => this.spec(id)), widths });
  }

  protected markedAgain(): void {
    this.marked.emit((this.api?.getSelectedRows() ?? []) as Row[]);
  }

  /** Takes all marks off. */
  unmark(): void {
    this.api?.deselectAll();
  }

  protected key(given: CellKeyDownEvent | FullWidthCellKeyDownEvent): void {
    const event = given.event as KeyboardEvent;
    const row = given.data as Row;
    const spec = 'column' in given ? this.spec(given.column.getColId()) : undefined;
    const editing = (this.api?.getEditingCells().length ?? 0) > 0;
    if (editing || !spec || given.data instanceof Heading) return;
    if (event.key === 'Enter' && !(spec.edit && (spec.edit.when?.(row) ?? true))) this.opened.emit(row);
    if (event.key.toLowerCase() === 'd' && event.ctrlKey) {
      event.preventDefault();
      this.copyDown(given.rowIndex ?? 0, spec);
    }
    if (event.key === 'Delete' && event.ctrlKey) this.removed.emit(row);
  }

  /** Where a run of Tabs through typed cells began; null outside one. */
  private runFrom: string | null = null;

  /** Keys that are the grid's own: true where nothing else is to be done with them. */
  private ownKey({ event, editing, node, column }: SuppressKeyboardEventParams): boolean {
    const at = column.getColId();
    const rowIndex = node.rowIndex;
    if (editing) {
      if (event.key === 'Tab' && !event.shiftKey) this.runFrom ??= at;
      if (event.key === 'Escape') this.runFrom = null;
      if (event.key === 'Enter' && !event.ctrlKey && this.runFrom !== null && rowIndex !== null) {
        const from = this.runFrom;
        this.runFrom = null;
        // What was typed is kept first; a blank row may come under it by that.
        setTimeout(() => {
          if (rowIndex + 1 < (this.api?.getDisplayedRowCount() ?? 0)) this.api?.setFocusedCell(rowIndex + 1, from);
        });
      }
      return false;
    }
    this.runFrom = null;
    if ((event.key !== 'Home' && event.key !== 'End') || event.ctrlKey || rowIndex === null) return false;
    const columns = this.columns();
    event.preventDefault();
    this.api?.setFocusedCell(rowIndex, columns[event.key === 'Home' ? 0 : columns.length - 1]!.id);
    return true;
  }

  private copyDown(rowIndex: number, spec: GridColumn<Row>): void {
    const above = this.rows()[rowIndex - 1];
    const here = this.rows()[rowIndex];
    const set = spec.edit ? textSetter(spec.edit) : null;
    if (above === undefined || here === undefined || !set) return;
    set(here, (spec.typed ?? spec.text)?.(above) ?? '');
  }

  /** Cells from a spreadsheet, tabs between columns, into the editable cells from the focused one on. */
  protected paste(event: ClipboardEvent): void {
    if ((event.target as HTMLElement).tagName === 'INPUT') return;
    const at = this.api?.getFocusedCell();
    const text = event.clipboardData?.getData('text/plain');
    if (!at || !text) return;
    event.preventDefault();
    const editable = this.columns().filter((column) => column.edit && textSetter(column.edit));
    const from = editable.findIndex((column) => column.id === at.column.getColId());
    if (from < 0) return;
    const lines = spreadsheetCells(text);
    const first = this.rows()[at.rowIndex];
    if (first === undefined) return;
    const into = this.roomFor()?.(first, lines.length) ?? this.rows().slice(at.rowIndex, at.rowIndex + lines.length);
    lines.forEach(({ cells }, down) => {
      cells.forEach((cell, right) => {
        const edit = editable[from + right]?.edit;
        const row = into[down];
        if (edit && row !== undefined && (edit.when?.(row) ?? true)) textSetter(edit)?.(row, cell);
      });
    });
  }

  private spec(id: string): GridColumn<Row> | undefined {
    return this.columns().find((column) => column.id === id);
  }

  private define(column: GridColumn<Row>): ColDef {
    const { edit } = column;
    return {
      colId: column.id,
      headerName: column.head,
      ...(column.width ? { width: column.width } : { flex: 1, minWidth: 110 }),
      sortable: this.sorts().includes(column.id),
      sort: sortedWay(this.sort(), column.id),
      // The rows come in their order: nothing is sorted here.
      comparator: () => 0,
      resizable: true,
      headerClass: column.figures ? 'figures' : '',
      cellClass: column.figures ? 'figures' : '',
      cellClassRules: {
        'cell-need': ({ data }) => column.need?.(data as Row) ?? false,
        'cell-bad': ({ data }) => (column.problem?.(data as Row) ?? '') !== '',
        'cell-typed': ({ data }) => edit !== undefined && (edit.when?.(data as Row) ?? true),
      },
      valueGetter: ({ data }) => column.text?.(data as Row) ?? '',
      equals: () => false,
      cellRenderer: (params: ICellRendererParams) => this.cell(column, params.data as Row),
      suppressKeyboardEvent: (params) => this.ownKey(params),
      editable: edit ? ({ data }) => edit.when?.(data as Row) ?? true : false,
      ...(edit ? this.editor(column) : {}),
    };
  }

  private editor(column: GridColumn<Row>): ColDef {
    const edit = column.edit!;
    const begin = ({ data }: { data?: unknown }) => (column.typed ?? column.text)?.(data as Row) ?? '';
    if (edit.kind === 'lookup') {
      return {
        cellEditor: LookupEditor,
        cellEditorParams: { edit },
        valueSetter: ({ data, newValue }) => {
          if (newValue === '') edit.setText?.(data as Row, '');
          else if (newValue) edit.set(data as Row, newValue as Choice);
          return false;
        },
      };
    }
    if (edit.kind === 'choice') {
      return {
        cellEditor: 'agSelectCellEditor',
        cellEditorParams: ({ data }: { data: unknown }) => ({
          values: edit.options(data as Row).map((option) => option.label),
        }),
        valueSetter: ({ data, newValue }) => {
          const option = edit.options(data as Row).find((each) => each.label === newValue);
          if (option) edit.set(data as Row, option.value);
          return false;
        },
      };
    }
    return {
      cellEditor: 'agTextCellEditor',
      valueGetter: begin,
      valueSetter: ({ data, newValue }) => {
        edit.set(data as Row, String(newValue ?? '').trim());
        return false;
      },
    };
  }

  private cell(column: GridColumn<Row>, row: Row): HTMLElement | SVGElement | string {
    if (column.beads) {
      const cell = document.createElement('span');
      cell.append(beadsElement(column.beads(row)), ` ${column.text?.(row) ?? ''}`);
      return cell;
    }
    const text = column.text?.(row) ?? '';
    const link = column.link?.(row) ?? null;
    const problem = column.problem?.(row) ?? '';
    const element: HTMLElement = document.createElement(link ? 'a' : 'span');
    element.textContent = text;
    // What may be cut shows whole.
    if (problem || !column.width) element.title = problem || text;
    if (link) {
      element.setAttribute('href', link);
      element.tabIndex = -1;
      element.addEventListener('click', (event) => {
        if (event.ctrlKey || event.metaKey) return;
        event.preventDefault();
        void this.router.navigateByUrl(link);
      });
    }
    return element;
  }

  /** The element, for pages that move the focus here. */
  get element(): HTMLElement {
    return this.host;
  }
}
