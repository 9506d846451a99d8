import type { Route } from '@core/catalogue';
import type { NewRow, Table, Database, Tx } from '../db/index';
import { giveRole, makeCompany, makePerson } from '../setup/index';
import { PEOPLE } from './people';
import {
  itemGroupTable,
  itemTable,
  itemVendorTable,
  taxCodeTable,
  taxRateTable,
  vendorApprovalTable,
} from '../catalogue/tables';
import {
  contactTable,
  customerTable,
  paymentTermsTable,
  salesOrganisationTable,
  shipToTable,
  vendorTable,
} from '../parties/tables';
import { exchangeRateTable } from '../pricing/tables';
import { serialSeriesTable } from '../serial/tables';
import { CONTACTS } from './contacts';
import { OUR_PAPER, OUR_TEXTS, paperOf } from './papers';
import { paperTextTable } from '../formats/tables';
import { VENDORS, CUSTOMERS, GROUPS, ORGANISATIONS } from './parties';
import { ITEMS } from './items';

export interface Masters {
  companyId: number;
  sisterId: number;
  /** Person ids by sign-in. */
  people: Map<string, number>;
  /** Ids by name or number. */
  customers: Map<string, { id: number; shipTos: number[]; referenceRequired: boolean }>;
  items: Map<string, { id: number; price: string; route: Route; serial: string | null }>;
  vendors: Map<string, number>;
  groups: Map<string, number>;
}

/** Companies, people, parties, items and opening stock of the demo. */
export function layMasters(database: Database): Promise<Masters> {
  return database.transaction(async (tx) => {
    const { companyId, roles } = await makeCompany(tx, {
      code: 'HBW',
      name: 'Hulu Bening Water Works',
      currency: 'MYR',
      tint: '#0d5552',
      demo: true,
      customerInvoiceFirst: true,
      paper: OUR_PAPER.HBW,
    });
    const sister = await makeCompany(tx, {
      code: 'MBF',
      name: 'Muara Bening Fabrication',
      currency: 'SGD',
      tint: '#6b3f1d',
      demo: true,
      paper: OUR_PAPER.MBF,
    });
    const people = new Map<string, number>();
    for (const { role, ...person } of PEOPLE) {
      const id = await makePerson(tx, person);
      people.set(person.signIn, id);
      await giveRole(tx, id, companyId, roles.get(role)!);
    }
    // Two of them work in the sister company too.
    for (const signIn of ['salmah', 'rashid']) {
      await giveRole(tx, people.get(signIn)!, sister.companyId, sister.roles.get('Sales manager')!);
    }
    const terms = await idsOf(
      tx,
      paymentTermsTable,
      [14, 30, 45].map((days) => ({ companyId, name: `${days} days`, days })),
      'name',
    );
    const taxes = await idsOf(
      tx,
      taxCodeTable,
      [
        { companyId, code: 'S6', name: 'Sales tax 6 %', rate: '6' },
        { companyId, code: 'Z0', name: 'Zero rated', rate: '0' },
      ],
      'code',
    );
    await tx.insertPlain(taxRateTable, [{ companyId, taxCodeId: taxes.get('S6')!, firstDay: '2020-01-01', rate: '6' }]);
    const vendors = await idsOf(
      tx,
      vendorTable,
      VENDORS.map((vendor) => ({
        companyId,
        number: vendor.number,
        name: vendor.name,
        phone: vendor.phone,
        currency: 'MYR',
        paymentTermsId: terms.get(vendor.terms)!,
        tolerancePercent: 'tolerance' in vendor ? vendor.tolerance : '0',
        ...paperOf(vendor),
      })),
      'number',
    );
    await tx.insertPlain(exchangeRateTable, [
      { companyId, currency: 'SGD', day: '2020-01-01', rate: '3.41' },
      { companyId, currency: 'USD', day: '2020-01-01', rate: '4.48' },
    ]);
    const groups = await idsOf(
      tx,
      itemGroupTable,
      GROUPS.map((group) => ({ companyId, ...group })),
      'code',
    );
    const organisations = await idsOf(
      tx,
      salesOrganisationTable,
      ORGANISATIONS.map((organisation) => ({ companyId, ...organisation })),
      'code',
    );
    await tx.insertPlain(
      paperTextTable,
      OUR_TEXTS.map((text) => ({ companyId, ...text })),
    );
    const customers = await layCustomers(tx, companyId, terms, organisations);
    const partyOf = (number: string) => {
      const customer = CUSTOMERS.find((each) => each.number === number);
      return customer
        ? { customerId: customers.get(customer.name)!.id, vendorId: null }
        : { customerId: null, vendorId: vendors.get(number)! };
    };
    await tx.insertPlain(
      contactTable,
      Object.entries(CONTACTS).flatMap(([number, contacts]) =>
        contacts.map((contact) => ({ companyId, ...partyOf(number), ...contact })),
      ),
    );
    return {
      companyId,
      sisterId: sister.companyId,
      people,
      groups,
      vendors,
      customers,
      items: await layItems(tx, companyId, taxes, vendors, groups),
    };
  });
}

async function idsOf<T extends Table>(
  tx: Tx,
  table: T,
  rows: readonly NewRow<T>[],
  key: keyof NewRow<T>,
): Promise<Map<string, number>> {
  const ids = await tx.insert(table, rows);
  return new Map(rows.map((row, index) => [String(row[key]), ids[index]!]));
}

async function layCustomers(
  tx: Tx,
  companyId: number,
  terms: ReadonlyMap<string, number>,
  organisations: ReadonlyMap<string, number>,
) {
  const ids = await tx.insert(
    customerTable,
    CUSTOMERS.map((customer) => ({
      companyId,
      number: customer.number,
      name: customer.name,
      phone: customer.phone,
      currency: customer.currency ?? 'MYR',
      paymentTermsId: terms.get(customer.terms)!,
      referenceRequired: customer.referenceRequired,
      contractedOnly: customer.contractedOnly ?? false,
      salesOrganisationId: organisations.get(customer.organisation)!,
      ...paperOf(customer),
    })),
  );
  const customers: Masters['customers'] = new Map();
  for (const [index, customer] of CUSTOMERS.entries()) {
    const shipTos = await tx.insert(
      shipToTable,
      customer.shipTos.map((shipTo) => ({
        companyId,
        customerId: ids[index]!,
        ...shipTo,
        country: shipTo.country ?? 'MY',
      })),
    );
    customers.set(customer.name, {
      id: ids[index]!,
      shipTos,
      referenceRequired: customer.referenceRequired,
    });
  }
  return customers;
}

async function layItems(
  tx: Tx,
  companyId: number,
  taxes: ReadonlyMap<string, number>,
  vendors: ReadonlyMap<string, number>,
  groups: ReadonlyMap<string, number>,
) {
  const ids = await tx.insert(
    itemTable,
    ITEMS.map((item) => ({
      companyId,
      number: item.number,
      name: item.name,
      unit: item.unit,
      listPrice: item.price,
      taxCodeId: taxes.get(item.tax)!,
      route: item.route,
      stocked: item.stock !== null || item.kept === true,
      itemGroupId: groups.get(item.group)!,
      approvalNeeded: item.approved !== undefined,
      reserving: item.reserving ?? 'asked',
    })),
  );
  await tx.insertPlain(
    serialSeriesTable,
    ITEMS.flatMap(({ serial }, index) =>
      serial === undefined ? [] : [{ companyId, itemId: ids[index]!, pattern: serial }],
    ),
  );
  await tx.insertPlain(
    itemVendorTable,
    ITEMS.flatMap((item, index) =>
      item.vendors.map((vendor) => ({
        companyId,
        itemId: ids[index]!,
        vendorId: vendors.get(vendor.number)!,
        unitPrice: vendor.price,
        leadDays: vendor.days,
        preferred: vendor.preferred ?? false,
        minimum: vendor.minimum ?? '0',
        multiple: vendor.multiple ?? '0',
      })),
    ),
  );
  await tx.insertPlain(
    vendorApprovalTable,
    ITEMS.flatMap((item, index) =>
      (item.approved ?? []).map((number) => ({
        companyId,
        itemId: ids[index]!,
        vendorId: vendors.get(number)!,
        firstDay: '2020-01-01',
      })),
    ),
  );
  return new Map(
    ITEMS.map((item, index) => [
      item.number,
      { id: ids[index]!, price: item.price, route: item.route, serial: item.serial ?? null },
    ]),
  );
}
