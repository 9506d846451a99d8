import type { Day } from '@core/kernel';
import { itemGroupTable, itemTable, itemVendorTable, taxCodeTable } from '../catalogue/tables';
import type { Database, Tx } from '../db/index';
import { customerTable, paymentTermsTable, shipToTable, vendorTable } from '../parties/tables';
import { exchangeRateTable } from '../pricing/tables';
import { serialSeriesTable } from '../serial/tables';
import { giveRole, makeCompany, makePerson } from '../setup/index';
import { sisterItemTable, sisterTable } from '../sisters/tables';
import { ACTS } from '../rooms';
import { RIGHTS } from '@api/access';
import { runAct } from '../acts/index';
import { sentenceOf } from '@core/refusals';
import type { Masters } from './masters';
import { CHANDRA } from './people';

export interface Sisters {
  hbw: number;
  mbf: number;
  pbt: number;
  /** Muara Bening among our vendors, and we among her customers. */
  vendorId: number;
  customerId: number;
  shipToId: number;
  /** Chandra. */
  personId: number;
  /** Her items by number. */
  items: Map<string, number>;
}

const ITEMS = [
  // One number with ours, one that is written otherwise, one that is hers alone.
  { number: 'FV-900', name: 'Vessel 900, lined', price: '980', serial: 'MB9-{YY}-###', stock: 14, cost: '610' },
  { number: 'FV 1200', name: 'Vessel 1200, lined', price: '1420', serial: 'MB12-{YY}-###', stock: 6, cost: '905' },
  { number: 'GRATE-40', name: 'Support grate', price: '64', serial: null, stock: 40, cost: '31' },
] as const;

/**
 * Muara Bening with items, stock and people of her own, paired with us: we buy vessels of her. And Pulau Bening, who is
 * not paired with anybody yet. On top of the masters. // X1
 */
export async function laySisters(database: Database, masters: Masters, workDate: Day): Promise<Sisters> {
  const { companyId: hbw, sisterId: mbf } = masters;
  const laid = await database.transaction(async (tx) => {
    const { companyId: pbt } = await makeCompany(tx, {
      code: 'PBT',
      name: 'Pulau Bening Trading',
      currency: 'USD',
      tint: '#2d4d7a',
      demo: true,
    });
    await tx.run(
      'UPDATE company SET work_date = (SELECT w.work_date FROM (SELECT work_date FROM company WHERE id = ?) w) WHERE id = ?',
      [hbw, pbt],
    );
    const [role] = await tx.rows<{ id: number }>(
      "SELECT id FROM role WHERE company_id = ? AND name = 'Order administrator'",
      [mbf],
    );
    const personId = await makePerson(tx, { signIn: CHANDRA.signIn, name: CHANDRA.name, password: CHANDRA.password });
    await giveRole(tx, personId, mbf, role!.id);
    const ours = await layOurHalf(tx, masters);
    const hers = await layHerHalf(tx, mbf);
    await tx.insertPlain(sisterTable, [
      {
        companyId: hbw,
        sisterId: mbf,
        customerId: null,
        vendorId: ours,
        transfer: 'ordinary',
        perCent: '0',
        takesFitting: false,
      },
      {
        companyId: mbf,
        sisterId: hbw,
        customerId: hers.customerId,
        vendorId: null,
        transfer: 'list-less',
        perCent: '5',
        takesFitting: false,
      },
    ]);
    const [lowId, highId] = [Math.min(hbw, mbf), Math.max(hbw, mbf)];
    await tx.insertPlain(sisterItemTable, [
      {
        lowId,
        highId,
        lowItemId: hbw < mbf ? masters.items.get('FV-900')!.id : hers.items.get('FV-900')!,
        highItemId: hbw < mbf ? hers.items.get('FV-900')! : masters.items.get('FV-900')!.id,
      },
    ]);
    return { hbw, mbf, pbt, personId, vendorId: ours, ...hers };
  });
  await layHerStock(database, laid, workDate);
  return laid;
}

/** Muara Bening among our vendors, and what she sells us. */
async function layOurHalf(tx: Tx, { companyId, items }: Masters): Promise<number> {
  const [terms] = await tx.rows<{ id: number }>(
    "SELECT id FROM payment_terms WHERE company_id = ? AND name = '30 days'",
    [companyId],
  );
  const [vendorId] = await tx.insert(vendorTable, [
    {
      companyId,
      number: 'V-201',
      name: 'Muara Bening Fabrication',
      phone: '+65 5550 2201',
      currency: 'SGD',
      paymentTermsId: terms!.id,
    },
  ]);
  await tx.insertPlain(
    itemVendorTable,
    [
      ['FV-900', '931'],
      ['FV-1200', '1349'],
    ].map(([number, unitPrice]) => ({
      companyId,
      itemId: items.get(number!)!.id,
      vendorId: vendorId!,
      unitPrice: unitPrice!,
      leadDays: 12,
      preferred: false,
      minimum: '0',
      multiple: '0',
    })),
  );
  return vendorId!;
}

/** We among her customers, and her items. */
async function layHerHalf(tx: Tx, companyId: number) {
  const [termsId] = await tx.insert(paymentTermsTable, [{ companyId, name: '30 days', days: 30 }]);
  const [taxId] = await tx.insert(taxCodeTable, [{ companyId, code: 'S6', name: 'Sales tax 6 %', rate: '6' }]);
  const [groupId] = await tx.insert(itemGroupTable, [{ companyId, code: 'VESSEL', name: 'Vessels' }]);
  await tx.insertPlain(exchangeRateTable, [{ companyId, currency: 'MYR', day: '2020-01-01', rate: '0.293' }]);
  const [customerId] = await tx.insert(customerTable, [
    {
      companyId,
      number: 'C-301',
      name: 'Hulu Bening Water Works',
      phone: '03-5550 2300',
      currency: 'SGD',
      paymentTermsId: termsId!,
      salesOrganisationId: null,
      creditLimit: null,
      priceGroupId: null,
      referenceRequired: false,
    },
  ]);
  const [shipToId] = await tx.insert(shipToTable, [
    {
      companyId,
      customerId: customerId!,
      label: 'Main store',
      street: 'Jalan Hulu 1',
      town: 'Shah Alam',
      postcode: '40150',
      country: 'MY',
    },
  ]);
  const ids = await tx.insert(
    itemTable,
    ITEMS.map(({ number, name, price }) => ({
      companyId,
      number,
      name,
      unit: 'piece',
      listPrice: price,
      taxCodeId: taxId!,
      route: 'stock' as const,
      stocked: true,
      itemGroupId: groupId!,
      approvalNeeded: false,
      reserving: 'asked' as const,
    })),
  );
  await tx.insertPlain(
    serialSeriesTable,
    ITEMS.flatMap(({ serial }, at) => (serial === null ? [] : [{ companyId, itemId: ids[at]!, pattern: serial }])),
  );
  return {
    customerId: customerId!,
    shipToId: shipToId!,
    items: new Map(ITEMS.map(({ number }, at) => [number as string, ids[at]!])),
  };
}

/** What she has on hand, put there by the act people use. */
async function layHerStock(database: Database, { mbf, items, personId }: Sisters, workDate: Day): Promise<void> {
  const act = ACTS.find(({ endpoint }) => endpoint.name === 'adjustStock')!;
  for (const { number, stock, cost } of ITEMS) {
    const input = {
      itemId: items.get(number)!,
      locationId: 0,
      was: '0',
      now: String(stock),
      unitCost: cost,
      reason: 'Opening stock',
      numbers: [],
    };
    const doer = { companyId: mbf, personId, rights: RIGHTS, workDate, origin: 'sample' };
    const answer = await runAct(database, act.asked(input), doer, `sisters-${number}`);
    if (!answer.ok) throw new Error(answer.refusals.map(sentenceOf).join(' '));
  }
}
