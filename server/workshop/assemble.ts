import type { Assembled, ComingTie } from '@core/workshop';
import type { Doer, Touched } from '../acts';
import type { Piece, Sql, TextPiece } from '../db';
import { comingRead } from './given-back';
import { reportsToWrite, touchedByWork, type ReportsToWrite } from './report';
import { loadUnstocked, type LoadedWork, type UnstockedWork } from './store';
import { loadReport } from './take-back';

/** An order that assembles something for orders, with all whom it is for. */
export interface Assembly {
  id: number;
  orderIds: number[];
}

/** Reads which orders assemble what lines of orders want: to be sent with others in one trip. // P5 */
export const assembliesRead = (companyId: number, orderIds: readonly number[]) => ({
  sql: `SELECT DISTINCT p.id, p.due_date, s.order_id FROM sales_order_line l
          JOIN planned_tie t ON t.company_id = l.company_id AND t.order_line_id = l.id AND t.quantity > t.made
          JOIN planned_order p ON p.company_id = t.company_id AND p.id = t.planned_order_id AND p.state IN ('firm', 'running')
           AND p.kind = 'assemble'
          JOIN planned_tie u ON u.company_id = p.company_id AND u.planned_order_id = p.id
          JOIN sales_order_line s ON s.company_id = u.company_id AND s.id = u.order_line_id
         WHERE l.company_id = ? AND l.order_id IN (?) AND l.route = 'assemble' ORDER BY p.due_date, p.id`,
  values: [companyId, [...orderIds]],
  rows: true as const,
});

/** What `assembliesRead` found, first due first. */
export function assembliesOf(rows: readonly { id: number; orderId: number }[]): Assembly[] {
  const found = new Map<number, Assembly>();
  for (const { id, orderId } of rows) {
    const assembly = found.get(id) ?? { id, orderIds: [] };
    assembly.orderIds.push(orderId);
    found.set(id, assembly);
  }
  return [...found.values()];
}

/**
 * Orders that assemble something, locked but for their stock, and after them what is made for the lines of orders and
 * still to come. // P5
 */
export async function loadAssemblies(
  sql: Sql,
  companyId: number,
  assemblies: readonly Assembly[],
  /** Locked already. */
  orderIds: readonly number[],
): Promise<{ works: UnstockedWork[]; coming: ComingTie[] }> {
  const ids = assemblies.map(({ id }) => id);
  const tiedTo = assemblies.flatMap((assembly) => assembly.orderIds);
  const read = comingRead(sql, companyId, orderIds);
  const { works, more } = await loadUnstocked(sql, companyId, ids, { locked: orderIds, tiedTo }, [read]);
  return { works, coming: more[0] as ComingTie[] };
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
