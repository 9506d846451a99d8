import { dec, pointOf, type Day } from '@core/kernel';
import { chosenOf, routeIsMade, type Route } from '@core/catalogue';
import { decideWorkForLines, type GroundRows, type LineToMake, type PlannedOrderPlan } from '@core/promise';
import type { Decision } from '@core/refusals';
import type { Doer, Touched } from '../acts';
import { optionsOf } from '../catalogue';
import { takeTurn, type Sql, type Tx } from '../db';
import { groundRows, writePlanned } from '../promise';

/** An order line as making for it sees it. */
export interface MadeLine {
  id: number;
  lineNo: number;
  itemId: number;
  locationId: number;
  route: Route;
  /** Ordered, not given up and not shipped. */
  open: string;
  /** What will be held for it of stock. */
  held: string;
  shipDate: Day;
  /** What is chosen for it; none where it is made as its item is. // W2 */
  optionIds: readonly number[];
  field: string;
}

/** What lines that are made to order want, beyond what is held for them and being made, and the ground that is made on. */
export interface ToMake {
  lines: LineToMake[];
  /** None where nothing is to be made. */
  rows: GroundRows | null;
  /** What promising planned for them: it is made firm with them. */
  planned: { id: number; number: string; kind: 'make' | 'assemble' }[];
}

/** Reads what is to be made for lines of an order. Nothing where none of them is made to order. // W1 W2 */
export async function loadToMake(
  sql: Sql,
  companyId: number,
  workDate: Day,
  order: string,
  all: readonly MadeLine[],
): Promise<ToMake> {
  const made = all.filter(({ route }) => routeIsMade(route));
  if (made.length === 0) return { lines: [], rows: null, planned: [] };
  // Whoever promises next sees what this one planned. // T8
  await takeTurn(sql, 'promise_turn', [companyId]);
  const ties = await sql.rows<{
    lineId: number;
    id: number;
    number: string;
    kind: 'make' | 'assemble';
    state: string;
    coming: string;
  }>(
    `SELECT t.order_line_id AS line_id, p.id, p.number, p.kind, p.state, t.quantity - t.made AS coming FROM planned_tie t
       JOIN planned_order p ON p.company_id = t.company_id AND p.id = t.planned_order_id AND p.open AND p.kind <> 'buy'
      WHERE t.company_id = ? AND t.order_line_id IN (?) ORDER BY p.id`,
    [companyId, made.map(({ id }) => id)],
  );
  const groups = await optionsOf(
    sql,
    companyId,
    null,
    made.filter(({ optionIds }) => optionIds.length > 0).map(({ itemId }) => itemId),
  );
  const lines = made.flatMap((line): LineToMake[] => {
    const coming = ties.filter(({ lineId }) => lineId === line.id).reduce((sum, tie) => sum.plus(tie.coming), dec('0'));
    const wanted = dec(line.open).minus(line.held).minus(coming);
    if (wanted.lte(0)) return [];
    const point = pointOf(line.itemId, line.locationId);
    const { id: lineId, lineNo, shipDate, field } = line;
    const { optionIds: chosen } = line;
    const options = chosen.length > 0 ? { groups: groups.get(line.itemId) ?? [], chosen } : undefined;
    return [{ lineId, field, order, lineNo, point, quantity: wanted.toFixed(), shipDate, options }];
  });
  // What was chosen is made and bought at the main location, as what an item is made of is.
  const options = lines.flatMap((line) => (line.options ? chosenOf(line.options.groups, line.options.chosen) : []));
  const points = [...lines.map(({ point }) => point), ...options.map(({ component }) => component.id)];
  return {
    lines,
    rows: lines.length === 0 ? null : await groundRows(sql, companyId, workDate, [...new Set(points)], { without: [] }),
    planned: ties.filter(({ state }) => state === 'planned').map(({ id, number, kind }) => ({ id, number, kind })),
  };
}

/** A decision about an order, with what is made for its lines. */
export function withWork<Effects>(
  decision: Decision<Effects>,
  { lines, rows }: ToMake,
): Decision<Effects & { work: PlannedOrderPlan[] }> {
  const made: Decision<{ orders: PlannedOrderPlan[] }> = rows
    ? decideWorkForLines(rows, lines)
    : { ok: true, effects: { orders: [] }, warnings: [] };
  if (decision.ok && made.ok) {
    const effects = { ...decision.effects, work: made.effects.orders };
    return { ok: true, effects, warnings: [...decision.warnings, ...made.warnings] };
  }
  return {
    ok: false,
    refusals: [...(decision.ok ? [] : decision.refusals), ...(made.ok ? [] : made.refusals)],
  };
}

/** Writes orders made for lines, firm from the beginning; what they need is planned. What promising planned is firm with them. */
export async function writeWork(
  tx: Tx,
  doer: Doer,
  work: readonly PlannedOrderPlan[],
  planned: ToMake['planned'] = [],
): Promise<Touched[]> {
  const made = await writePlanned(tx, doer, work);
  const tops = made.filter((_each, at) => work[at]!.parent === null);
  const firm = [...tops, ...planned].map(({ id }) => id);
  if (firm.length > 0) {
    await tx.batch([
      {
        sql: "UPDATE planned_order SET state = 'firm' WHERE company_id = ? AND id IN (?)",
        values: [doer.companyId, firm],
      },
      {
        // What is made as a line chose stays so, whoever it is for later. // W2
        sql: `INSERT IGNORE INTO planned_order_option (company_id, planned_order_id, option_id)
              SELECT t.company_id, t.planned_order_id, o.option_id FROM planned_tie t
                JOIN sales_line_option o ON o.company_id = t.company_id AND o.order_line_id = t.order_line_id
               WHERE t.company_id = ? AND t.planned_order_id IN (?)`,
        values: [doer.companyId, firm],
      },
    ]);
  }
  return tops;
}
