import type { Day } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import { decideStanding, type StandingGround, type StandingSaved } from './save';

export interface PastedRow {
  /** By number or name. */
  customer: string;
  item: string;
  quantity: string;
  rule: string;
  firstDay: string | null;
}

export interface PastedGround {
  /** Those a row may mean, each with the address it is delivered to by itself. */
  customers: readonly { id: number; number: string; name: string; shipToId: number | null }[];
  items: StandingGround['items'];
}

export interface PastedOrder {
  customerId: number;
  saved: StandingSaved;
}

/** Where a refusal of one standing order stands in a pasted row. */
const IN_ROW: Readonly<Record<string, string>> = { 'lines.0.itemId': 'item', 'lines.0.quantity': 'quantity' };

/**
 * Standing orders for many customers by pasted rows: rows of one customer, rule and first day are one. Each bad row says so
 * at its place, and then none is made. Cost: one rule over a year a row. // S7
 */
export function decidePasted(
  { customers, items }: PastedGround,
  { rows, aheadDays, closed }: { rows: readonly PastedRow[]; aheadDays: string; closed: string },
  workDate: Day,
): Decision<PastedOrder[]> {
  const refusals: Refusal[] = rows.length === 0 ? [refuse('pasted-nothing', 'rows', {})] : [];
  const itemIds = new Map([...items].map(([id, { number }]) => [number.toLowerCase(), id]));
  const orders = new Map<string, PastedOrder>();
  rows.forEach((row, at) => {
    const field = (name: string) => `rows.${at}.${IN_ROW[name] ?? name}`;
    const named = row.customer.trim().toLowerCase();
    const [customer, other] = customers.filter(
      ({ number, name }) => number.toLowerCase() === named || name.toLowerCase() === named,
    );
    if (!customer || other) {
      refusals.push(
        customer
          ? refuse('several-named', field('customer'), { what: 'The customer', name: row.customer })
          : refuse('unknown', field('customer'), { what: `“${row.customer}”` }),
      );
      return;
    }
    const { id, shipToId } = customer;
    const decision = decideStanding(
      { now: null, customer, shipToIds: shipToId === null ? [] : [shipToId], items },
      {
        customerId: id,
        shipToId,
        customerReference: '',
        rule: row.rule,
        firstDay: row.firstDay,
        lastDay: null,
        aheadDays,
        closed,
        from: null,
        lines: [{ itemId: itemIds.get(row.item.trim().toLowerCase()) ?? null, quantity: row.quantity, unit: '' }],
      },
      workDate,
    );
    if (!decision.ok) {
      refusals.push(...decision.refusals.map((each) => ({ ...each, field: field(each.field) })));
      return;
    }
    const key = `${id} ${row.rule} ${decision.effects.firstDay}`;
    const order = orders.get(key);
    if (order) order.saved.lines.push(...decision.effects.lines);
    else orders.set(key, { customerId: id, saved: decision.effects });
  });
  return decided(refusals, () => [...orders.values()]);
}
