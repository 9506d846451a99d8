import type { OptionGroup } from '@core/catalogue';
import type { Sql } from '../db';
import { CUSTOMER_CURRENCY, rateOf } from './list-price';

interface Row {
  itemId: number;
  groupId: number;
  name: string;
  replacesId: number | null;
  replaces: string | null;
  atLeast: number;
  atMost: number;
  id: number;
  componentId: number;
  number: string;
  component: string;
  quantity: string;
  operationNo: number | null;
  price: string;
  needs: string | null;
  excludes: string | null;
}

const others = (kind: 'needs' | 'excludes') =>
  `(SELECT GROUP_CONCAT(r.other_id) FROM option_rule r WHERE r.company_id = o.company_id AND r.option_id = o.id AND r.kind = '${kind}')`;

/** What may be chosen for items, their prices in a customer's currency (null: the company's). One query. // W1 W2 */
export async function optionsOf(
  sql: Sql,
  companyId: number,
  customerId: number | null,
  itemIds: readonly number[],
): Promise<Map<number, OptionGroup[]>> {
  if (itemIds.length === 0) return new Map();
  const rows = await sql.rows<Row>(
    `SELECT g.item_id, g.id AS group_id, g.name, g.replaces_id, w.number AS replaces, g.at_least, g.at_most, o.id,
            o.component_id, k.number, k.name AS component, o.quantity, o.operation_no,
            COALESCE(ROUND(o.price / ${rateOf(CUSTOMER_CURRENCY)}, 4), 0) AS price,
            ${others('needs')} AS needs, ${others('excludes')} AS excludes
       FROM option_group g
       JOIN item i ON i.company_id = g.company_id AND i.id = g.item_id
       JOIN item_option o ON o.company_id = g.company_id AND o.group_id = g.id
       JOIN item k ON k.company_id = o.company_id AND k.id = o.component_id
       LEFT JOIN item w ON w.company_id = g.company_id AND w.id = g.replaces_id
      WHERE g.company_id = ? AND g.item_id IN (?) ORDER BY g.id, o.id`,
    [customerId ?? 0, customerId ?? 0, companyId, itemIds],
  );
  const groups = new Map<number, OptionGroup[]>();
  for (const row of rows) {
    const own = groups.get(row.itemId) ?? [];
    groups.set(row.itemId, own);
    const option = {
      id: row.id,
      component: { id: row.componentId, number: row.number, name: row.component },
      quantity: row.quantity,
      operationNo: row.operationNo,
      price: row.price,
      needs: idsIn(row.needs),
      excludes: idsIn(row.excludes),
    };
    const last = own.at(-1);
    if (last?.id === row.groupId) own[own.length - 1] = { ...last, options: [...last.options, option] };
    else {
      const { groupId: id, name, replacesId, replaces, atLeast, atMost } = row;
      own.push({
        id,
        name,
        replaces: replacesId === null ? null : { id: replacesId, number: replaces! },
        atLeast,
        atMost,
        options: [option],
      });
    }
  }
  return groups;
}

const idsIn = (text: string | null) => (text ?? '').split(',').filter(Boolean).map(Number);

/** What was chosen for order lines, by line. // W2 */
export async function chosenFor(
  sql: Sql,
  companyId: number,
  lineIds: readonly number[],
): Promise<Map<number, number[]>> {
  if (lineIds.length === 0) return new Map();
  const rows = await sql.rows<{ orderLineId: number; optionId: number }>(
    'SELECT order_line_id, option_id FROM sales_line_option WHERE company_id = ? AND order_line_id IN (?) ORDER BY option_id',
    [companyId, lineIds],
  );
  const chosen = new Map<number, number[]>();
  for (const { orderLineId, optionId } of rows) chosen.set(orderLineId, [...(chosen.get(orderLineId) ?? []), optionId]);
  return chosen;
}

/** The names of what was chosen for the order lines that lines of a document are of, by order line. // W2 */
export async function chosenNames(
  sql: Sql,
  companyId: number,
  lines: readonly { orderLineId: number | null }[],
): Promise<Map<number, { name: string }[]>> {
  const names = new Map<number, { name: string }[]>();
  const rows = await sql.rows<{ orderLineId: number; name: string }>(
    `SELECT s.order_line_id, k.name FROM sales_line_option s
       JOIN item_option o ON o.company_id = s.company_id AND o.id = s.option_id
       JOIN item k ON k.company_id = o.company_id AND k.id = o.component_id
      WHERE s.company_id = ? AND s.order_line_id IN (?) ORDER BY o.id`,
    [companyId, lines.flatMap(({ orderLineId }) => orderLineId ?? [])],
  );
  for (const { orderLineId, name } of rows) names.set(orderLineId, [...(names.get(orderLineId) ?? []), { name }]);
  return names;
}
