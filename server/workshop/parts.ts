import { dec, isWholeUnit } from '@core/kernel';
import { decideParts, type PartItem, type PartsEffects } from '@core/workshop';
import * as contract from '@api/workshop';
import { defineAct, type Doer } from '../acts';
import { into, type Sql, type Statement, type Tx } from '../db';
import { plannedComponentTable } from '../promise/tables';
import { costText, reckonedCosts } from './costs';
import { touchedByWork } from './report';
import { loadWork, type LoadedWork } from './store';

/** What goes into one order, for this order alone. // W1 */
export const changeParts = defineAct(contract.changeParts, {
  right: 'plan',
  says: 'change what goes into an order',
  done: 'components changed',
  expectedVersion: ({ workId, version }) => ({ kind: 'PR', id: workId, version }),
  async load(tx, { workId, components }, { companyId }) {
    const work = await loadWork(tx, companyId, workId);
    const ids = [...work.components.map((each) => each.itemId), ...components.flatMap((each) => each.itemId ?? [])];
    return {
      work,
      order: work.order,
      components: work.components,
      operations: work.operations,
      currency: work.currency,
      items: await partItems(tx, companyId, ids, work.order.locationId),
      neededOn: work.start,
      above: await aboveOf(tx, companyId, work.order.itemId),
    };
  },
  decide: (ground, input) => decideParts(ground, input),
  preview: ({ cost, was, weight, kept, added }, { items, work }) => ({
    cost,
    was,
    weight,
    lacks: lacking([...kept, ...added], items, work),
  }),
  async write(tx, effects, { work }, doer) {
    await writeParts(tx, effects, work, doer);
    return { made: [], touched: touchedByWork(work) };
  },
});

/** Items that may go into an order, with what one is reckoned at and what is free of it. */
async function partItems(sql: Sql, companyId: number, ids: readonly number[], locationId: number) {
  const rows = await sql.rows<{
    id: number;
    number: string;
    unit: string;
    weight: string;
    outOfUse: boolean;
    free: string;
  }>(
    `SELECT i.id, i.number, i.unit, i.weight, i.out_of_use, COALESCE(s.on_hand - s.reserved, 0) AS free FROM item i
       LEFT JOIN stock s ON s.company_id = i.company_id AND s.item_id = i.id AND s.location_id = ?
      WHERE i.company_id = ? AND i.id IN (?)`,
    [locationId, companyId, ids],
  );
  const costs = await reckonedCosts(sql, companyId, ids);
  return new Map<number, PartItem & { free: string }>(
    rows.map(({ unit, ...row }) => [
      row.id,
      { ...row, whole: isWholeUnit(unit), expectedCost: costText(costs, row.id) },
    ]),
  );
}

/** An item and all that is made of it: none of them goes into it. A query for each level of the BOMs. */
async function aboveOf(sql: Sql, companyId: number, itemId: number): Promise<Set<number>> {
  const rows = await sql.rows<{ id: number }>(
    `WITH RECURSIVE above AS (
       SELECT CAST(? AS UNSIGNED) AS id
       UNION
       SELECT b.item_id FROM bom_line b JOIN above a ON b.component_id = a.id WHERE b.company_id = ?)
     SELECT id FROM above`,
    [itemId, companyId],
  );
  return new Set(rows.map(({ id }) => Number(id)));
}

/** What is more than what is free and planned, by item. */
function lacking(
  parts: readonly { itemId: number; quantity: string; id?: number }[],
  items: ReadonlyMap<number, PartItem & { free: string }>,
  { components }: LoadedWork,
) {
  const needed = new Map<number, ReturnType<typeof dec>>();
  for (const { itemId, quantity, id } of parts) {
    const before = components.find((each) => each.id === id && each.itemId === itemId);
    const still = dec(quantity)
      .minus(before?.used ?? '0')
      .minus(before?.covered ?? '0');
    needed.set(itemId, (needed.get(itemId) ?? dec('0')).plus(still));
  }
  return [...needed].flatMap(([itemId, quantity]) => {
    const { number, free } = items.get(itemId)!;
    return quantity.gt(free) ? [{ item: number, quantity: quantity.toFixed(), free }] : [];
  });
}

async function writeParts(
  tx: Tx,
  { gone, kept, added, cost }: PartsEffects,
  { order }: LoadedWork,
  { companyId }: Doer,
): Promise<void> {
  // What an order is reckoned to cost is kept from its first report on.
  const costs = order.plannedCost !== null;
  const statements: Statement[] = [
    ...(gone.length > 0
      ? [{ sql: 'DELETE FROM planned_component WHERE company_id = ? AND id IN (?)', values: [companyId, gone] }]
      : []),
    ...kept.map((each) => ({
      sql: `UPDATE planned_component SET item_id = ?, quantity = ?, operation_no = ?, planned_cost = ?
             WHERE company_id = ? AND id = ?`,
      values: [each.itemId, each.quantity, each.operationNo, costs ? each.cost : '0', companyId, each.id],
    })),
    {
      sql: 'UPDATE planned_order SET planned_cost = IF(planned_cost IS NULL, NULL, ?), own_parts = TRUE, version = version + 1 WHERE company_id = ? AND id = ?',
      values: [cost, companyId, order.id],
    },
  ];
  await tx.batch(statements);
  await tx.insertBatch([
    into(
      plannedComponentTable,
      added.map((each) => ({
        companyId,
        plannedOrderId: order.id,
        itemId: each.itemId,
        quantity: each.quantity,
        operationNo: each.operationNo,
        neededOn: each.neededOn,
        plannedCost: costs ? each.cost : '0',
      })),
    ),
  ]);
}
