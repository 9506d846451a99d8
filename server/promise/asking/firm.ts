import { decideFirm } from '@core/promise';
import * as contract from '@api/promise';
import { defineAct } from '../../acts';
import { takeTurn, type Columns } from '../../db';
import type { PlannedOrder } from '../tables';
import { KIND } from './acts';

/** Promising and planning leave what is firm where it is; it waits for the workshop. // T12 */
export const makeFirm = defineAct(contract.makeFirm, {
  right: 'plan',
  says: 'make planned orders firm',
  done: 'made firm',
  async load(tx, input, { companyId }) {
    await takeTurn(tx, 'promise_turn', [companyId]);
    const found = await tx.rows<Columns<PlannedOrder, 'id number kind state'>>(
      `SELECT id, number, kind, state FROM planned_order WHERE company_id = ? AND id IN (?) ${tx.forUpdate}`,
      [companyId, input.orderIds],
    );
    return input.orderIds.map((id) => found.find((each) => each.id === id));
  },
  decide: (orders, input) => decideFirm(orders, input.firm),
  preview: (_effects, orders) => ({ orders: orders.flatMap((order) => order?.number ?? []) }),
  async write(tx, { state }, orders, { companyId }, input) {
    await tx.run('UPDATE planned_order SET state = ?, version = version + 1 WHERE company_id = ? AND id IN (?)', [
      state,
      companyId,
      input.orderIds,
    ]);
    return {
      made: [],
      touched: orders.flatMap((order) =>
        order ? [{ kind: KIND[order.kind], id: order.id, number: order.number }] : [],
      ),
    };
  },
});
