import { decideSupport, type SupportSaved } from '@core/claims';
import { decideStop } from '@core/promotions';
import * as contract from '@api/claims';
import { defineAct, orNotFound, takeNumbers } from '../acts';
import type { Sql, Tx } from '../db';
import { supportLineTable, supportTable, type Support } from './tables';

type Head = Pick<Support, 'id' | 'number' | 'version' | 'state' | 'vendorId'>;

async function loadSupport(sql: Sql, companyId: number, id: number): Promise<Head> {
  const [row] = await sql.rows<Head>(
    `SELECT id, number, version, state, vendor_id FROM support WHERE company_id = ? AND id = ? ${sql.forUpdate}`,
    [companyId, id],
  );
  return orNotFound(row, 'This support');
}

/** What a vendor promised us for what we sell: made or changed; what was accrued by it stays. // S13 */
export const saveSupport = defineAct(contract.saveSupport, {
  right: 'promotions',
  says: 'keep support by vendors',
  done: 'support saved',
  expectedVersion: ({ id, version }) => (id === null ? null : { kind: 'VS', id, version: version ?? 0 }),
  async load(sql, input, { companyId }) {
    const head = input.id === null ? null : await loadSupport(sql, companyId, input.id);
    const there = async (table: string, ids: readonly (number | null)[]) => {
      const rows = await sql.rows<{ id: number }>(`SELECT id FROM ${table} WHERE company_id = ? AND id IN (?)`, [
        companyId,
        ids.filter((id) => id !== null),
      ]);
      return rows.map(({ id }) => id);
    };
    const [lines, vendorIds, customerIds, priceGroupIds, promotionIds, itemIds, groupIds] = await Promise.all([
      sql.rows<{ id: number; lineNo: number; used: number }>(
        `SELECT l.id, l.line_no, EXISTS (SELECT 1 FROM support_accrual a WHERE a.company_id = l.company_id AND a.support_line_id = l.id) AS used
           FROM support_line l WHERE l.company_id = ? AND l.support_id = ? ORDER BY l.line_no`,
        [companyId, head?.id ?? 0],
      ),
      there('vendor', [head?.vendorId ?? input.vendorId]),
      there('customer', [input.customerId]),
      there('price_group', [input.priceGroupId]),
      there('promotion', [input.promotionId]),
      there(
        'item',
        input.lines.map(({ itemId }) => itemId),
      ),
      there(
        'item_group',
        input.lines.map(({ groupId }) => groupId),
      ),
    ]);
    const now = head && {
      number: head.number,
      vendorId: head.vendorId,
      lines: lines.map(({ used, ...line }) => ({ ...line, used: used > 0 })),
    };
    return { head, ground: { now, vendorIds, customerIds, priceGroupIds, promotionIds, itemIds, groupIds } };
  },
  decide: ({ ground }, input) => decideSupport(ground, input),
  preview: ({ lines }) => ({ lines: lines.length }),
  async write(tx, saved, { head }, { companyId }) {
    const columns = {
      name: saved.name,
      customerId: saved.customerId,
      priceGroupId: saved.priceGroupId,
      promotionId: saved.promotionId,
      firstDay: saved.firstDay,
      lastDay: saved.lastDay,
    };
    if (!head) {
      const number = (await takeNumbers(tx, companyId, { VS: 1 }))('VS');
      const [id] = await tx.insert(supportTable, [{ companyId, number, vendorId: saved.vendorId, ...columns }]);
      await writeLines(tx, companyId, id!, saved);
      return { made: [{ kind: 'VS', id: id!, number, version: 1 }], touched: [] };
    }
    await tx.run(
      `UPDATE support SET name = ?, customer_id = ?, price_group_id = ?, promotion_id = ?, first_day = ?, last_day = ?, version = version + 1
        WHERE company_id = ? AND id = ?`,
      [...Object.values(columns), companyId, head.id],
    );
    await writeLines(tx, companyId, head.id, saved);
    return { made: [], touched: [{ kind: 'VS', id: head.id, number: head.number, version: head.version + 1 }] };
  },
});

async function writeLines(tx: Tx, companyId: number, supportId: number, saved: SupportSaved): Promise<void> {
  if (saved.removedLineIds.length > 0) {
    await tx.run('DELETE FROM support_line WHERE company_id = ? AND id IN (?)', [companyId, saved.removedLineIds]);
  }
  const rows = saved.lines.map(({ id, itemId, groupId, perUnit }, at) => ({
    id,
    row: { companyId, supportId, lineNo: at + 1, itemId, itemGroupId: groupId, perUnit },
  }));
  await tx.batch(
    rows.flatMap(({ id, row }) =>
      id === null
        ? []
        : {
            sql: 'UPDATE support_line SET line_no = ?, item_id = ?, item_group_id = ?, per_unit = ? WHERE company_id = ? AND id = ?',
            values: [row.lineNo, row.itemId, row.itemGroupId, row.perUnit, companyId, id],
          },
    ),
  );
  const added = rows.filter(({ id }) => id === null).map(({ row }) => row);
  if (added.length > 0) await tx.insert(supportLineTable, added);
}

/** A support is stopped with why, or goes on. // S13 */
export const setSupport = defineAct(contract.setSupport, {
  right: 'promotions',
  says: 'stop support by vendors',
  done: 'support set',
  expectedVersion: ({ id, version }) => ({ kind: 'VS', id, version }),
  load: (sql, { id }, { companyId }) => loadSupport(sql, companyId, id),
  decide: (head, { state, reason }) => decideStop(head, state, reason),
  preview: ({ state }) => ({ state }),
  async write(tx, { state, reason }, { id, number, version }, { companyId }) {
    await tx.run('UPDATE support SET state = ?, reason = ?, version = version + 1 WHERE company_id = ? AND id = ?', [
      state,
      reason,
      companyId,
      id,
    ]);
    return { made: [], touched: [{ kind: 'VS', id, number, version: version + 1, reason }] };
  },
});
