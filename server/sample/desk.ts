import { addDays, type Day } from '@core/kernel';
import type { Database, Tx } from '../db/index';
import type { Actor } from './actor';
import { chanceOf } from '@core/kernel';
import type { Masters } from './masters';
import { itemUnitTable } from '../catalogue/tables';
import { customerItemTable, permitTable, permitTypeTable } from '../parties/tables';
import {
  allowanceTable,
  freightBandTable,
  marketSeriesTable,
  marketValueTable,
  priceGroupTable,
  priceRuleTable,
} from '../pricing/tables';

/** What the order desk knows of customers besides who they are. */
interface CustomerDesk {
  /** What they may owe at most. // S4 */
  creditLimit?: string;
  priceGroup?: (typeof PRICE_GROUPS)[number];
  /** Freight to the zone is in their prices. // R2 */
  deliveredTo?: (typeof FREIGHT)[number]['zone'];
  /** Their prices are those of the ship date. // R3 */
  priceOfShipDate?: boolean;
  /** What they call items. */
  calls?: Readonly<Record<string, string>>;
  /** Their handling permit: its number, and the days from the work date it runs. // S5 */
  permit?: readonly [string, number, number];
}

interface ItemDesk {
  /** Other units it is sold in. */
  units?: Readonly<Record<string, string>>;
  /** Kilograms and cubic metres of one. */
  weight: string;
  volume: string;
  /** A full pack, and per cent on what is sold below one. // R2 */
  pack?: readonly [size: string, charge: string];
  /** Its list price is made of a market price. // R1 */
  market?: { factor: string; surcharge: string; margin: string };
  permit?: boolean;
  /** Prices kept for it; for everybody where neither is named. // R1 */
  prices?: readonly {
    customer?: string;
    group?: (typeof PRICE_GROUPS)[number];
    unit?: string;
    from?: string;
    price: string;
    days?: readonly [number, number];
  }[];
}

const PRICE_GROUPS = ['Clubs and links', 'Growers'] as const;
const SERIES = { name: 'Coconut carbon', unit: 'tonne', start: 5180 };

/** What a kilogram costs to a zone, by weight. // R2 */
const FREIGHT = [
  { zone: 'valley', fromWeight: '0', perKilogram: '0.18' },
  { zone: 'valley', fromWeight: '500', perKilogram: '0.11' },
  { zone: 'north', fromWeight: '0', perKilogram: '0.32' },
  { zone: 'north', fromWeight: '500', perKilogram: '0.21' },
  { zone: 'coast', fromWeight: '0', perKilogram: '0.36' },
] as const;

/** Per cent off an invoice by its weight or amount. // R2 */
const ALLOWANCES = [
  { group: 'Growers', measure: 'weight', fromMeasure: '500', perCent: '1.5', currency: null },
  { group: 'Growers', measure: 'weight', fromMeasure: '2000', perCent: '3', currency: null },
  { group: 'Clubs and links', measure: 'amount', fromMeasure: '5000', perCent: '1', currency: 'MYR' },
] as const;

const CUSTOMERS: Readonly<Record<string, CustomerDesk>> = {
  'Teratai Bay Resort': {
    calls: { 'RO-4040': 'TBR-MEM-40', 'FC-10': 'TBR-F10', 'FC-20': 'TBR-F20' },
    permit: ['HP-4377', -420, 300],
  },
  // A permit that runs out.
  'Kolam Ceria Swim Club': { creditLimit: '60000', priceGroup: 'Clubs and links', permit: ['HP-4471', -400, 12] },
  'Nilam Dialysis Centre': { permit: ['HP-4288', -400, 280] },
  'Padi Emas Food Works': { permit: ['HP-3906', -500, 240] },
  'Rumah Hijau Growers': {
    creditLimit: '40000',
    priceGroup: 'Growers',
    deliveredTo: 'north',
    permit: ['HP-4350', -400, 190],
  },
  'Sinar Laut Ferries': { permit: ['HP-4120', -420, 310] },
  'Bukit Jati Golf Links': { creditLimit: '25000', priceGroup: 'Clubs and links' },
  'Kasturi Bottling': { priceOfShipDate: true, calls: { 'GAC-25': 'KB 7710' }, permit: ['HP-4502', -400, 640] },
};

const ITEMS: Readonly<Record<string, ItemDesk>> = {
  'FC-10': {
    units: { box: '25', pallet: '1500' },
    weight: '0.22',
    volume: '0.0011',
    pack: ['25', '10'],
    prices: [
      { unit: 'box', from: '4', price: '145' },
      { unit: 'pallet', price: '8250' },
      { group: 'Clubs and links', price: '5.85' },
    ],
  },
  'FC-20': {
    units: { box: '25', pallet: '900' },
    weight: '0.41',
    volume: '0.0021',
    pack: ['25', '10'],
    prices: [{ unit: 'box', from: '4', price: '232.5' }],
  },
  'RO-4040': { weight: '3.6', volume: '0.019' },
  'RO-2540': { weight: '1.8', volume: '0.008' },
  'VA-50A': { weight: '4.2', volume: '0.012' },
  'PM-15': { weight: '2.9', volume: '0.009', prices: [{ from: '5', price: '1290' }] },
  'SALT-25': {
    units: { pallet: '40' },
    weight: '25',
    volume: '0.021',
    prices: [
      { group: 'Growers', price: '26.9' },
      { customer: 'Kasturi Bottling', price: '26.4', days: [-120, 245] },
    ],
  },
  'HY-25': { weight: '29.5', volume: '0.031', permit: true },
  'GAC-25': {
    units: { pallet: '36' },
    weight: '25',
    volume: '0.052',
    market: { factor: '0.025', surcharge: '14.5', margin: '32' },
  },
};

/** Lays what the order desk prices and checks by: units, prices, freight, a market series, credit limits, permits. */
export function layDesk(database: Database, masters: Masters, workDate: Day, seed: number): Promise<void> {
  return database.transaction(async (tx) => {
    const company = { companyId: masters.companyId };
    await tx.insertPlain(
      freightBandTable,
      FREIGHT.map((band) => ({ ...company, ...band })),
    );
    const groupIds = await tx.insert(
      priceGroupTable,
      PRICE_GROUPS.map((name) => ({ ...company, name })),
    );
    const [permitTypeId] = await tx.insert(permitTypeTable, [{ ...company, name: 'handling permit' }]);
    const [seriesId] = await tx.insert(marketSeriesTable, [{ ...company, name: SERIES.name, unit: SERIES.unit }]);
    await tx.insertPlain(
      marketValueTable,
      marketValues(workDate, seed).map((each) => ({ ...company, seriesId: seriesId!, ...each })),
    );
    const groupOf = (name: (typeof PRICE_GROUPS)[number]) => groupIds[PRICE_GROUPS.indexOf(name)]!;
    await tx.insert(
      allowanceTable,
      ALLOWANCES.map(({ group, ...allowance }) => ({ ...company, priceGroupId: groupOf(group), ...allowance })),
    );
    await layItems(tx, masters, { groupOf, permitTypeId: permitTypeId!, seriesId: seriesId!, workDate });
    for (const party of ['customer', 'vendor'] as const) {
      // One mailbox each, at a place that is nobody's.
      await tx.run(
        `UPDATE ${party} SET email = CONCAT('${party === 'customer' ? 'stores' : 'sales'}@', LOWER(REPLACE(name, ' ', '-')), '.example')
          WHERE company_id = ?`,
        [masters.companyId],
      );
    }
    for (const [name, desk] of Object.entries(CUSTOMERS)) {
      const { id, shipTos } = masters.customers.get(name)!;
      await tx.run(
        'UPDATE customer SET credit_limit = ?, price_group_id = ?, delivered_prices = ?, price_of = ? WHERE company_id = ? AND id = ?',
        [
          desk.creditLimit ?? null,
          desk.priceGroup ? groupOf(desk.priceGroup) : null,
          desk.deliveredTo !== undefined,
          desk.priceOfShipDate ? 'ship' : 'order',
          masters.companyId,
          id,
        ],
      );
      await tx.run('UPDATE ship_to SET zone = ? WHERE company_id = ? AND id IN (?)', [
        desk.deliveredTo ?? '',
        masters.companyId,
        shipTos,
      ]);
      await tx.insertPlain(
        customerItemTable,
        Object.entries(desk.calls ?? {}).map(([item, number]) => ({
          ...company,
          customerId: id,
          itemId: masters.items.get(item)!.id,
          number,
        })),
      );
      if (!desk.permit) continue;
      const [number, from, to] = desk.permit;
      const days = { firstDay: addDays(workDate, from), lastDay: addDays(workDate, to) };
      await tx.insert(permitTable, [{ ...company, permitTypeId: permitTypeId!, customerId: id, number, ...days }]);
    }
  });
}

interface Made {
  groupOf(name: (typeof PRICE_GROUPS)[number]): number;
  permitTypeId: number;
  seriesId: number;
  workDate: Day;
}

async function layItems(tx: Tx, masters: Masters, { groupOf, permitTypeId, seriesId, workDate }: Made): Promise<void> {
  const company = { companyId: masters.companyId };
  for (const [number, desk] of Object.entries(ITEMS)) {
    const itemId = masters.items.get(number)!.id;
    await tx.run(
      `UPDATE item SET weight = ?, volume = ?, pack_size = ?, split_charge = ?, permit_type_id = ?, cost_basis = ?,
              cost_series_id = ?, cost_factor = ?, cost_surcharge = ?, cost_margin = ? WHERE company_id = ? AND id = ?`,
      [
        desk.weight,
        desk.volume,
        desk.pack?.[0] ?? '0',
        desk.pack?.[1] ?? '0',
        desk.permit ? permitTypeId : null,
        desk.market ? 'series' : null,
        desk.market ? seriesId : null,
        desk.market?.factor ?? '1',
        desk.market?.surcharge ?? '0',
        desk.market?.margin ?? '0',
        masters.companyId,
        itemId,
      ],
    );
    await tx.insertPlain(
      itemUnitTable,
      Object.entries(desk.units ?? {}).map(([unit, factor]) => ({ ...company, itemId, unit, factor })),
    );
    const [{ unit: own }] = (await tx.rows<{ unit: string }>('SELECT unit FROM item WHERE company_id = ? AND id = ?', [
      masters.companyId,
      itemId,
    ])) as [{ unit: string }];
    await tx.insert(
      priceRuleTable,
      (desk.prices ?? []).map((price) => ({
        ...company,
        itemId,
        customerId: price.customer ? masters.customers.get(price.customer)!.id : null,
        priceGroupId: price.group ? groupOf(price.group) : null,
        currency: 'MYR',
        unit: price.unit ?? own,
        firstDay: price.days ? addDays(workDate, price.days[0]) : null,
        lastDay: price.days ? addDays(workDate, price.days[1]) : null,
        fromQuantity: price.from ?? '0',
        price: price.price,
      })),
    );
  }
}

/** A market price for each Monday of a year and a half up to the work date, wandering by its seed. */
function marketValues(workDate: Day, seed: number): { day: Day; value: string }[] {
  const chance = chanceOf(seed + 77);
  let value = SERIES.start;
  return Array.from({ length: 78 }, (_, week) => {
    value = Math.max(4200, value + chance.whole(-90, 95));
    return { day: addDays(workDate, (week - 77) * 7), value: String(value) };
  });
}

/** An order being typed, each line priced from another source: what the build-up of a price is shown of. // R4 */
export async function typePricedOrder(actor: Actor, masters: Masters, workDate: Day): Promise<void> {
  const customer = masters.customers.get('Rumah Hijau Growers')!;
  const line = (item: string, quantity: string, more: Record<string, string> = {}) => ({
    id: null,
    itemId: masters.items.get(item)!.id,
    quantity,
    shipDate: addDays(workDate, 10),
    route: 'stock',
    agreementLineId: null,
    ...more,
  });
  await actor.does(
    'saveOrder',
    {
      id: null,
      version: null,
      customerId: customer.id,
      shipToId: customer.shipTos[0],
      customerReference: 'RHG-118',
      lines: [
        line('FC-10', '130', { discount: '3' }),
        line('FC-10', '4', { unit: 'box' }),
        line('SALT-25', '1', { unit: 'pallet' }),
        line('GAC-25', '10'),
        line('PM-15', '1', { price: '1250' }),
      ],
    },
    workDate,
  );
}
