import type { Logger } from 'pino';
import { marketPrices } from '@core/stand-in';
import type { Doer } from '../acts';
import type { Database } from '../db';
import { keepList } from '../lists';
import { tryAct } from './act';

/** Gives each market series that has a price the prices of the weeks since, up to the work date. // R1 */
export async function feedMarkets(database: Database, log: Logger, doer: Doer, seed: number): Promise<number> {
  const last = await database.rows<{ id: number; name: string; day: string; value: string }>(
    `SELECT s.id, s.name, v.day, v.value FROM market_series s
       JOIN market_value v ON v.company_id = s.company_id AND v.series_id = s.id
        AND v.day = (SELECT MAX(n.day) FROM market_value n WHERE n.company_id = s.company_id AND n.series_id = s.id)
      WHERE s.company_id = ?`,
    [doer.companyId],
  );
  const changes = last.flatMap((series) =>
    marketPrices({ day: series.day, value: series.value }, doer.workDate, seed + series.id).map(({ day, value }) => ({
      id: null,
      stamp: '',
      cells: { series: series.name, day, value },
    })),
  );
  if (changes.length === 0) return 0;
  return tryAct(database, log, keepList, { list: 'market-values', changes, removed: [] }, doer);
}
