import { addDays, dec, type Day } from '@core/kernel';
import type { Database } from '../server/db';
import type { Actor } from '../server/sample/actor';
import type { Masters } from '../server/sample/masters';

/**
 * Carbon at less for everybody, nine tenths of its budget given; salt for growers, so many bought one free, that has just
 * begun; and one of last quarter that is over. // S13
 */
export async function layPromotions(database: Database, actor: Actor, masters: Masters, workDate: Day): Promise<void> {
  const item = (number: string) => masters.items.get(number)!.id;
  const line = (change: Record<string, unknown>) => ({
    id: null,
    itemId: null,
    groupId: null,
    kind: 'percent',
    value: '',
    from: '',
    buy: '',
    free: '',
    freeItemId: null,
    ...change,
  });
  const promote = async (change: Record<string, unknown>): Promise<number> => {
    const promotion = { id: null, version: null, customerId: null, priceGroupId: null, budget: '', ...change };
    const [id] = await actor.does('savePromotion', promotion, workDate);
    return id!;
  };
  const order = async (name: string, quantity: string, number = 'GAC-25'): Promise<void> => {
    const customer = masters.customers.get(name)!;
    const typed = {
      id: null,
      version: null,
      customerId: customer.id,
      shipToId: customer.shipTos[0],
      customerReference: 'Carbon change',
      lines: [{ id: null, itemId: item(number), quantity, shipDate: addDays(workDate, 9), route: 'stock' }],
    };
    const [id] = await actor.does('saveOrder', typed, workDate);
    await actor.does('confirmOrder', { id, version: 1 }, workDate);
  };
  const carbon = { firstDay: addDays(workDate, -14), lastDay: addDays(workDate, 21), name: 'Carbon weeks' };
  const lines = [line({ itemId: item('GAC-25'), value: '8', from: '4' })];
  const id = await promote({ ...carbon, lines });
  await order('Kolam Ceria Swim Club', '12');
  await order('Bukit Jati Golf Links', '6');
  const [row] = await database.rows<{ lineId: number; used: string }>(
    'SELECT l.id AS line_id, p.used FROM promotion p JOIN promotion_line l ON l.company_id = p.company_id AND l.promotion_id = p.id WHERE p.company_id = ? AND p.id = ?',
    [masters.companyId, id],
  );
  const budget = dec(row!.used).div('0.9').round(0, 0).toFixed();
  await actor.does(
    'savePromotion',
    {
      id,
      version: 1,
      customerId: null,
      priceGroupId: null,
      budget,
      ...carbon,
      lines: [{ ...lines[0]!, id: row!.lineId }],
    },
    workDate,
  );
  // The vendor of membranes supports their price; what was accrued up to last month is claimed, and half settled. // S13
  const [membranes] = await database.rows<{ id: number }>(
    "SELECT id FROM vendor WHERE company_id = ? AND number = 'V-101'",
    [masters.companyId],
  );
  const promised = { version: null, vendorId: membranes!.id, customerId: null, priceGroupId: null, promotionId: null };
  await actor.does(
    'saveSupport',
    {
      id: null,
      ...promised,
      name: 'Membranes below the market',
      firstDay: addDays(workDate, -80),
      lastDay: addDays(workDate, 40),
      lines: [{ id: null, itemId: item('RO-4040'), groupId: null, perUnit: '12.5' }],
    },
    workDate,
  );
  await actor.does('countSupport', {}, workDate);
  const until = addDays(`${workDate.slice(0, 7)}-01`, -1);
  const [owed] = await database.rows<{ amount: string | null }>(
    'SELECT SUM(amount) AS amount FROM support_accrual WHERE company_id = ? AND accrued_on <= ?',
    [masters.companyId, until],
  );
  if (owed!.amount !== null && dec(owed!.amount).gt(0)) {
    const [claim] = await actor.does('makeClaim', { vendorId: membranes!.id, until }, workDate);
    const [invoice] = await database.rows<{ id: number; open: string }>(
      "SELECT id, amount - settled AS open FROM open_item WHERE company_id = ? AND vendor_id = ? AND currency = 'MYR' AND settled < amount ORDER BY due_date LIMIT 1",
      [masters.companyId, membranes!.id],
    );
    const half = dec(owed!.amount).div(2).round(2, 0);
    if (invoice && dec(invoice.open).gte(half)) {
      const settled = { id: claim, version: 1, openItemId: invoice.id, amount: half.toFixed() };
      await actor.does('settleClaim', settled, workDate);
    }
  }
  const [growers] = await database.rows<{ id: number }>(
    "SELECT id FROM price_group WHERE company_id = ? AND name = 'Growers'",
    [masters.companyId],
  );
  await promote({
    name: 'Salt for the season',
    priceGroupId: growers!.id,
    firstDay: workDate,
    lastDay: addDays(workDate, 60),
    budget: '600',
    lines: [line({ itemId: item('SALT-25'), kind: 'free', buy: '20', free: '1' })],
  });
  await promote({
    name: 'Turn of the year',
    firstDay: addDays(workDate, -80),
    lastDay: addDays(workDate, -40),
    budget: '2500',
    lines: [line({ value: '2' })],
  });
}
