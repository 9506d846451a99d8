import { decideCommission } from '@core/orders';
import * as contract from '@api/orders';
import { defineAct } from '../acts';
import type { Sql } from '../db';
import { loadOrder } from './store';
import { orderCommissionTable } from './tables';

/** Shares the commission of an order among those who work here. // S1 */
export const shareCommission = defineAct(contract.shareCommission, {
  right: 'orders',
  says: 'share the commission of orders',
  done: 'commission shared',
  async load(tx, input, doer) {
    const head = await loadOrder(tx, doer.companyId, input.id);
    const shared = await commissionOf(tx, doer.companyId, head.id);
    return {
      head,
      order: { number: head.number, state: head.state },
      people: await peopleOf(tx, doer.companyId),
      now: shared.map(({ person, perCent }) => ({ personId: person.id, perCent })),
    };
  },
  decide: (ground, input) => decideCommission(ground, input),
  preview: ({ shares }) => ({ shares: shares.length }),
  async write(tx, { shares }, { head }, { companyId }) {
    await tx.run('DELETE FROM order_commission WHERE company_id = ? AND order_id = ?', [companyId, head.id]);
    await tx.insertPlain(
      orderCommissionTable,
      shares.map((share) => ({
        companyId,
        orderId: head.id,
        personId: share.personId,
        perCent: share.perCent,
      })),
    );
    return { made: [], touched: [{ kind: 'SO', id: head.id, number: head.number }] };
  },
});

/** Who works in a company, by name. */
export function peopleOf(sql: Sql, companyId: number): Promise<{ id: number; name: string }[]> {
  return sql.rows(
    `SELECT DISTINCT p.id, p.name FROM person_role r JOIN person p ON p.id = r.person_id
      WHERE r.company_id = ? AND p.active ORDER BY p.name`,
    [companyId],
  );
}

/** The shares of an order's commission, the largest first. */
export async function commissionOf(sql: Sql, companyId: number, orderId: number) {
  const rows = await sql.rows<{ id: number; name: string; perCent: string }>(
    `SELECT p.id, p.name, c.per_cent FROM order_commission c JOIN person p ON p.id = c.person_id
      WHERE c.company_id = ? AND c.order_id = ? ORDER BY c.per_cent DESC, p.name`,
    [companyId, orderId],
  );
  return rows.map((row) => ({ person: { id: row.id, name: row.name }, perCent: row.perCent }));
}
