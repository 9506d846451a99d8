import { TestBed } from '@angular/core/testing';
import { of } from 'rxjs';
import { check, shorten, type GroundRows } from '@core/promise';
import { groundRows, itemRow, moveRow, seller } from '../../../core/promise/ground/testing';
import { refusal, Stage, type Backdrop } from '../../test/stage';
import { PromiseComputer } from './computer';
import { PromiseSheet } from './promise-sheet';
import type { OrderGround } from './service';

/** Skids assembled in two days of a pump each; pumps take nine days, 4 are there. */
const ROWS: GroundRows = groundRows({
  items: [
    itemRow(1, { number: 'SKID', obtained: 'assemble', method: 'ctp', makeDays: 2 }),
    itemRow(2, { number: 'PUMP', onHand: '4', sellers: [seller(9)] }),
  ],
  components: [
    {
      itemId: 1,
      lineNo: 1,
      componentId: 2,
      quantity: '1',
      scrapPercent: '0',
      operationNo: null,
      firstDay: null,
      lastDay: null,
    },
  ],
  supplies: [moveRow(2, '2027-03-08', '3')],
});

const line = (id: number, itemId: number, quantity: string): OrderGround['lines'][number] => ({
  id,
  lineNo: id,
  item: { id: itemId, number: itemId === 1 ? 'SKID' : 'PUMP', name: '', unit: 'piece' },
  point: itemId,
  straight: false,
  own: false,
  quantity,
  asked: '2027-03-02',
  shipDate: '2027-03-02',
  promised: null,
  method: itemId === 1 ? 'ctp' : 'atp',
  way: null,
  planned: 0,
});

const ORDER = { id: 5, number: 'SO-0005', version: 2, state: 'draft' };

async function staged(lines: OrderGround['lines'], more: Backdrop = {}) {
  TestBed.configureTestingModule({
    providers: [
      {
        provide: PromiseComputer,
        useValue: {
          check: (...asked: Parameters<typeof check>) => of(check(...asked)),
          shorten: (...asked: Parameters<typeof shorten>) => of(shorten(...asked)),
        },
      },
    ],
  });
  return Stage.of(PromiseSheet, { data: { order: ORDER, rows: ROWS, lines } satisfies OrderGround, ...more });
}

describe('the promise sheet', () => {
  it('shows every way side by side as it is typed, and why', async () => {
    const stage = await staged([line(1, 1, '3')]);
    // None are there: the lead time says when.
    expect(stage.button('What is there, line 1: Wed 3 Mar').textContent!.trim()).toBe('Wed 3 Mar');
    stage.button('Use what we have, line 1: Wed 3 Mar');
    stage.button('Start from nothing, line 1: Tue 16 Mar');
    expect(stage.text()).toContain('Plans 1 order with it');
    // More than there is: it waits for pumps, and is a what-if that cannot be promised.
    await stage.type('Quantity of line 1', '6');
    stage.button('Use what we have, line 1: Wed 10 Mar');
    expect(stage.text()).toContain('A quantity is not the order’s');
    expect(stage.button('Promise this day').disabled).toBe(true);
    expect(stage.acted).toEqual([]);
    await stage.type('Quantity of line 1', '0');
    expect(stage.button('Promise this day').disabled).toBe(true);
  });

  it('promises the way and the day that were seen, and shows the new one where it moved', async () => {
    const moved = refusal('promise-moved', 'lines.0.day', 'It was Tue 16 Mar when you looked and is Thu 18 Mar now.');
    const stage = await staged([line(1, 1, '3')], { refused: [moved] });
    await stage.press('Start from nothing, line 1: Tue 16 Mar');
    await stage.type('Day asked for line 1', '4/3');
    await stage.send();
    expect(stage.acted[0]).toEqual({
      name: 'acceptPromise',
      input: {
        orderId: 5,
        version: 2,
        together: false,
        lines: [{ lineId: 1, way: 'nothing', asked: '2027-03-04', day: '2027-03-16' }],
      },
    });
    expect(stage.text()).toContain('is Thu 18 Mar now');
    expect(stage.closed).toEqual([]);
    await stage.send();
    expect(stage.closed).toHaveLength(1);
  });

  it('lets lines compete, each on its own day or all on the last', async () => {
    const stage = await staged([line(1, 1, '4'), line(2, 2, '2')]);
    // By itself the line of pumps could go at once; the skids take the four that are there, and it waits for more.
    stage.button('What is there, line 2: Tue 2 Mar');
    stage.button('Use what we have, line 1: Wed 3 Mar');
    await stage.press('All together, Mon 8 Mar');
    await stage.send();
    expect(stage.acted[0]!.input).toMatchObject({
      together: true,
      lines: [
        { lineId: 1, day: '2027-03-08', asked: '2027-03-02' },
        { lineId: 2, day: '2027-03-08', asked: '2027-03-02' },
      ],
    });
  });

  it('says there is nothing to promise', async () => {
    const stage = await staged([]);
    expect(stage.text()).toContain('Nothing of this order is open.');
    expect(stage.button('Promise this day').disabled).toBe(true);
  });

  it('tries what is typed for an order that is not kept, and takes it into its lines', async () => {
    const stage = await staged([line(1, 1, '2'), line(2, 2, '3')], {
      data: { order: { ...ORDER, id: 0, number: '' }, rows: ROWS, lines: [line(1, 1, '2'), line(2, 2, '3')] },
    });
    expect(stage.text('h2')).toContain('Try promises');
    await stage.type('Quantity of line 2', '5');
    await stage.press('Take these into the order');
    expect(stage.acted).toEqual([]);
    expect(stage.closed).toEqual([
      [
        { id: 1, quantity: '2', day: expect.any(String) as string },
        { id: 2, quantity: '5', day: expect.any(String) as string },
      ],
    ]);
  });

  it('asks only the lead time of what goes straight to the customer', async () => {
    const stage = await staged([{ ...line(2, 2, '3'), straight: true }]);
    const ways = [...stage.element.querySelectorAll<HTMLButtonElement>('button.way')];
    expect(ways.map((each) => each.disabled)).toEqual([true, true, true, false]);
    expect(ways.map((each) => each.getAttribute('aria-pressed'))).toEqual(['false', 'false', 'false', 'true']);
    // Nine working days from a Monday.
    expect(ways[3]!.textContent!.trim()).toBe('Fri 12 Mar');
    expect(stage.text()).not.toContain('What would shorten it');
    await stage.press('Promise this day');
    expect(stage.acted[0]!.input).toMatchObject({ lines: [{ way: 'lead', day: '2027-03-12' }] });
  });
});
