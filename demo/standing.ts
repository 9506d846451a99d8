import { addDays, weekdayOf, type Day } from '@core/kernel';
import type { Actor } from '../server/sample/actor';
import type { Masters } from '../server/sample/masters';

/**
 * Salt each Tuesday for two customers, one of them on a holiday soon; membranes on the first of the month, paused; and one
 * that asks for a reference nobody gave, so that its orders stay drafts. // S7
 */
export async function layStanding(actor: Actor, masters: Masters, workDate: Day): Promise<void> {
  const customer = (name: string) => masters.customers.get(name)!;
  const item = (number: string) => masters.items.get(number)!.id;
  const begin = async (
    name: string,
    lines: readonly (readonly [string, string])[],
    change: Record<string, unknown> = {},
  ): Promise<number> => {
    const [id] = await actor.does(
      'saveStanding',
      {
        id: null,
        version: null,
        customerId: customer(name).id,
        shipToId: customer(name).shipTos[0],
        customerReference: 'Weekly salt',
        rule: 'FREQ=WEEKLY;BYDAY=TU',
        firstDay: workDate,
        lastDay: null,
        aheadDays: '3',
        closed: 'after',
        from: null,
        lines: lines.map(([number, quantity]) => ({ itemId: item(number), quantity, unit: '' })),
        ...change,
      },
      workDate,
    );
    return id!;
  };
  // The Tuesday that comes: on a Tuesday that of next week.
  const tuesday = addDays(workDate, 1 + ((7 - weekdayOf(workDate)) % 7));
  const weekly = await begin('Padi Emas Food Works', [['SALT-25', '12']]);
  await actor.does('makeStanding', { id: weekly, day: tuesday }, workDate);
  await begin('Kasturi Bottling', [
    ['SALT-25', '20'],
    ['GAC-25', '2'],
  ]);
  const monthly = await begin('Rumah Hijau Growers', [['FC-20', '8']], {
    customerReference: 'Greenhouse 4',
    rule: 'FREQ=MONTHLY;BYMONTHDAY=5',
    closed: 'before',
  });
  await actor.does('setStanding', { id: monthly, version: 2, state: 'paused' }, workDate);
  const unnamed = await begin('Nilam Dialysis Centre', [['SALT-25', '10']], {
    customerReference: '',
    firstDay: addDays(workDate, 1),
    aheadDays: '1',
  });
  await actor.does('makeStanding', { id: unnamed, day: tuesday }, workDate);
}
