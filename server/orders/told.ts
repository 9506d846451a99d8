import { decideTold } from '@core/orders';
import * as contract from '@api/orders';
import { defineAct } from '../acts';
import { loadOrder } from './store';

/** Whoever told a customer that lines ship later says so. // W3 */
export const customerTold = defineAct(contract.customerTold, {
  right: 'orders',
  says: 'say that customers know',
  done: 'customer knows the new day',
  async load(tx, { id }, { companyId }) {
    const { number } = await loadOrder(tx, companyId, id);
    const moved = await tx.rows<{ id: number }>(
      'SELECT id FROM sales_order_line WHERE company_id = ? AND order_id = ? AND moved_from IS NOT NULL',
      [companyId, id],
    );
    return { id, number, moved: moved.map((line) => line.id) };
  },
  decide: (order) => decideTold(order),
  preview: ({ lineIds }) => ({ lines: lineIds.length }),
  async write(tx, { lineIds }, { id, number }, { companyId }) {
    await tx.run('UPDATE sales_order_line SET moved_from = NULL WHERE company_id = ? AND id IN (?)', [
      companyId,
      lineIds,
    ]);
    return { made: [], touched: [{ kind: 'SO' as const, id, number }] };
  },
});
