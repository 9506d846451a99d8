import type { Database } from '../server/db';
import type { Actor } from '../server/sample/actor';
import type { Masters } from '../server/sample/masters';
import type { Day } from '@core/kernel';

/** Two rounds: the north on Tuesdays and Fridays, the valley each working day but Friday. // S11 */
export async function layRounds(database: Database, actor: Actor, masters: Masters, workDate: Day): Promise<void> {
  const { companyId } = masters;
  // What a bag or a drum weighs is known; a pallet's volume is not, so the vehicle is limited by weight.
  await database.run(
    "UPDATE item SET weight = 25 WHERE company_id = ? AND number IN ('SALT-25', 'GAC-25') AND weight = 0",
    [companyId],
  );
  const stopsOf = (...names: string[]) => names.flatMap((name) => masters.customers.get(name)!.shipTos);
  const round = { id: null, version: null, mostVolume: '' };
  await actor.does(
    'saveRound',
    {
      ...round,
      name: 'Northern round',
      week: '0100100',
      vehicle: 'Three-tonner',
      mostWeight: '2500',
      stops: stopsOf('Rumah Hijau Growers', 'Padi Emas Food Works', 'Sinar Laut Ferries'),
    },
    workDate,
  );
  await actor.does(
    'saveRound',
    {
      ...round,
      name: 'Valley round',
      week: '1111000',
      vehicle: 'Van',
      mostWeight: '450',
      stops: stopsOf('Kolam Ceria Swim Club', 'Nilam Dialysis Centre', 'Bukit Jati Golf Links', 'Kasturi Bottling'),
    },
    workDate,
  );
}
