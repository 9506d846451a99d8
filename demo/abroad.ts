import { addDays, type Day } from '@core/kernel';
import { itemVendorTable } from '../server/catalogue/tables';
import { vendorTable } from '../server/parties/tables';
import { exchangeRateTable } from '../server/pricing/tables';
import type { Database } from '../server/db';
import type { Actor } from '../server/sample/actor';
import type { Masters } from '../server/sample/masters';
import type { Timetable } from '../server/sample/timetable';

interface Foreign {
  number: string;
  name: string;
  phone: string;
  currency: string;
  sells: readonly [item: string, price: string, days: number, minimum: string][];
}

const FOREIGN: readonly Foreign[] = [
  {
    number: 'V-107',
    name: 'Samudra Membrane Export',
    phone: '+1 555 0107',
    currency: 'USD',
    sells: [
      ['RO-4040', '136.5', 24, '10'],
      ['FC-10', '0.74', 21, '1000'],
    ],
  },
  {
    number: 'V-108',
    name: 'Selat Instruments',
    phone: '+65 5550 1108',
    currency: 'SGD',
    sells: [
      ['VA-50A', '274', 9, '0'],
      ['FC-20', '1.55', 8, '100'],
    ],
  },
];

/** What currencies were worth: from so many days before the work date on. */
const RATES: readonly [currency: string, before: number, rate: string][] = [
  ['USD', 120, '4.5210'],
  ['USD', 60, '4.4620'],
  ['USD', 31, '4.5535'],
  ['USD', 7, '4.4885'],
  ['SGD', 90, '3.3820'],
  ['SGD', 21, '3.4310'],
  ['SGD', 5, '3.41'],
];

/** Two vendors who sell in their own currency, what they ask, and what it was worth. // P8 */
export async function layAbroad(database: Database, masters: Masters, workDate: Day): Promise<void> {
  const { companyId } = masters;
  await database.transaction(async (tx) => {
    const [terms] = await tx.rows<{ id: number }>(
      "SELECT id FROM payment_terms WHERE company_id = ? AND name = '30 days'",
      [companyId],
    );
    const ids = await tx.insert(
      vendorTable,
      FOREIGN.map(({ number, name, phone, currency }) => ({
        companyId,
        number,
        name,
        phone,
        currency,
        paymentTermsId: terms!.id,
      })),
    );
    FOREIGN.forEach(({ number }, index) => masters.vendors.set(number, ids[index]!));
    await tx.insertPlain(
      itemVendorTable,
      FOREIGN.flatMap(({ sells }, index) =>
        sells.map(([item, unitPrice, leadDays, minimum]) => ({
          companyId,
          itemId: masters.items.get(item)!.id,
          vendorId: ids[index]!,
          unitPrice,
          leadDays,
          minimum,
        })),
      ),
    );
    await tx.insertPlain(
      exchangeRateTable,
      RATES.map(([currency, before, rate]) => ({ companyId, currency, day: addDays(workDate, -before), rate })),
    );
  });
}

interface Bought {
  vendor: string;
  item: string;
  quantity: string;
  /** Days from the work date. */
  ordered: number;
  due: number;
  received?: number;
  /** When their invoice came, under which number and at which price. */
  invoiced?: readonly [on: number, number: string, price: string];
  paid?: readonly [on: number, amount: string];
}

const BOUGHT: readonly Bought[] = [
  {
    vendor: 'V-107',
    item: 'FC-10',
    quantity: '5000',
    ordered: -66,
    due: -44,
    received: -44,
    invoiced: [-29, 'SME-88410', '0.75'],
    paid: [-6, '3975'],
  },
  { vendor: 'V-108', item: 'FC-20', quantity: '400', ordered: -22, due: -12, received: -11 },
  { vendor: 'V-107', item: 'FC-10', quantity: '8000', ordered: -4, due: 20 },
];

/** Tells what was bought in another currency: received, invoiced and paid at three rates; received; on its way. // P8 */
export function tellAbroad(
  database: Database,
  actor: Actor,
  masters: Masters,
  timetable: Timetable,
  workDate: Day,
): void {
  const on = (offset: number, step: (day: Day) => Promise<unknown>) => {
    const day = addDays(workDate, offset);
    timetable.at(day, async () => void (await step(day)));
  };
  for (const plan of BOUGHT) {
    let purchaseId = 0;
    let purchaseLineId = 0;
    on(plan.ordered, async (day) => {
      const [id] = await actor.does(
        'enterPurchase',
        {
          vendorId: masters.vendors.get(plan.vendor)!,
          shipToId: null,
          lines: [
            { itemId: masters.items.get(plan.item)!.id, quantity: plan.quantity, dueDate: addDays(workDate, plan.due) },
          ],
        },
        day,
      );
      const [line] = await database.rows<{ id: number }>(
        'SELECT id FROM purchase_order_line WHERE purchase_order_id = ?',
        [id!],
      );
      [purchaseId, purchaseLineId] = [id!, line!.id];
    });
    if (plan.received !== undefined) {
      on(plan.received, (day) =>
        actor.does('receiveGoods', { purchaseId, lines: [{ lineId: purchaseLineId, quantity: plan.quantity }] }, day),
      );
    }
    let invoiceId = 0;
    if (plan.invoiced) {
      const [offset, vendorNumber, unitPrice] = plan.invoiced;
      on(offset, async (day) => {
        const lines = [{ purchaseLineId, quantity: plan.quantity, unitPrice }];
        const made = await actor.does('enterVendorInvoice', { purchaseId, vendorNumber, invoiceDate: day, lines }, day);
        invoiceId = made[0]!;
      });
    }
    if (plan.paid) {
      const [offset, amount] = plan.paid;
      on(offset, async (day) => {
        const [item] = await database.rows<{ id: number }>('SELECT id FROM open_item WHERE vendor_invoice_id = ?', [
          invoiceId,
        ]);
        await actor.does('recordPayment', { openItemId: item!.id, amount, paidOn: day }, day);
      });
    }
  }
}
