import type { Database } from '../db';
import { commissionRateTable } from '../commission/tables';
import type { Masters } from './masters';

/** Commission on what is invoiced for everybody, and on the margin of chemicals as it is paid. // S12 */
export function layRates(database: Database, { companyId }: Masters): Promise<void> {
  return database.transaction(async (tx) => {
    const [chemicals] = await tx.rows<{ id: number }>(
      "SELECT id FROM item_group WHERE company_id = ? AND code = 'CHEM'",
      [companyId],
    );
    await tx.insert(commissionRateTable, [
      { companyId, itemGroupId: null, perCent: '1.5', base: 'net', earnedAt: 'invoice' },
      { companyId, itemGroupId: chemicals!.id, perCent: '8', base: 'margin', earnedAt: 'payment' },
    ]);
  });
}
