import type { Day } from '@core/kernel';
import type { ItemPricing, OrderPricing } from '@core/orders';
import type { Allowance, PriceExtras, PriceRule, PriceSearch } from '@core/pricing';
import type { Sql, Columns } from '../db';
import { promotionsFor } from '../promotions';
import { CUSTOMER_CURRENCY, optionsOf, rateAt, rateOf } from '../catalogue';
import type { Item } from '../catalogue/tables';
import type { Allowance as AllowanceColumns } from './tables';

type ItemRow = Columns<
  Item,
  'id unit weight volume packSize splitCharge costBasis costSurcharge costMargin costFactor costOffset costSeriesId'
> & { series: string | null; rate: string | null; average: string | null; last: string | null };

/**
 * What the prices of items are made of, for one customer (null: for nobody in particular): units, the prices kept for
 * them, and the costs known. One reading by the items' keys for each kind.
 */
export async function pricingOf(
  sql: Sql,
  companyId: number,
  customerId: number | null,
  itemIds: readonly number[],
): Promise<Map<number, ItemPricing>> {
  const ids = [...new Set(itemIds)];
  if (ids.length === 0) return new Map();
  const [items, units, rules, options] = await Promise.all([
    sql.rows<ItemRow>(
      `SELECT i.id, i.unit, i.weight, i.volume, i.pack_size, i.split_charge, i.cost_basis, i.cost_surcharge, i.cost_margin,
              i.cost_factor, i.cost_offset, i.cost_series_id, ms.name AS series, ${rateOf(CUSTOMER_CURRENCY)} AS rate,
              IF(i.cost_basis = 'average', (SELECT ROUND(SUM(s.value) / SUM(s.on_hand), 4) FROM stock s
                 WHERE s.company_id = i.company_id AND s.item_id = i.id HAVING SUM(s.on_hand) > 0), NULL) AS average,
              IF(i.cost_basis = 'last', (SELECT ROUND(l.unit_price * (SELECT r.rate FROM receipt_line rl
                   JOIN receipt r ON r.company_id = rl.company_id AND r.id = rl.receipt_id
                  WHERE rl.company_id = l.company_id AND rl.purchase_line_id = l.id ORDER BY rl.id DESC LIMIT 1), 4)
                  FROM purchase_order_line l
                 WHERE l.company_id = i.company_id AND l.item_id = i.id AND l.received > 0 ORDER BY l.id DESC LIMIT 1), NULL) AS last
         FROM item i
         LEFT JOIN market_series ms ON ms.company_id = i.company_id AND ms.id = i.cost_series_id
        WHERE i.company_id = ? AND i.id IN (?)`,
      [customerId ?? 0, customerId ?? 0, companyId, ids],
    ),
    sql.rows<{ itemId: number; unit: string; factor: string }>(
      'SELECT item_id, unit, factor FROM item_unit WHERE company_id = ? AND item_id IN (?) ORDER BY factor',
      [companyId, ids],
    ),
    rulesFor(sql, companyId, customerId, ids),
    optionsOf(sql, companyId, customerId, ids),
  ]);
  const series = await seriesOf(
    sql,
    companyId,
    items.flatMap((item) => item.costSeriesId ?? []),
  );
  return new Map(
    items.map((item) => {
      const own = new Map([[item.unit, '1']]);
      for (const unit of units) if (unit.itemId === item.id) own.set(unit.unit, unit.factor);
      return [
        item.id,
        {
          units: own,
          rules: rules.flatMap((rule) => ruleOf(rule, item.id, own)),
          cost: costOf(item, series.get(item.costSeriesId ?? 0) ?? []),
          packSize: item.packSize,
          splitCharge: item.splitCharge,
          weight: item.weight,
          volume: item.volume,
          options: options.get(item.id) ?? [],
        },
      ];
    }),
  );
}

interface RuleRow {
  id: number;
  itemId: number;
  customer: string | null;
  priceGroup: string | null;
  currency: string;
  unit: string;
  firstDay: Day | null;
  lastDay: Day | null;
  fromQuantity: string;
  price: string;
}

/** The prices kept for items: the customer's own, their group's, everybody's. Served by price_rule_item. */
function rulesFor(sql: Sql, companyId: number, customerId: number | null, ids: readonly number[]): Promise<RuleRow[]> {
  const whose = [
    ['r.customer_id IS NULL AND r.price_group_id IS NULL', []],
    ...(customerId === null
      ? []
      : [
          ['r.customer_id = ?', [customerId]],
          [
            `r.customer_id IS NULL AND r.price_group_id =
               (SELECT price_group_id FROM customer WHERE company_id = ? AND id = ?)`,
            [companyId, customerId],
          ],
        ]),
  ] as [string, number[]][];
  return sql.rows<RuleRow>(
    whose
      .map(
        ([condition]) =>
          `SELECT r.id, r.item_id, c.name AS customer, g.name AS price_group, r.currency, r.unit, r.first_day, r.last_day,
                  r.from_quantity, r.price
             FROM price_rule r
             LEFT JOIN customer c ON c.company_id = r.company_id AND c.id = r.customer_id
             LEFT JOIN price_group g ON g.company_id = r.company_id AND g.id = r.price_group_id
            WHERE r.company_id = ? AND r.item_id IN (?) AND ${condition}`,
      )
      .join(' UNION ALL '),
    whose.flatMap(([, values]) => [companyId, ids, ...values]),
  );
}

/** A rule as prices are found by it; none where it is for a unit the item is not sold in any more. */
function ruleOf(row: RuleRow, itemId: number, units: ReadonlyMap<string, string>): PriceRule[] {
  const factor = units.get(row.unit);
  if (row.itemId !== itemId || factor === undefined) return [];
  const level = row.customer !== null ? 'customer' : row.priceGroup !== null ? 'group' : 'list';
  return [
    {
      id: row.id,
      level,
      source: row.customer ?? row.priceGroup ?? 'the list',
      currency: row.currency,
      unit: row.unit,
      factor,
      firstDay: row.firstDay,
      lastDay: row.lastDay,
      from: row.fromQuantity,
      price: row.price,
    },
  ];
}

/** Values of market series, latest first; the last three years of each. */
async function seriesOf(sql: Sql, companyId: number, ids: readonly number[]) {
  const values = new Map<number, { day: Day; value: string }[]>();
  if (ids.length === 0) return values;
  const rows = await sql.rows<{ seriesId: number; day: Day; value: string }>(
    `SELECT v.series_id, v.day, v.value FROM market_value v
      WHERE v.company_id = ? AND v.series_id IN (?) AND v.day > (SELECT MAX(n.day) FROM market_value n
        WHERE n.company_id = v.company_id AND n.series_id = v.series_id) - INTERVAL 3 YEAR ORDER BY v.day DESC`,
    [companyId, [...new Set(ids)]],
  );
  for (const row of rows) {
    const own = values.get(row.seriesId) ?? [];
    own.push({ day: row.day, value: row.value });
    values.set(row.seriesId, own);
  }
  return values;
}

function costOf(item: ItemRow, values: readonly { day: Day; value: string }[]): ItemPricing['cost'] {
  if (item.costBasis === null) return null;
  const held = item.costBasis === 'average' ? item.average : item.last;
  return {
    terms: {
      basis: item.costBasis,
      surcharge: item.costSurcharge,
      margin: item.costMargin,
      factor: item.costFactor,
      offset: item.costOffset,
    },
    series: item.series ?? '',
    rate: item.rate,
    known: (day) => (item.costBasis === 'series' ? (values.find((each) => each.day <= day)?.value ?? null) : held),
  };
}

/** What prices of a customer's order are found by. // R1 R2 R3 */
export async function orderPricing(
  sql: Sql,
  { companyId, personId }: { companyId: number; personId: number },
  customerId: number | null,
  orderDate: Day,
): Promise<OrderPricing> {
  const [promotions, [row], bands] = await Promise.all([
    promotionsFor(sql, companyId, customerId, orderDate),
    sql.rows<{ priceSearch: PriceSearch; priceOf: 'order' | 'ship' | null; who: string | null }>(
      `SELECT co.price_search, c.price_of, p.name AS who FROM company co
         LEFT JOIN customer c ON c.company_id = co.id AND c.id = ?
         LEFT JOIN person p ON p.id = ?
        WHERE co.id = ?`,
      [customerId ?? 0, personId, companyId],
    ),
    sql.rows<{ shipToId: number; zone: string; fromWeight: string; perKilogram: string | null }>(
      `SELECT st.id AS ship_to_id, f.zone, f.from_weight,
              ROUND(f.per_kilogram / ${rateAt('c.currency', 'c.company_id', '?')}, 4) AS per_kilogram
         FROM customer c
         JOIN ship_to st ON st.company_id = c.company_id AND st.customer_id = c.id
         JOIN freight_band f ON f.company_id = st.company_id AND f.zone = st.zone
        WHERE c.company_id = ? AND c.id = ? AND c.delivered_prices ORDER BY st.id, f.from_weight`,
      [orderDate, companyId, customerId ?? 0],
    ),
  ]);
  const freight = new Map<number, PriceExtras['freight'][number][]>();
  for (const band of bands) {
    // Without a rate, what freight costs in the customer's currency is not known.
    if (band.perKilogram === null) continue;
    const own = freight.get(band.shipToId) ?? [];
    own.push({ zone: band.zone, from: band.fromWeight, perKilogram: band.perKilogram });
    freight.set(band.shipToId, own);
  }
  return {
    search: row!.priceSearch,
    orderDate,
    byShipDate: row!.priceOf === 'ship',
    freight,
    who: row!.who ?? '',
    promotions,
  };
}

/** What may be allowed on invoices of a customer in a currency: their own, their group's, everybody's. // R2 */
export async function allowancesFor(
  sql: Sql,
  companyId: number,
  customerId: number,
  currency: string,
): Promise<Allowance[]> {
  const rows = await sql.rows<
    Columns<AllowanceColumns, 'measure fromMeasure perCent firstDay lastDay'> & {
      level: Allowance['level'];
    }
  >(
    `SELECT a.measure, IF(a.customer_id IS NOT NULL, 'customer', IF(a.price_group_id IS NOT NULL, 'group', 'list')) AS level,
            a.from_measure, a.per_cent, a.first_day, a.last_day
       FROM customer c
       JOIN allowance a ON a.company_id = c.company_id
        AND (a.customer_id = c.id OR a.customer_id IS NULL AND (a.price_group_id IS NULL OR a.price_group_id = c.price_group_id))
      WHERE c.company_id = ? AND c.id = ? AND (a.currency IS NULL OR a.currency = ?)`,
    [companyId, customerId, currency],
  );
  return rows.map((row) => ({
    measure: row.measure,
    level: row.level,
    from: row.fromMeasure,
    perCent: row.perCent,
    firstDay: row.firstDay,
    lastDay: row.lastDay,
  }));
}
