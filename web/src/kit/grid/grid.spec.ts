import { Component, viewChild } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { of } from 'rxjs';
import { Grid, type GridColumn } from './index';

interface Row {
  id: number;
  item: string;
  quantity: string;
  fixed: boolean;
}

/** A grid of three rows: an item looked up, a quantity typed where the row is not fixed, and a name to read. */
async function gridOf(heading: ((row: Row) => string) | null = null, sort = '') {
  const said: string[] = [];
  const marks: number[][] = [];
  const set: [number, string, string][] = [];
  const heard: [string, number][] = [];
  @Component({
    selector: 'k-grid-host',
    imports: [Grid],
    template: `<k-grid
      label="Lines"
      [natural]="true"
      [rows]="rows"
      [columns]="columns"
      [rowId]="rowId"
      (opened)="heard('opened', $event)"
      (selected)="heard('selected', $event)"
      [heading]="heading"
      [marks]="heading !== null"
      [sorts]="['name']"
      [sort]="sort"
      [laid]="true"
      (sorted)="said.push($event)"
      (marked)="marked($event)"
      (removed)="heard('removed', $event)"
    />`,
  })
  class Host {
    readonly heading = heading;
    readonly sort = sort;
    readonly said = said;
    marked(rows: Row[]): void {
      marks.push(rows.map(({ id }) => id));
    }
    readonly grid = viewChild.required<Grid<Row>>(Grid);
    readonly rows: Row[] = [
      { id: 1, item: 'FC-10', quantity: '4', fixed: false },
      { id: 2, item: 'FC-20', quantity: '5', fixed: true },
      { id: 3, item: 'PM-15', quantity: '6', fixed: false },
    ];
    readonly rowId = (row: Row) => String(row.id);
    readonly columns: GridColumn<Row>[] = [
      { id: 'name', head: 'Name', text: (row) => `Name of ${row.item}`, link: (row) => `/items/${row.id}` },
      {
        id: 'item',
        head: 'Item',
        text: (row) => row.item,
        edit: {
          kind: 'lookup',
          search: () => of([]),
          set: () => undefined,
          setText: (row, typed) => set.push([row.id, 'item', typed]),
        },
      },
      {
        id: 'quantity',
        head: 'Quantity',
        text: (row) => `${row.quantity} pieces`,
        typed: (row) => row.quantity,
        problem: (row) => (row.id === 3 ? 'too many' : ''),
        edit: { kind: 'text', when: (row) => !row.fixed, set: (row, typed) => set.push([row.id, 'quantity', typed]) },
      },
    ];
    heard(what: string, row: Row): void {
      heard.push([what, row.id]);
    }
  }
  TestBed.configureTestingModule({ providers: [provideRouter([{ path: '**', children: [] }])] });
  const fixture = TestBed.createComponent(Host);
  document.body.append(fixture.nativeElement as HTMLElement);
  fixture.detectChanges();
  const rests = async () => {
    await fixture.whenStable();
    await new Promise((resolve) => setTimeout(resolve, 60));
    fixture.detectChanges();
  };
  await rests();
  const element = fixture.nativeElement as HTMLElement;
  const grid = fixture.componentInstance.grid();
  const at = (row: number, column: string) =>
    element.querySelector<HTMLElement>(`[row-index="${row}"] [col-id="${column}"]`)!;
  const stand = async (row: number, column: string) => {
    (grid as unknown as { api: { setFocusedCell(row: number, column: string): void } }).api.setFocusedCell(row, column);
    await rests();
  };
  const press = async (row: number, column: string, key: string, ctrlKey = false) => {
    await stand(row, column);
    at(row, column).dispatchEvent(new KeyboardEvent('keydown', { key, ctrlKey, bubbles: true, cancelable: true }));
    await rests();
  };
  const paste = async (row: number, column: string, text: string) => {
    await stand(row, column);
    const event = new Event('paste', { bubbles: true, cancelable: true });
    Object.defineProperty(event, 'clipboardData', { value: { getData: () => text } });
    at(row, column).dispatchEvent(event);
    await rests();
    return event.defaultPrevented;
  };
  return { element, at, set, heard, said, marks, stand, press, paste, rests };
}

describe('a grid of a list', () => {
  it('puts rows under what they have in common, and marks rows, not headings', async () => {
    const { element, marks, rests } = await gridOf((row) => (row.id < 3 ? 'Cartridges' : 'Pumps'));
    const headings = [...element.querySelectorAll('.grid-heading')].map((each) => each.textContent);
    expect(headings).toEqual(['Cartridges', 'Pumps']);
    const boxes = [...element.querySelectorAll<HTMLInputElement>('.ag-row input[type=checkbox]')];
    expect(boxes).toHaveLength(3);
    boxes[0]!.click();
    await rests();
    boxes[2]!.click();
    await rests();
    expect(marks.at(-1)).toEqual([1, 3]);
  });

  it('says which order is asked for at a head, and sorts nothing itself', async () => {
    const { element, said, at, rests } = await gridOf(null, 'name-down');
    const head = element.querySelector<HTMLElement>('.ag-header-cell[col-id=name]')!;
    expect(head.getAttribute('aria-sort')).toBe('descending');
    expect(element.querySelector('.ag-header-cell[col-id=item]')!.getAttribute('aria-sort')).toBeNull();
    expect(at(0, 'name').textContent).toContain('FC-10');
    head.querySelector<HTMLElement>('.ag-header-cell-label')!.click();
    await rests();
    expect(said).toEqual(['']);
  });

  it('stays in its row by Home and End', async () => {
    const { element, press } = await gridOf();
    await press(1, 'item', 'End');
    const focused = () => element.querySelector('.ag-cell-focus')!;
    expect(focused().getAttribute('col-id')).toBe('quantity');
    expect(focused().closest('.ag-row')!.getAttribute('row-index')).toBe('1');
    await press(1, 'quantity', 'Home');
    expect(focused().getAttribute('col-id')).toBe('name');
  });
});

describe('the grid', () => {
  it('shows its cells, marks what is refused in them, and leads where a name leads', async () => {
    const { element, at } = await gridOf();
    expect(element.querySelector('[role=region]')!.getAttribute('aria-label')).toBe('Lines');
    expect(at(0, 'quantity').textContent.trim()).toBe('4 pieces');
    expect(at(0, 'name').querySelector('a')!.getAttribute('href')).toBe('/items/1');
    expect(at(2, 'quantity').className).toContain('cell-bad');
    expect(at(0, 'quantity').className).not.toContain('cell-bad');
    expect(at(0, 'quantity').className).toContain('cell-typed');
    expect(at(1, 'quantity').className).not.toContain('cell-typed');
  });

  it('tells the row one stands on, opens it by Enter where nothing is typed there, and removes it', async () => {
    const { press, heard } = await gridOf();
    await press(1, 'name', 'Enter');
    expect(heard).toContainEqual(['selected', 2]);
    expect(heard).toContainEqual(['opened', 2]);
    await press(2, 'name', 'Delete', true);
    expect(heard).toContainEqual(['removed', 3]);
    expect(heard.filter(([what]) => what === 'opened')).toHaveLength(1);
  });

  it('copies a cell from above as it is typed, not as it is shown', async () => {
    const { press, set } = await gridOf();
    await press(2, 'quantity', 'd', true);
    expect(set).toEqual([[3, 'quantity', '5']]);
    await press(0, 'quantity', 'd', true);
    expect(set).toHaveLength(1);
  });

  it('takes pasted cells from where one stands to the right and down, but into what is fixed', async () => {
    const { paste, set } = await gridOf();
    expect(await paste(0, 'item', 'A-1\t7\r\nA-2\t8\r\n"A\n3"\t9\r\nbeyond\t1')).toBe(true);
    expect(set).toEqual([
      [1, 'item', 'A-1'],
      [1, 'quantity', '7'],
      [2, 'item', 'A-2'],
      [3, 'item', 'A\n3'],
      [3, 'quantity', '9'],
    ]);
  });

  it('takes nothing where nothing can be typed', async () => {
    const { paste, set } = await gridOf();
    await paste(0, 'name', 'x\ty');
    expect(set).toEqual([]);
  });
});
