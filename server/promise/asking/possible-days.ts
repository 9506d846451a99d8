import type * as z from 'zod';
import { dec, isDay, isDecimalText, itemAt, MAIN_LOCATION, pointOf, type Day } from '@core/kernel';
import { possibleDays, type DayAsk, type Through } from '@core/promise';
import type * as contract from '@api/promise';
import { locationsOf, twinsOf } from '../../catalogue';
import type { Sql } from '../../db';
import { groundRows } from '../ground/ground';
import { promisedLines } from './acts';

/**
 * The first day typed lines can ship, and what is to be said of theirs; of what is made, all below it is looked at; of what
 * is bought of a sister company, what she says, where sisters are asked. // S10 X4
 */
export async function possibleDaysOf(
  sql: Sql,
  companyId: number,
  workDate: Day,
  { orderId, lines }: z.infer<typeof contract.possibleDays.body>,
  sisters: 'asked' | 'alone' = 'asked',
): Promise<z.infer<typeof contract.possibleDays.out>> {
  const own = orderId === null ? [] : (await promisedLines(sql, companyId, orderId)).map(({ id }) => id);
  const known = await sql.rows<{ id: number }>('SELECT id FROM item WHERE company_id = ? AND id IN (?)', [
    companyId,
    lines.map(({ itemId }) => itemId),
  ]);
  const items = new Set(known.map(({ id }) => id));
  const places = new Set((await locationsOf(sql, companyId)).map(({ id }) => id));
  const asks = lines.flatMap(({ itemId, locationId, quantity, asked, own: chosen, ...line }) =>
    items.has(itemId) && places.has(locationId) && isDecimalText(quantity, 'quantity') && dec(quantity).gt(0)
      ? [
          {
            ...line,
            quantity,
            // What comes from elsewhere than our place is asked of no place of ours.
            itemId: pointOf(itemId, line.route === 'drop' ? MAIN_LOCATION : locationId),
            asked: asked !== null && isDay(asked) ? asked : null,
            own: chosen ?? false,
          },
        ]
      : [],
  );
  const below = asks.some(({ route }) => route === 'make' || route === 'assemble');
  const points = asks.map(({ itemId }) => itemId);
  const rows = await groundRows(sql, companyId, workDate, points, { without: own, below });
  const sellers = new Map(rows.items.map(({ id, sellers: [first] }) => [id, first?.vendorId ?? null]));
  const through =
    sisters === 'alone'
      ? undefined
      : await throughSisters(
          sql,
          companyId,
          workDate,
          asks.map((ask) => ({ ...ask, item: itemAt(ask.itemId), vendorId: sellers.get(ask.itemId) ?? null })),
        );
  const days = possibleDays(rows, asks, through);
  return { lines: days.map((day, at) => ({ ...day, asked: asks[at]!.asked })) };
}

/** A sister company of this installation that sells to us. */
export interface SisterSeller {
  id: number;
  name: string;
  workDate: Day | null;
  /** Our working days that goods are on the way from her. */
  transitDays: number;
}

/** Which of vendors are sisters of this installation. Served by sister_vendor. */
export async function sisterSellers(
  sql: Sql,
  companyId: number,
  vendorIds: readonly number[],
): Promise<Map<number, SisterSeller>> {
  const rows = await sql.rows<SisterSeller & { vendorId: number }>(
    `SELECT s.vendor_id, c.id, c.name, c.work_date, s.transit_days FROM sister s
       JOIN company c ON c.id = s.sister_id AND c.elsewhere = FALSE
      WHERE s.company_id = ? AND s.vendor_id IN (?)`,
    [companyId, vendorIds],
  );
  return new Map(rows.map(({ vendorId, ...seller }) => [vendorId, seller]));
}

/** A line as a sister is asked for it: our item, in our unit. */
interface AskedOfSister {
  key: string;
  itemId: number;
  quantity: string;
  asked: Day | null;
}

/**
 * From when a sister could ship lines of ours, by what she has and makes, on her work date and her calendar; by key. Null
 * where she cannot say; nothing of items that are not paired. // T2 X4
 */
export async function sisterShips(
  sql: Sql,
  companyId: number,
  sister: Pick<SisterSeller, 'id' | 'workDate'>,
  workDate: Day,
  lines: readonly AskedOfSister[],
): Promise<Map<string, Day | null>> {
  const twins = await twinsOf(
    sql,
    companyId,
    sister.id,
    lines.map(({ itemId }) => itemId),
  );
  const asked = lines.flatMap(({ key, itemId, quantity, asked: day }) => {
    const twin = twins.get(itemId);
    if (!twin) return [];
    return [
      {
        key,
        itemId: twin.itemId,
        route: twin.route,
        locationId: MAIN_LOCATION,
        quantity: dec(dec(quantity).div(twin.factor).toFixed(5)).toFixed(),
        asked: day !== null && isDay(day) ? day : null,
      },
    ];
  });
  if (asked.length === 0) return new Map();
  const on = sister.workDate ?? workDate;
  // She is asked what she says herself, and no sister of hers.
  const found = await possibleDaysOf(sql, sister.id, on, { orderId: null, lines: asked }, 'alone');
  return new Map(found.lines.map(({ key, first }) => [key, first]));
}

/** What sisters say of lines that are bought of one, by the line's key. */
async function throughSisters(
  sql: Sql,
  companyId: number,
  workDate: Day,
  asks: readonly (Pick<DayAsk, 'key' | 'route' | 'quantity' | 'asked'> & { item: number; vendorId: number | null })[],
): Promise<Map<string, Through>> {
  const bought = asks.filter(({ route, vendorId }) => (route === 'drop' || route === 'special') && vendorId !== null);
  if (bought.length === 0) return new Map();
  const sellers = await sisterSellers(
    sql,
    companyId,
    bought.map(({ vendorId }) => vendorId!),
  );
  const through = new Map<string, Through>();
  for (const [vendorId, sister] of sellers) {
    const lines = bought
      .filter((ask) => ask.vendorId === vendorId)
      .map(({ key, item, quantity, asked }) => ({ key, itemId: item, quantity, asked }));
    const ships = await sisterShips(sql, companyId, sister, workDate, lines);
    for (const [key, day] of ships) {
      if (day !== null) through.set(key, { sister: sister.name, ships: day, transitDays: sister.transitDays });
    }
  }
  return through;
}
