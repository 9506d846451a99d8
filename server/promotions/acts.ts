import {
  decidePromotion,
  decideStop,
  type PromotionGround,
  type PromotionKind,
  type PromotionSaved,
} from '@core/promotions';
import * as contract from '@api/promotions';
import { defineAct, orNotFound, takeNumbers } from '../acts';
import { ownCurrency } from '../catalogue';
import type { Sql, Tx } from '../db';
import { promotionLineTable, promotionTable, type Promotion } from './tables';

type Head = Pick<Promotion, 'id' | 'number' | 'version' | 'state' | 'used'>;

async function loadPromotion(sql: Sql, companyId: number, id: number): Promise<Head> {
  const [row] = await sql.rows<Head>(
    `SELECT id, number, version, state, used FROM promotion WHERE company_id = ? AND id = ? ${sql.forUpdate}`,
    [companyId, id],
  );
  return orNotFound(row, 'This promotion');
}

/** Its lines, and whether a line of an order has anything of them. */
async function linesOf(sql: Sql, companyId: number, id: number) {
  const rows = await sql.rows<
    Omit<NonNullable<PromotionGround['now']>['lines'][number], 'used'> & { kind: PromotionKind; used: number }
  >(
    `SELECT l.id, l.line_no, l.item_id, l.item_group_id AS group_id, l.kind,
            EXISTS (SELECT 1 FROM sales_order_line o WHERE o.company_id = l.company_id AND o.promotion_line_id = l.id) AS used
       FROM promotion_line l WHERE l.company_id = ? AND l.promotion_id = ? ORDER BY l.line_no`,
    [companyId, id],
  );
  return rows.map((row) => ({ ...row, used: row.used === 1 }));
}

const idsIn = async (sql: Sql, table: string, companyId: number, ids: readonly number[]): Promise<number[]> => {
  const rows = await sql.rows<{ id: number }>(`SELECT id FROM ${table} WHERE company_id = ? AND id IN (?)`, [
    companyId,
    ids,
  ]);
  return rows.map(({ id }) => id);
};

/** A promotion made or changed; what orders have of it stays. // S13 */
export const savePromotion = defineAct(contract.savePromotion, {
  right: 'promotions',
  says: 'keep promotions',
  done: 'promotion saved',
  expectedVersion: ({ id, version }) => (id === null ? null : { kind: 'PM', id, version: version ?? 0 }),
  async load(sql, input, { companyId }) {
    const head = input.id === null ? null : await loadPromotion(sql, companyId, input.id);
    const itemIds = input.lines.flatMap(({ itemId, freeItemId }) => [itemId ?? [], freeItemId ?? []].flat());
    const [lines, customerIds, priceGroupIds, items, groupIds, [company]] = await Promise.all([
      head ? linesOf(sql, companyId, head.id) : [],
      idsIn(sql, 'customer', companyId, [input.customerId ?? 0]),
      idsIn(sql, 'price_group', companyId, [input.priceGroupId ?? 0]),
      sql.rows<{ id: number; number: string; outOfUse: boolean }>(
        'SELECT id, number, out_of_use FROM item WHERE company_id = ? AND id IN (?)',
        [companyId, itemIds],
      ),
      idsIn(
        sql,
        'item_group',
        companyId,
        input.lines.flatMap(({ groupId }) => groupId ?? []),
      ),
      sql.rows<{ currency: string }>(`SELECT ${ownCurrency('?')} AS currency`, [companyId]),
    ]);
    return {
      head,
      ground: {
        now: head && {
          number: head.number,
          used: head.used,
          lines: lines.map((line) => ({ ...line, used: Boolean(line.used) })),
        },
        currency: company!.currency,
        customerIds,
        priceGroupIds,
        items: new Map(items.map((item) => [item.id, item])),
        groupIds,
      },
    };
  },
  decide: ({ ground }, input) => decidePromotion(ground, input),
  preview: ({ lines }) => ({ lines: lines.length }),
  async write(tx, saved, { head }, doer) {
    const { companyId } = doer;
    const columns = {
      name: saved.name,
      customerId: saved.customerId,
      priceGroupId: saved.priceGroupId,
      firstDay: saved.firstDay,
      lastDay: saved.lastDay,
      budget: saved.budget,
    };
    if (!head) {
      const number = (await takeNumbers(tx, companyId, { PM: 1 }))('PM');
      const [id] = await tx.insert(promotionTable, [{ companyId, number, ...columns }]);
      await writeLines(tx, companyId, id!, saved);
      return { made: [{ kind: 'PM', id: id!, number, version: 1 }], touched: [] };
    }
    await tx.run(
      `UPDATE promotion SET name = ?, customer_id = ?, price_group_id = ?, first_day = ?, last_day = ?, budget = ?, version = version + 1
        WHERE company_id = ? AND id = ?`,
      [...Object.values(columns), companyId, head.id],
    );
    if (saved.removedLineIds.length > 0) {
      await tx.run('DELETE FROM promotion_line WHERE company_id = ? AND id IN (?)', [companyId, saved.removedLineIds]);
    }
    await writeLines(tx, companyId, head.id, saved);
    return { made: [], touched: [{ kind: 'PM', id: head.id, number: head.number, version: head.version + 1 }] };
  },
});

async function writeLines(tx: Tx, companyId: number, promotionId: number, { lines }: PromotionSaved): Promise<void> {
  const columns = lines.map(({ id, groupId, from, ...line }, at) => ({
    id,
    row: { ...line, lineNo: at + 1, itemGroupId: groupId, fromQuantity: from },
  }));
  await tx.batch(
    columns.flatMap(({ id, row }) =>
      id === null
        ? []
        : [
            {
              sql: `UPDATE promotion_line SET line_no = ?, item_id = ?, item_group_id = ?, kind = ?, value = ?, from_quantity = ?, buy = ?,
                           free = ?, free_item_id = ? WHERE company_id = ? AND id = ?`,
              values: [
                row.lineNo,
                row.itemId,
                row.itemGroupId,
                row.kind,
                row.value,
                row.fromQuantity,
                row.buy,
                row.free,
                row.freeItemId,
                companyId,
                id,
              ],
            },
          ],
    ),
  );
  const added = columns.filter(({ id }) => id === null).map(({ row }) => ({ companyId, promotionId, ...row }));
  if (added.length > 0) await tx.insert(promotionLineTable, added);
}

/** A promotion is stopped with why, or goes on. // S13 */
export const setPromotion = defineAct(contract.setPromotion, {
  right: 'promotions',
  says: 'stop promotions',
  done: 'promotion set',
  expectedVersion: ({ id, version }) => ({ kind: 'PM', id, version }),
  load: (sql, { id }, { companyId }) => loadPromotion(sql, companyId, id),
  decide: (head, { state, reason }) => decideStop(head, state, reason),
  preview: ({ state }) => ({ state }),
  async write(tx, { state, reason }, { id, number, version }, { companyId }) {
    await tx.run('UPDATE promotion SET state = ?, reason = ?, version = version + 1 WHERE company_id = ? AND id = ?', [
      state,
      reason,
      companyId,
      id,
    ]);
    return {
      made: [],
      touched: [{ kind: 'PM', id, number, version: version + 1, ...(reason === '' ? {} : { reason }) }],
    };
  },
});
