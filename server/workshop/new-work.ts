import { itemAt, MAIN_LOCATION, pointOf } from '@core/kernel';
import { decideNewWork } from '@core/promise';
import * as contract from '@api/workshop';
import { defineAct, orNotFound } from '../acts';
import { takeTurn } from '../db';
import { groundRows, writePlanned } from '../promise';

/** Something is made for our stock because somebody says so: firm from the beginning, what it needs is planned. // W5 */
export const newWork = defineAct(contract.newWork, {
  right: 'plan',
  says: 'make something for stock',
  done: 'order made',
  async load(tx, { itemId }, { companyId, workDate }) {
    const [item] = await tx.rows<{ id: number }>('SELECT id FROM item WHERE company_id = ? AND id = ?', [
      companyId,
      itemId,
    ]);
    orNotFound(item, 'This item');
    // Whoever plans next sees what this one planned. // T8
    await takeTurn(tx, 'promise_turn', [companyId]);
    const rows = await groundRows(tx, companyId, workDate, [pointOf(itemId, MAIN_LOCATION)], { without: [] });
    return { rows };
  },
  decide: ({ rows }, { itemId, quantity, due }) =>
    decideNewWork(rows, { point: pointOf(itemId, MAIN_LOCATION), quantity, due }),
  preview: ({ orders, day }, { rows }) => ({
    day,
    start: orders[0]!.start,
    orders: orders.length,
    below: orders.slice(1).map(({ itemId, quantity, kind, due }) => ({
      item: rows.items.find(({ id }) => itemAt(id) === itemAt(itemId))!.number,
      quantity,
      kind,
      due,
    })),
  }),
  async write(tx, { orders }, _ground, doer) {
    const made = await writePlanned(tx, doer, orders);
    await tx.run("UPDATE planned_order SET state = 'firm' WHERE company_id = ? AND id = ?", [
      doer.companyId,
      made[0]!.id,
    ]);
    return { made, touched: [] };
  },
});
