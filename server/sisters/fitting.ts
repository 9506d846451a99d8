import type { OfferKind } from '@core/sisters';
import type { Sql } from '../db';
import { FOLDED } from './tray';

/** Taken in one look at most; the rest at the next. */
const MOST_FITTING = 20;

/**
 * What waits of sisters whose offers are taken by themselves where they fit wholly: what was never looked at by a person.
 * Goods are counted by somebody, and an invoice waits for them. Served by offer_waits. // X2
 */
export async function fittingOffers(
  sql: Sql,
  companyId: number,
): Promise<{ id: number; kind: OfferKind; revision: number; number: string }[]> {
  return sql.rows(
    `SELECT f.id, f.kind, f.revision, f.number FROM offer f FORCE INDEX (offer_waits)
       JOIN sister s ON s.company_id = f.company_id AND s.sister_id = f.from_id AND s.takes_fitting = TRUE
      WHERE f.company_id = ? AND f.waits = TRUE AND f.state = 'open' AND f.kind <> 'receipt' AND NOT ${FOLDED}
      ORDER BY f.id LIMIT ?`,
    [companyId, MOST_FITTING],
  );
}
