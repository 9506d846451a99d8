import type { Route } from '@core/catalogue';
import type { NewRow, Table, Database, Tx } from '../server/db';
import { giveRole, makeCompany, makePerson } from '../server/setup';
import { PEOPLE } from './people';
import {
  itemGroupTable,
  itemTable,
  itemVendorTable,
  taxCodeTable,
  vendorApprovalTable,
} from '../server/catalogue/tables';
import {
  customerTable,
  paymentTermsTable,
  salesOrganisationTable,
  shipToTable,
  vendorTable,
} from '../server/parties/tables';
import { exchangeRateTable } from '../server/pricing/tables';

export interface Masters {
  companyId: number;
  sisterId: number;
  /** Person ids by sign-in. */
  people: Map<string, number>;
  /** Ids by name or number. */
  customers: Map<string, { id: number; shipTos: number[]; referenceRequired: boolean }>;
  items: Map<string, { id: number; price: string; route: Route }>;
  vendors: Map<string, number>;
  groups: Map<string, number>;
}

const VENDORS = [
  { number: 'V-101', name: 'Arus Membrane Supply', phone: '03-5550 1101', terms: '30 days' },
  { number: 'V-102', name: 'Injap Timur Valves', phone: '09-5550 1102', terms: '30 days' },
  { number: 'V-103', name: 'Garam Murni Salt', phone: '04-5550 1103', terms: '14 days', tolerance: '5' },
  { number: 'V-104', name: 'Delima Chemicals', phone: '03-5550 1104', terms: '30 days' },
  { number: 'V-105', name: 'Logam Setia Castings', phone: '05-5550 1105', terms: '45 days' },
  { number: 'V-106', name: 'Utara Freight', phone: '04-5550 1106', terms: '14 days' },
] as const satisfies readonly {
  number: string;
  name: string;
  phone: string;
  terms: string;
  /** How far they may deliver more or less than ordered, in per cent. // L10 */
  tolerance?: string;
}[];

interface CustomerPlan {
  number: string;
  name: string;
  organisation: string;
  phone: string;
  terms: string;
  /** The company's own unless named. */
  currency?: string;
  referenceRequired: boolean;
  /** Held to items with an agreement price. // A14 */
  contractedOnly?: boolean;
  shipTos: readonly { label: string; street: string; town: string; postcode: string; country?: string }[];
}

const CUSTOMERS: readonly CustomerPlan[] = [
  {
    number: 'C-201',
    name: 'Teratai Bay Resort',
    organisation: 'COAST',
    phone: '09-5550 2201',
    terms: '30 days',
    referenceRequired: true,
    shipTos: [
      { label: 'Jetty Store', street: 'Jalan Pantai 3', town: 'Kuala Besut', postcode: '22300' },
      { label: 'Hill Villas', street: 'Lorong Bukit 12', town: 'Kuala Besut', postcode: '22300' },
    ],
  },
  {
    number: 'C-202',
    name: 'Kolam Ceria Swim Club',
    organisation: 'VALLEY',
    phone: '03-5550 2202',
    terms: '14 days',
    referenceRequired: false,
    shipTos: [{ label: 'Plant room', street: 'Jalan Renang 8', town: 'Shah Alam', postcode: '40100' }],
  },
  {
    number: 'C-203',
    name: 'Nilam Dialysis Centre',
    organisation: 'VALLEY',
    phone: '03-5550 2203',
    terms: '30 days',
    referenceRequired: true,
    shipTos: [
      { label: 'Ward store', street: 'Jalan Nilam 1', town: 'Petaling Jaya', postcode: '46000' },
      { label: 'Second clinic', street: 'Persiaran Delima 5', town: 'Klang', postcode: '41000' },
    ],
  },
  {
    number: 'C-204',
    name: 'Padi Emas Food Works',
    organisation: 'NORTH',
    phone: '04-5550 2204',
    terms: '45 days',
    referenceRequired: false,
    shipTos: [{ label: 'Gate 2', street: 'Kawasan Padi 20', town: 'Alor Setar', postcode: '05150' }],
  },
  {
    number: 'C-205',
    name: 'Rumah Hijau Growers',
    organisation: 'NORTH',
    phone: '05-5550 2205',
    terms: '30 days',
    referenceRequired: false,
    shipTos: [{ label: 'Greenhouse 4', street: 'Batu 9', town: 'Tanah Rata', postcode: '39000' }],
  },
  {
    number: 'C-206',
    name: 'Sinar Laut Ferries',
    organisation: 'NORTH',
    phone: '04-5550 2206',
    terms: '30 days',
    referenceRequired: true,
    shipTos: [{ label: 'Dock workshop', street: 'Pengkalan Kapal', town: 'Butterworth', postcode: '12100' }],
  },
  {
    number: 'C-207',
    name: 'Bukit Jati Golf Links',
    organisation: 'VALLEY',
    phone: '03-5550 2207',
    terms: '30 days',
    referenceRequired: false,
    shipTos: [{ label: 'Pump house', street: 'Jalan Jati 2', town: 'Rawang', postcode: '48000' }],
  },
  {
    number: 'C-208',
    name: 'Kasturi Bottling',
    organisation: 'VALLEY',
    phone: '06-5550 2208',
    terms: '45 days',
    referenceRequired: false,
    shipTos: [{ label: 'Line 1 store', street: 'Taman Kasturi 7', town: 'Seremban', postcode: '70400' }],
  },
  {
    number: 'C-209',
    name: 'Selat Cruise Lines',
    organisation: 'NORTH',
    phone: '04-5550 2209',
    terms: '30 days',
    currency: 'SGD',
    referenceRequired: false,
    contractedOnly: true,
    shipTos: [{ label: 'Ship stores', street: 'Pengkalan Besar 4', town: 'Butterworth', postcode: '12100' }],
  },
];

const GROUPS = [
  { code: 'MEMB', name: 'Membranes' },
  { code: 'CART', name: 'Filter cartridges' },
  { code: 'VALVE', name: 'Valves' },
  { code: 'PUMP', name: 'Pumps' },
  { code: 'CHEM', name: 'Salt and chemicals' },
  { code: 'SKID', name: 'Skids and vessels' },
  { code: 'PART', name: 'Parts' },
] as const;

const ORGANISATIONS = [
  { code: 'COAST', name: 'East coast' },
  { code: 'VALLEY', name: 'Klang valley' },
  { code: 'NORTH', name: 'North' },
] as const;

interface ItemPlan {
  number: string;
  name: string;
  unit: string;
  price: string;
  tax: 'S6' | 'Z0';
  route: Route;
  /** Opening stock and its unit cost; null for what we do not keep, or have none of (`kept`). */
  stock: { quantity: string; cost: string } | null;
  kept?: true;
  group: string;
  /** Whether it is held for orders at once. // S3 */
  reserving?: 'never' | 'always';
  /** Who may sell it to us, where not everybody may. // L9 */
  approved?: readonly string[];
  vendors: readonly {
    number: string;
    price: string;
    days: number;
    preferred?: boolean;
    minimum?: string;
    multiple?: string;
  }[];
}

const ITEMS: readonly ItemPlan[] = [
  {
    number: 'RO-4040',
    group: 'MEMB',
    name: 'Membrane, 4 × 40 in',
    unit: 'piece',
    price: '815',
    tax: 'S6',
    route: 'drop',
    stock: null,
    vendors: [{ number: 'V-101', price: '620', days: 8, preferred: true }],
  },
  {
    number: 'RO-2540',
    group: 'MEMB',
    name: 'Membrane, 2.5 × 40 in',
    unit: 'piece',
    price: '540',
    tax: 'S6',
    route: 'drop',
    stock: null,
    vendors: [{ number: 'V-101', price: '402.5', days: 8, preferred: true }],
  },
  {
    number: 'VA-50A',
    group: 'VALVE',
    name: 'Actuated valve, 50 mm',
    unit: 'piece',
    price: '1180',
    tax: 'S6',
    route: 'drop',
    stock: null,
    vendors: [
      { number: 'V-102', price: '905', days: 12 },
      { number: 'V-105', price: '940', days: 7 },
    ],
  },
  {
    number: 'FC-10',
    group: 'CART',
    name: 'Filter cartridge, 10 in',
    unit: 'piece',
    price: '6.1',
    tax: 'S6',
    route: 'stock',
    stock: { quantity: '24000', cost: '3.15' },
    vendors: [{ number: 'V-101', price: '3.2', days: 6 }],
  },
  {
    number: 'FC-20',
    group: 'CART',
    name: 'Filter cartridge, 20 in',
    unit: 'piece',
    price: '9.8',
    tax: 'S6',
    route: 'stock',
    stock: { quantity: '18000', cost: '5.04' },
    vendors: [{ number: 'V-101', price: '5.1', days: 6 }],
  },
  {
    number: 'PM-15',
    group: 'PUMP',
    name: 'Dosing pump, 15 l/h',
    unit: 'piece',
    price: '1340',
    tax: 'S6',
    route: 'stock',
    stock: { quantity: '60', cost: '880' },
    reserving: 'always',
    vendors: [{ number: 'V-105', price: '880', days: 15, minimum: '5', multiple: '5' }],
  },
  {
    number: 'SALT-25',
    group: 'CHEM',
    name: 'Softener salt, 25 kg',
    unit: 'bag',
    price: '28.5',
    tax: 'Z0',
    route: 'drop',
    stock: { quantity: '900', cost: '17.2' },
    vendors: [{ number: 'V-103', price: '17.4', days: 3, preferred: true }],
  },
  {
    number: 'HY-25',
    group: 'CHEM',
    name: 'Hypochlorite, 25 l drum',
    unit: 'drum',
    price: '96',
    tax: 'S6',
    route: 'drop',
    stock: null,
    // Salt people sell it cheaper, and are not approved for it.
    vendors: [
      { number: 'V-104', price: '61.25', days: 4, preferred: true },
      { number: 'V-103', price: '55', days: 3 },
    ],
    approved: ['V-104'],
  },
  {
    number: 'GAC-25',
    group: 'CHEM',
    name: 'Activated carbon, 25 kg',
    unit: 'bag',
    price: '212',
    tax: 'S6',
    route: 'stock',
    stock: { quantity: '260', cost: '131.5' },
    vendors: [{ number: 'V-104', price: '131.5', days: 9, preferred: true }],
  },
  {
    number: 'SK-D2',
    group: 'SKID',
    name: 'Dosing skid, 2 pumps',
    unit: 'piece',
    price: '6450',
    tax: 'S6',
    route: 'stock',
    stock: null,
    kept: true,
    vendors: [],
  },
  {
    number: 'SK-D4',
    group: 'SKID',
    name: 'Dosing skid, 4 pumps',
    unit: 'piece',
    price: '9800',
    tax: 'S6',
    route: 'stock',
    stock: null,
    kept: true,
    vendors: [],
  },
  {
    number: 'FV-900',
    group: 'SKID',
    name: 'Filter vessel, 900 mm',
    unit: 'piece',
    price: '14200',
    tax: 'S6',
    route: 'stock',
    stock: { quantity: '1', cost: '8900' },
    vendors: [],
  },
  {
    number: 'FV-1200',
    group: 'SKID',
    name: 'Filter vessel, 1200 mm',
    unit: 'piece',
    price: '19600',
    tax: 'S6',
    route: 'stock',
    stock: null,
    kept: true,
    vendors: [],
  },
  {
    number: 'UV-40',
    group: 'SKID',
    name: 'Steriliser, 40 W',
    unit: 'piece',
    price: '2450',
    tax: 'S6',
    route: 'stock',
    stock: { quantity: '6', cost: '1510' },
    vendors: [],
  },
  {
    number: 'SK-FRAME',
    group: 'PART',
    name: 'Skid frame',
    unit: 'piece',
    price: '780',
    tax: 'S6',
    route: 'stock',
    stock: { quantity: '8', cost: '410' },
    vendors: [{ number: 'V-105', price: '410', days: 10, preferred: true }],
  },
  {
    number: 'SK-PANEL',
    group: 'PART',
    name: 'Control panel',
    unit: 'piece',
    price: '1650',
    tax: 'S6',
    route: 'stock',
    stock: { quantity: '5', cost: '930' },
    vendors: [
      { number: 'V-102', price: '930', days: 12, preferred: true },
      { number: 'V-105', price: '1010', days: 8 },
    ],
  },
  {
    number: 'TUBE-12',
    group: 'PART',
    name: 'Dosing tube, 12 mm',
    unit: 'metre',
    price: '9.4',
    tax: 'S6',
    route: 'stock',
    stock: { quantity: '140', cost: '4.1' },
    vendors: [{ number: 'V-104', price: '4.1', days: 4, preferred: true, minimum: '50', multiple: '50' }],
  },
  {
    number: 'FV-SHELL9',
    group: 'PART',
    name: 'Vessel shell, 900 mm',
    unit: 'piece',
    price: '3900',
    tax: 'S6',
    route: 'stock',
    stock: null,
    kept: true,
    vendors: [],
  },
  {
    number: 'FV-SHELL12',
    group: 'PART',
    name: 'Vessel shell, 1200 mm',
    unit: 'piece',
    price: '5200',
    tax: 'S6',
    route: 'stock',
    stock: null,
    kept: true,
    vendors: [],
  },
  {
    number: 'FV-HEAD',
    group: 'PART',
    name: 'Dished head',
    unit: 'piece',
    price: '860',
    tax: 'S6',
    route: 'stock',
    stock: { quantity: '6', cost: '495' },
    vendors: [{ number: 'V-105', price: '495', days: 15, preferred: true }],
  },
  {
    number: 'FV-NOZZLE',
    group: 'PART',
    name: 'Flanged nozzle',
    unit: 'piece',
    price: '140',
    tax: 'S6',
    route: 'stock',
    stock: { quantity: '40', cost: '72' },
    vendors: [{ number: 'V-102', price: '72', days: 9, preferred: true }],
  },
  {
    number: 'PLATE-8',
    group: 'PART',
    name: 'Steel plate, 8 mm',
    unit: 'sheet',
    price: '620',
    tax: 'S6',
    route: 'stock',
    stock: { quantity: '10', cost: '388' },
    vendors: [{ number: 'V-105', price: '388', days: 6, preferred: true, minimum: '5', multiple: '5' }],
  },
  {
    number: 'UV-HOUSING',
    group: 'PART',
    name: 'Steriliser housing',
    unit: 'piece',
    price: '690',
    tax: 'S6',
    route: 'stock',
    stock: { quantity: '10', cost: '402' },
    vendors: [{ number: 'V-105', price: '402', days: 10, preferred: true }],
  },
  {
    number: 'UV-LAMP',
    group: 'PART',
    name: 'Lamp, 40 W',
    unit: 'piece',
    price: '180',
    tax: 'S6',
    route: 'stock',
    stock: { quantity: '25', cost: '96' },
    vendors: [{ number: 'V-101', price: '96', days: 7, preferred: true }],
  },
];

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
    });
    const sister = await makeCompany(tx, {
      code: 'MBF',
      name: 'Muara Bening Fabrication',
      currency: 'SGD',
      tint: '#6b3f1d',
      demo: true,
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
    return {
      companyId,
      sisterId: sister.companyId,
      people,
      groups,
      vendors,
      customers: await layCustomers(tx, companyId, terms, organisations),
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
  return new Map(ITEMS.map((item, index) => [item.number, { id: ids[index]!, price: item.price, route: item.route }]));
}

/** What is on hand when the demo begins, by item number. */
export const OPENING_STOCK: readonly { item: string; quantity: string; cost: string; at: number }[] = [
  ...ITEMS.flatMap((item) => (item.stock ? [{ item: item.number, ...item.stock, at: 0 }] : [])),
  // At the second place.
  { item: 'UV-40', quantity: '3', cost: '1510', at: 1 },
  { item: 'GAC-25', quantity: '40', cost: '131.5', at: 1 },
];
