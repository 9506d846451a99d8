import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Router } from '@angular/router';
import { of } from 'rxjs';
import { refusal, Stage } from '../../test/stage';
import { DocumentDock } from '../documents';
import { Grid, type GridColumn } from '../kit/grid';
import { Sheets } from '../kit/act/sheet';
import { KeepPairsSheet } from './keep-pairs-sheet';
import { PairsPage, standing } from './pairs';
import type { PairRow, PairTyped } from './service';

const row = (change: Partial<PairRow> = {}): PairRow => ({
  tieId: 1,
  item: { id: 2, number: 'RO-2540', name: 'Membrane', unit: 'piece' },
  route: 'drop',
  quantity: '10',
  received: '0',
  order: { kind: 'SO', id: 3, number: 'SO-0003' },
  orderLineId: 31,
  orderLineNo: 1,
  orderQuantity: '10',
  customer: { id: 5, number: 'C-203', name: 'Nilam Dialysis Centre' },
  shipToId: 7,
  shipTos: [
    { id: 7, label: 'Ward store' },
    { id: 8, label: 'Second clinic' },
  ],
  shipDate: '2027-03-12',
  purchase: { kind: 'PO', id: 4, number: 'PO-0004' },
  purchaseLineNo: 1,
  purchaseQuantity: '10',
  purchaseReceived: '0',
  vendor: { id: 6, number: 'V-101', name: 'Arus' },
  dueDate: '2027-03-10',
  differs: [],
  ...change,
});

/** Stands where the grid is: keeps its columns and rows, and lets a test type into a cell. */
@Component({ selector: 'k-grid', template: '', changeDetection: ChangeDetectionStrategy.OnPush })
class Cells {
  static rows: readonly PairRow[] = [];
  static columns: readonly GridColumn<PairRow>[] = [];
  readonly label = input('');
  readonly rowId = input<unknown>();
  readonly rows = input([], { transform: (rows: readonly PairRow[]) => (Cells.rows = rows) });
  readonly columns = input([], { transform: (columns: readonly GridColumn<PairRow>[]) => (Cells.columns = columns) });
  readonly selected = output<PairRow>();
  readonly opened = output<PairRow>();
  readonly nearEnd = output<void>();
  static column = (id: string) => Cells.columns.find((column) => column.id === id)!;
  static text = (id: string, at = 0) => Cells.column(id).text!(Cells.rows[at]!);
  static type(id: string, text: string, at = 0) {
    (Cells.column(id).edit as { set(row: PairRow, text: string): void }).set(Cells.rows[at]!, text);
  }
}

@Component({ selector: 'k-document-dock', template: '', changeDetection: ChangeDetectionStrategy.OnPush })
class NoDock {
  readonly orderLineId = input<unknown>();
  readonly document = input<unknown>();
}

async function pageOf(...rows: PairRow[]) {
  TestBed.overrideComponent(PairsPage, {
    remove: { imports: [Grid, DocumentDock] },
    add: { imports: [Cells, NoDock] },
  });
  const page = await Stage.of(PairsPage, { reads: () => ({ rows, next: null }) });
  const opened: { data: unknown }[] = [];
  jest.spyOn(TestBed.inject(Sheets), 'open').mockImplementation((_sheet, data) => {
    opened.push({ data });
    return of(undefined);
  });
  return { page, opened };
}

describe('the pair edit', () => {
  it('takes what is typed over a cell as it is read, and offers to change it', async () => {
    const { page, opened } = await pageOf(row(), row({ tieId: 2 }));
    Cells.type('quantity', '1,200');
    Cells.type('dueDate', '+20');
    Cells.type('shipTo', '8', 1);
    await page.rests();
    expect([Cells.text('quantity'), Cells.text('dueDate'), Cells.text('shipTo', 1)]).toEqual([
      '1,200',
      'Sun 21 Mar',
      'Second clinic',
    ]);
    await page.press('Change 2 ties…');
    expect(opened[0]!.data).toMatchObject([
      { row: { tieId: 1 }, quantity: '1200', dueDate: '2027-03-21' },
      { row: { tieId: 2 }, shipToId: 8 },
    ]);
  });

  it('keeps what cannot be read, and marks its cell', async () => {
    const { page } = await pageOf(row());
    Cells.type('quantity', 'many');
    Cells.type('shipDate', 'soon');
    await page.rests();
    expect([Cells.text('quantity'), Cells.text('shipDate')]).toEqual(['many', 'soon']);
    expect(Cells.column('quantity').problem!(Cells.rows[0]!)).toBe('Not a number.');
    expect(Cells.column('shipDate').problem!(Cells.rows[0]!)).toContain('Not a date');
  });

  it('typed back to what it was, or emptied, is no change any more', async () => {
    const { page } = await pageOf(row());
    Cells.type('quantity', '12');
    Cells.type('dueDate', '15/3');
    Cells.type('quantity', '10');
    Cells.type('dueDate', '');
    await page.rests();
    expect(() => page.button('Change it…')).toThrow('no button');
    Cells.type('quantity', '12');
    await page.rests();
    await page.press('Forget what was typed');
    expect(Cells.text('quantity')).toBe('10');
  });

  it('brings all late lines into step at once', async () => {
    const late = row({ tieId: 2, dueDate: '2027-03-20', differs: ['date'] });
    const { page, opened } = await pageOf(row(), late);
    expect(page.text('h1')).toContain('2 ties between orders and purchases, 1 out of step');
    await page.press('Ship 1 late line when supply is due');
    await page.press('Change it…');
    expect(opened[0]!.data).toMatchObject([{ row: { tieId: 2 }, shipDate: '2027-03-20' }]);
  });

  it('offers no other address where there is none', async () => {
    await pageOf(row({ shipTos: [{ id: 7, label: 'Ward store' }] }));
    expect(Cells.column('shipTo').edit!.when!(Cells.rows[0]!)).toBe(false);
  });

  it('keeps its filters in the address', async () => {
    const { page } = await pageOf(row());
    const went = jest.spyOn(TestBed.inject(Router), 'navigate').mockResolvedValue(true);
    await page.press('Out of step');
    expect(went.mock.calls[0]![1]!.queryParams).toEqual({ show: 'differs' });
  });

  it.each<[Partial<PairRow>, string]>([
    [{}, 'in step'],
    [{ received: '4' }, '6 short'],
    [{ received: '10', purchaseReceived: '10' }, 'all came'],
    [{ received: '10', purchaseReceived: '11' }, '1 over'],
    [{ differs: ['date', 'address'] }, 'differs in date, address'],
  ])('with %o it says: %s', (change, words) => {
    expect(standing(row(change))).toBe(words);
  });
});

describe('keeping changed pairs', () => {
  const typed: PairTyped[] = [
    { row: row(), quantity: '12', dueDate: '2027-03-21' },
    { row: row({ tieId: 2 }), quantity: '0' },
  ];
  const made = {
    tieId: 1,
    order: 'SO-0003',
    purchase: 'PO-0004',
    item: 'RO-2540',
    currency: 'MYR',
    quantity: '12',
    supplyQuantity: '12',
    salesBy: '1080',
    supplyBy: '-805',
    shipDate: '2027-03-12',
    dueDate: '2027-03-21',
    shipToId: 7,
    also: [] as string[],
    differs: 'date',
  };

  it('L7 shows where both go from now on, and what else goes there with them', async () => {
    const one = row({
      shipTos: [
        { id: 7, label: 'Ward store' },
        { id: 8, label: 'Second clinic' },
      ],
    });
    const stage = await Stage.of(KeepPairsSheet, {
      data: [{ row: one, shipToId: 8 }],
      previews: () => ({ leftOut: [], pairs: [{ ...made, shipToId: 8, also: ['PO-0009'], differs: '' }] }),
    });
    expect(stage.rows()[0]![6]).toBe('Ward store → Second clinic');
    expect(stage.rows()[1]).toEqual(['PO-0009 of the same order goes there too.']);
  });

  it('shows what it does to both documents, and sends what was seen with what was typed', async () => {
    const stage = await Stage.of(KeepPairsSheet, {
      data: typed.slice(0, 1),
      previews: () => ({ leftOut: [], pairs: [made] }),
    });
    expect(stage.rows()[0]).toEqual([
      'SO-0003 line 1',
      'PO-0004 line 1',
      'RO-2540',
      '10 → 12',
      'Fri 12 Mar',
      'Wed 10 Mar → Sun 21 Mar',
      '+1,080.00',
      '−805.00',
    ]);
    expect(stage.rows()[1]).toEqual(['Still differs in date.']);
    await stage.send();
    expect(stage.acted[0]!.input).toEqual({
      goodOnly: false,
      pairs: [
        {
          tieId: 1,
          was: { quantity: '10', shipDate: '2027-03-12', dueDate: '2027-03-10', shipToId: 7 },
          quantity: '12',
          dueDate: '2027-03-21',
        },
      ],
    });
  });

  it('says at each tie what is refused, and leaves it out where that is chosen', async () => {
    const zero = refusal('not-above-zero', 'pairs.1.quantity', 'It must be above zero.');
    const stage = await Stage.of(KeepPairsSheet, {
      data: typed,
      previews: ({ input: asked }) =>
        asked['goodOnly']
          ? { refusals: [], warnings: [zero], effects: { leftOut: [2], pairs: [made] } }
          : { refusals: [zero], effects: null },
    });
    expect(stage.text('[role="alert"]')).toBe('It must be above zero.');
    await stage.choose('Leave out what is refused');
    expect(stage.text('footer')).toContain('1 tie changed, 1 left as it is');
    expect(stage.element.querySelectorAll('tr.out')).toHaveLength(1);
    await stage.press('Change the good ones');
    await stage.send();
    expect(stage.acted[0]!.input).toMatchObject({ goodOnly: true });
  });

  it('says at its tie what stood against it only when it was tried, as somebody was faster', async () => {
    const faster = refusal('pair-changed', 'pairs.1', 'Somebody changed the quantity meanwhile.');
    const stage = await Stage.of(KeepPairsSheet, {
      data: typed,
      previews: () => ({ leftOut: [], pairs: [made] }),
      refused: [faster],
    });
    await stage.send();
    expect(stage.text('[role="alert"]')).toBe('Somebody changed the quantity meanwhile.');
    expect(stage.closed).toEqual([]);
  });
});
