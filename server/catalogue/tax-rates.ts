import { decideTaxRates, type RateToCome } from '@core/catalogue';
import type { Day } from '@core/kernel';
import * as contract from '@api/catalogue';
import { defineAct } from '../acts';
import type { Database } from '../db';

/** Whether a rate to come is due: what the clock asks before it does anything. */
export async function taxRatesDue(database: Database, companyId: number, workDate: Day): Promise<boolean> {
  const [due] = await database.rows(
    'SELECT id FROM tax_rate WHERE company_id = ? AND taken = FALSE AND first_day <= ? LIMIT 1',
    [companyId, workDate],
  );
  return due !== undefined;
}

/** Gives tax codes the rates whose day has come; done by the clock. // U2 */
export const takeTaxRates = defineAct(contract.takeTaxRates, {
  right: 'upkeep',
  says: 'take rates of taxes on their day',
  done: 'tax rates taken',
  load: (sql, _input, { companyId }) =>
    sql.rows<RateToCome>(
      `SELECT id, tax_code_id, first_day, rate FROM tax_rate WHERE company_id = ? AND taken = FALSE ${sql.forUpdate}`,
      [companyId],
    ),
  decide: (toCome, _input, { workDate }) => decideTaxRates(toCome, workDate),
  preview: ({ rates }) => ({ rates: rates.length }),
  async write(tx, { rates, taken }, _ground, { companyId }) {
    for (const { taxCodeId, rate } of rates) {
      await tx.run('UPDATE tax_code SET rate = ? WHERE company_id = ? AND id = ?', [rate, companyId, taxCodeId]);
    }
    await tx.run('UPDATE tax_rate SET taken = TRUE WHERE company_id = ? AND id IN (?)', [companyId, taken]);
    return { made: [], touched: [] };
  },
});
