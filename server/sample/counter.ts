import { withCheckDigit } from '@core/catalogue';
import { addDays, type Day } from '@core/kernel';
import type { Database } from '../db/index';
import { giveRole, makePerson } from '../setup/index';
import { itemBarCodeTable, tillTable } from '../counter/tables';
import { contactTable, customerTable, permitTable, shipToTable } from '../parties/tables';
import { roleTable } from '../access/tables';
import type { Masters } from './masters';
import { HAFIZ } from './people';

/** Who buys at the counter where nobody in particular does; the plumbers have names and permits of their own. */
const PLUMBERS = [
  { name: 'Rahim the plumber', phone: '013-5550 5001', permit: ['HP-5001', -200, 160] },
  { name: 'Uncle Lim', phone: '016-5550 5002', permit: null },
  { name: 'Kavitha Pipes', phone: '012-5550 5003', permit: ['HP-4710', -700, -9] },
] as const;

/** Codes for use within a shop: GS1 gives numbers that begin with 2 to nobody. */
const CODED: readonly (readonly [item: string, digits: string, quantity: string])[] = [
  ['FC-10', '290000000010', '1'],
  ['FC-10', '290000000110', '25'],
  ['FC-20', '290000000020', '1'],
  ['SALT-25', '290000000025', '1'],
  ['HY-25', '290000000250', '1'],
  ['PM-15', '290000000015', '1'],
  ['GAC-25', '290000000125', '1'],
];

export interface CounterLaid {
  customerId: number;
  tillIds: number[];
  contacts: Map<string, number>;
  hafiz: number;
}

/** Lays the counter: who stands there, who buys there, tills and bar codes. */
export function layCounter(database: Database, masters: Masters, workDate: Day): Promise<CounterLaid> {
  const { companyId, items } = masters;
  return database.transaction(async (tx) => {
    const [terms] = await tx.rows<{ id: number }>(
      'SELECT id FROM payment_terms WHERE company_id = ? ORDER BY days LIMIT 1',
      [companyId],
    );
    const [customerId] = await tx.insert(customerTable, [
      {
        companyId,
        number: 'C-200',
        name: 'Walk-in buyers',
        currency: 'MYR',
        paymentTermsId: terms!.id,
      },
    ]);
    await tx.insertPlain(shipToTable, [
      {
        companyId,
        customerId: customerId!,
        label: 'At the counter',
        street: 'Jalan Sungai 1',
        town: 'Hulu Bening',
        postcode: '44000',
        country: 'MY',
      },
    ]);
    await tx.run('UPDATE company SET counter_customer_id = ? WHERE id = ?', [customerId!, companyId]);
    const contacts = await tx.insert(
      contactTable,
      PLUMBERS.map(({ name, phone }) => ({ companyId, customerId: customerId!, name, work: 'Plumber', phone })),
    );
    const [kind] = await tx.rows<{ id: number }>('SELECT id FROM permit_type WHERE company_id = ? LIMIT 1', [
      companyId,
    ]);
    if (kind) {
      await tx.insertPlain(
        permitTable,
        PLUMBERS.flatMap(({ permit }, at) =>
          permit === null
            ? []
            : [
                {
                  companyId,
                  permitTypeId: kind.id,
                  customerId: customerId!,
                  contactId: contacts[at]!,
                  number: permit[0],
                  firstDay: addDays(workDate, permit[1]),
                  lastDay: addDays(workDate, permit[2]),
                },
              ],
        ),
      );
    }
    const tillIds = await tx.insert(tillTable, [
      { companyId, name: 'Front counter' },
      { companyId, name: 'Yard gate' },
    ]);
    await tx.insertPlain(
      itemBarCodeTable,
      CODED.flatMap(([item, digits, quantity]) => {
        const found = items.get(item);
        return found ? [{ companyId, itemId: found.id, code: withCheckDigit(`0${digits}`), quantity }] : [];
      }),
    );
    const { role, ...person } = HAFIZ;
    const hafiz = await makePerson(tx, person);
    const [known] = await tx.rows<{ id: number }>(
      `SELECT id FROM ${roleTable.name} WHERE company_id = ? AND name = ?`,
      [companyId, role],
    );
    await giveRole(tx, hafiz, companyId, known!.id);
    return {
      customerId: customerId!,
      tillIds,
      contacts: new Map(PLUMBERS.map(({ name }, at) => [name, contacts[at]!])),
      hafiz,
    };
  });
}
