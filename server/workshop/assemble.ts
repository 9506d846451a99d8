import { dec, pointOf, sum } from '@core/kernel';
import type { Decision } from '@core/refusals';
import type { MoveEffects, StockLine } from '@core/stock';
import { decideAssembly, decideTakeBackWork, type Assembled } from '@core/workshop';
import type { Doer, Touched } from '../acts';
import type { Piece, Sql, TextPiece } from '../db';
import { reportsToWrite, touchedByWork, type ReportsToWrite } from './report';
import { loadUnstocked, type LoadedWork, type UnstockedWork } from './store';
import { loadReport, type LoadedReport, type TakenBack } from './take-back';

/** The orders that assemble what lines of orders want, locked but for their stock, first due first. // P5 */
export async function loadAssemblies(
  sql: Sql,
  companyId: number,
  orderIds: readonly number[],
): Promise<UnstockedWork[]> {
  const rows = await sql.rows<{ id: number }>(
    `SELECT DISTINCT p.id, p.due_date FROM sales_order_line l
       JOIN planned_tie t ON t.company_id = l.company_id AND t.order_line_id = l.id AND t.quantity > t.made
       JOIN planned_order p ON p.company_id = t.company_id AND p.id = t.planned_order_id AND p.state IN ('firm', 'running')
        AND p.kind = 'assemble'
      WHERE l.company_id = ? AND l.order_id IN (?) AND l.route = 'assemble' ORDER BY p.due_date, p.id`,
    [companyId, orderIds],
  );
  return loadUnstocked(
    sql,
    companyId,
    rows.map(({ id }) => id),
  );
}

/** A line that is to go out, with how many of it. */
interface Asked {
  lineId: number;
  quantity: string;
  field: string;
}

/**
 * A decision to ship lines, with what of them is assembled in the same act: they are shipped as if what is assembled were
 * there and held for them. // P5
 */
export function assemblingFirst(
  works: readonly LoadedWork[],
  lines: readonly StockLine[],
  asked: readonly Asked[],
  ship: (lines: readonly StockLine[]) => Decision<MoveEffects>,
): Decision<MoveEffects & { assembled: Assembled[] }> {
  const short = asked.flatMap(({ lineId, quantity, field }) => {
    const found = lines.find(({ line }) => line.id === lineId && line.route === 'assemble');
    const much =
      found && /^\d+(\.\d+)?$/.test(quantity.trim()) ? dec(quantity.trim()).minus(found.line.reserved) : null;
    // What is more than is open is refused where it ships, and nothing is assembled for it.
    return much?.gt(0) && dec(quantity.trim()).lte(found!.line.open) ? [{ lineId, short: much.toFixed(), field }] : [];
  });
  const decision = decideAssembly(works, short);
  if (!decision.ok) {
    const others = ship(lines);
    const own = new Set(short.map(({ field }) => field));
    const rest = others.ok ? [] : others.refusals.filter(({ field }) => !own.has(field));
    return { ok: false, refusals: [...decision.refusals, ...rest] };
  }
  const assembled = decision.effects;
  const shipped = ship(linesAfter(works, assembled, lines));
  return shipped.ok
    ? { ...shipped, effects: { ...shipped.effects, assembled } }
    : { ok: false, refusals: shipped.refusals };
}

/** Lines as they are once what was assembled is there. */
function linesAfter(
  works: readonly LoadedWork[],
  assembled: readonly Assembled[],
  lines: readonly StockLine[],
): StockLine[] {
  return lines.map((each) => {
    const at = pointOf(each.item.id, each.line.locationId);
    const out = assembled.filter(({ at: place }) => {
      const { order } = works[place]!;
      return pointOf(order.itemId, order.locationId) === at;
    });
    const uses = assembled.filter(({ at: place }) => works[place]!.order.locationId === each.line.locationId);
    const gone = uses.flatMap(({ effects }) => effects.components.filter(({ itemId }) => itemId === each.item.id));
    if (out.length === 0 && gone.length === 0) return each;
    const total = (amounts: readonly string[]) => sum(amounts.map(dec));
    const ties = out.flatMap(({ effects }) => effects.ties);
    const own = total(ties.filter(({ orderLineId }) => orderLineId === each.line.id).map(({ made }) => made));
    const came = total(out.map(({ effects }) => effects.good));
    const left = total(gone.map(({ quantity }) => quantity));
    return {
      ...each,
      line: { ...each.line, reserved: own.plus(each.line.reserved).toFixed() },
      item: {
        ...each.item,
        onHand: dec(each.item.onHand).plus(came).minus(left).toFixed(),
        free: dec(each.item.free)
          .plus(came)
          .minus(total(ties.map(({ made }) => made)))
          .minus(left)
          .toFixed(),
        stockValue: dec(each.item.stockValue)
          .plus(total(out.map(({ effects }) => effects.outputCost)))
          .minus(total(gone.map(({ cost }) => cost)))
          .toFixed(),
      },
    };
  });
}

/** What writes what was assembled, in the trip of the shipment it was assembled for. */
export function assemblyToWrite(
  doer: Doer,
  works: readonly LoadedWork[],
  assembled: readonly Assembled[],
  numbers: readonly TextPiece[],
  /** The shipment an order's lines go out with, by the id of a line of it. */
  shipmentOf: (orderLineId: number) => Piece | null,
): ReportsToWrite {
  return reportsToWrite(
    doer,
    assembled.map(({ at, effects }) => ({
      effects,
      work: works[at]!,
      operationId: null,
      shipmentId: shipmentOf(effects.ties[0]?.orderLineId ?? 0),
    })),
    numbers,
  );
}

/** The orders something was assembled of. */
export const touchedByAssembly = (works: readonly LoadedWork[], assembled: readonly Assembled[]): Touched[] =>
  assembled.flatMap(({ at }) => touchedByWork(works[at]!).filter(({ kind }) => kind !== 'SO'));

/** Reports of shipments that stand, as they are now: what was assembled in the act that shipped it. */
export async function loadAssembledWith(sql: Sql, companyId: number, shipmentIds: readonly number[]) {
  const rows = await sql.rows<{ id: number }>(
    `SELECT r.id FROM work_report r WHERE r.company_id = ? AND r.shipment_id IN (?) AND r.reverses_id IS NULL
        AND NOT EXISTS (SELECT 1 FROM work_report b WHERE b.company_id = r.company_id AND b.reverses_id = r.id) ORDER BY r.id DESC`,
    [companyId, shipmentIds],
  );
  const reports = [];
  for (const { id } of rows) reports.push(await loadReport(sql, companyId, id));
  return reports;
}

/** Goods that a shipment brings back, for the line they went out on. */
interface ComeBack {
  orderLineId: number;
  itemId: number;
  quantity: string;
  cost: string;
}

/**
 * A decision to take shipments back, with what was assembled for them: it is taken apart as if what went out were here
 * again and held for its line. // P1 P5
 */
export function takingApart<Effects>(
  decision: Decision<Effects>,
  reports: readonly LoadedReport[],
  back: readonly ComeBack[],
  reason: string,
): Decision<Effects & { apart: TakenBack[] }> {
  if (!decision.ok) return { ok: false, refusals: decision.refusals };
  const apart: TakenBack[] = [];
  for (const ground of reports) {
    const of = back.filter(({ itemId }) => itemId === ground.order.itemId);
    const total = (amounts: readonly string[]) => sum(amounts.map(dec));
    const came = total(of.map(({ quantity }) => quantity));
    const product = {
      onHand: came.plus(ground.product.onHand).toFixed(),
      reserved: came.plus(ground.product.reserved).toFixed(),
      value: total(of.map(({ cost }) => cost))
        .plus(ground.product.value)
        .toFixed(),
    };
    const ties = ground.report.ties.map((tie) => {
      const own = total(
        of.filter(({ orderLineId }) => orderLineId === tie.orderLineId).map(({ quantity }) => quantity),
      );
      return { ...tie, reserved: own.plus(tie.reserved).toFixed() };
    });
    const taken = decideTakeBackWork({ ...ground, product, report: { ...ground.report, ties } }, { reason });
    if (!taken.ok) return { ok: false, refusals: taken.refusals };
    apart.push({ ground, effects: taken.effects });
  }
  return { ...decision, effects: { ...decision.effects, apart } };
}
