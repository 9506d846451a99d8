import { addDays, type Day } from '@core/kernel';
import type { Database } from '../server/db';
import { giveRole, makePerson } from '../server/setup';
import type { Actor } from '../server/sample/actor';
import { layRates } from '../server/sample/commission';
import type { Masters } from '../server/sample/masters';
import { SELLERS } from '../server/sample/people';

/**
 * Two who sell: each has customers of their own and one they share six to four; what they earned last month is on
 * statements, one of them paid. // S12
 */
export async function layCommission(
  database: Database,
  actor: Actor,
  { companyId, ...masters }: Masters,
  workDate: Day,
): Promise<void> {
  await layRates(database, { companyId, ...masters });
  const sellers = await database.transaction(async (tx) => {
    const [role] = await tx.rows<{ id: number }>("SELECT id FROM role WHERE company_id = ? AND name = 'Sales person'", [
      companyId,
    ]);
    const ids: number[] = [];
    for (const { role: _role, ...person } of SELLERS) {
      const id = await makePerson(tx, person);
      await giveRole(tx, id, companyId, role!.id);
      ids.push(id);
    }
    return ids;
  });
  const [aida, tomas] = sellers as [number, number];
  const of: Record<string, readonly (readonly [number, string])[]> = {
    'Teratai Bay Resort': [[aida, '100']],
    'Kolam Ceria Swim Club': [[aida, '100']],
    'Kasturi Bottling': [[tomas, '100']],
    'Padi Emas Food Works': [[tomas, '100']],
    'Nilam Dialysis Centre': [
      [aida, '60'],
      [tomas, '40'],
    ],
  };
  for (const [name, shares] of Object.entries(of)) {
    const [[first]] = shares as [[number, string]];
    if (shares.length === 1) {
      await database.run('UPDATE customer SET sales_person_id = ? WHERE company_id = ? AND id = ?', [
        first,
        companyId,
        masters.customers.get(name)!.id,
      ]);
    }
    const orders = await database.rows<{ id: number }>(
      "SELECT id FROM sales_order WHERE company_id = ? AND customer_id = ? AND state IN ('confirmed', 'closed') ORDER BY id",
      [companyId, masters.customers.get(name)!.id],
    );
    for (const { id } of orders) {
      const typed = shares.map(([personId, perCent]) => ({ personId, perCent }));
      await actor.does('shareCommission', { id, was: [], shares: typed }, workDate);
    }
  }
  await actor.does('countCommission', { since: addDays(workDate, -190) }, workDate);
  const lastMonth = addDays(`${workDate.slice(0, 7)}-01`, -1);
  const earlier = addDays(`${lastMonth.slice(0, 7)}-01`, -1);
  const state = async (personId: number, until: Day): Promise<number | null> => {
    const [earned] = await database.rows<{ n: number }>(
      'SELECT COUNT(*) AS n FROM commission_earning WHERE company_id = ? AND person_id = ? AND statement_id IS NULL AND earned_on <= ?',
      [companyId, personId, until],
    );
    if (earned!.n === 0) return null;
    const [id] = await actor.does('makeStatement', { personId, until }, workDate);
    return id!;
  };
  const first = await state(aida, earlier);
  if (first !== null) await actor.does('payStatement', { id: first, version: 1 }, workDate);
  await state(aida, lastMonth);
  await state(tomas, earlier);
}
