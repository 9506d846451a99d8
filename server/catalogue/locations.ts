import type * as z from 'zod';
import { UNDER_WAY } from '@core/kernel';
import type * as contract from '@api/catalogue';
import type { Sql } from '../db';

/** The number of item `i` at location `lo`, as `numberAt` says it. */
export const NUMBER_AT = "CONCAT(i.number, IF(lo.id = 0, '', CONCAT(' at ', lo.code)))";

/** The company's locations, the main one first; where goods under way are is none of them. */
export function locationsOf(sql: Sql, companyId: number): Promise<z.infer<typeof contract.locations.out>['rows']> {
  return sql.rows('SELECT id, code, name FROM location WHERE company_id = ? AND id <> ? ORDER BY id', [
    companyId,
    UNDER_WAY,
  ]);
}
