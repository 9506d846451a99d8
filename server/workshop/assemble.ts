import type { Assembled } from '@core/workshop';
import type { Doer, Touched } from '../acts';
import type { Piece, Sql, TextPiece } from '../db';
import { reportsToWrite, touchedByWork, type ReportsToWrite } from './report';
import { loadUnstocked, type LoadedWork, type UnstockedWork } from './store';
import { loadReport } from './take-back';

/**
 * The orders that assemble what lines of orders want, locked but for their stock, first due first. Nothing is asked where
 * nothing is assembled. // P5
 */
export async function loadAssemblies(
  sql: Sql,
  companyId: number,
  orderIds: readonly number[],
  /** Orders that are locked already. */
  locked: readonly number[],
): Promise<UnstockedWork[]> {
  if (orderIds.length === 0) return [];
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
    locked,
  );
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
