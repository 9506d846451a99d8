import { FulfilmentQuery } from '@api/insight';
import { listAgreements } from '../server/agreements';
import type { Database, Sql } from '../server/db';
import { agreementsByPace, fulfilment, sumsOf } from '../server/insight';
import { listOrders } from '../server/orders';
import { listPurchases } from '../server/purchasing';
import { listBench, listPairs } from '../server/supply';
import { WORK_DATE } from './stage';

interface PlanRow {
  table: string;
  type: string;
  key: string | null;
  rows: number;
  Extra: string;
}

/** The query plans of the lists and of fulfilment on a set: each statement with the keys it walks. */
export async function plansOf(database: Database, companyId: number): Promise<string[]> {
  const said: string[] = [];
  const sums = sumsOf(database);
  await sums.of(companyId);
  const readFulfilment = (sql: Sql, by: 'customer' | 'group') =>
    fulfilment(sql, sums, companyId, FulfilmentQuery.parse({ by }), WORK_DATE);
  const reading: [string, (sql: Sql) => Promise<unknown>][] = [
    ['newest first', (sql) => listAgreements(sql, companyId, {}, WORK_DATE)],
    ['in force', (sql) => listAgreements(sql, companyId, { state: 'in-force' }, WORK_DATE)],
    ['used up', (sql) => listAgreements(sql, companyId, { left: 'used-up' }, WORK_DATE)],
    ['dates passed', (sql) => listAgreements(sql, companyId, { dates: 'passed' }, WORK_DATE)],
    ['by last day', (sql) => listAgreements(sql, companyId, { sort: 'last-day' }, WORK_DATE)],
    ['by value', (sql) => listAgreements(sql, companyId, { sort: 'committed' }, WORK_DATE)],
    ['by pace', (sql) => agreementsByPace(sql, sums, companyId, { dates: 'running', sort: 'pace' }, WORK_DATE)],
    ['fulfilment by customer', (sql) => readFulfilment(sql, 'customer')],
    ['fulfilment by group', (sql) => readFulfilment(sql, 'group')],
    ['orders newest first', (sql) => listOrders(sql, companyId, {}, WORK_DATE)],
    ['orders confirmed', (sql) => listOrders(sql, companyId, { state: 'confirmed' }, WORK_DATE)],
    ['purchases placed', (sql) => listPurchases(sql, companyId, { state: 'placed' }, WORK_DATE)],
    ['bench', (sql) => listBench(sql, companyId, WORK_DATE, {})],
    ['ties', (sql) => listPairs(sql, companyId, {})],
    ['ties of a customer', (sql) => listPairs(sql, companyId, { q: 'B-000020' })],
    ['ties, late', (sql) => listPairs(sql, companyId, { show: 'late' })],
  ];
  for (const [name, read] of reading) {
    said.push('', name);
    await read({
      forUpdate: '',
      run: (sql, values) => database.run(sql, values),
      batch: (statements) => database.batch(statements),
      rows: async <Row>(sql: string, values: Parameters<Sql['rows']>[1]) => {
        const begun = performance.now();
        const rows = await database.rows<Row>(sql, values);
        said.push(`  ${(performance.now() - begun).toFixed(1)} ms, ${rows.length} rows`);
        for (const row of await database.rows<PlanRow>(`EXPLAIN ${sql}`, values)) {
          said.push(`    ${row.table} ${row.type} ${row.key ?? 'no key'}, about ${row.rows} rows. ${row.Extra ?? ''}`);
        }
        return rows;
      },
    });
  }
  return said;
}
