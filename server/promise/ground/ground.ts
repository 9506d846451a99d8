import {
  addDays,
  daysBetween,
  dec,
  itemAt,
  locationAt,
  MAIN_LOCATION,
  numberAt,
  pointOf,
  shiftsOf,
  weekdayOf,
  type Day,
} from '@core/kernel';
import { stillHeld, type GroundRows, type ItemRow, type LoadRow } from '@core/promise';
import { APPROVED, calendarsOf, locationsOf, OWN_PRICE } from '../../catalogue';
import type { Sql, Columns } from '../../db';
import { demandsOf, itemsAt, suppliesOf } from './moves';
import { plannedFor, plannedForAll } from '../asking/planned-for';
import type { BomLine, Item, ItemVendor, RoutingOperation, WorkCentre } from '../../catalogue/tables';
import type { Stock } from '../../stock/tables';

/** Days that are looked at: two years. */
export const HORIZON = 730;

/** What of the ground is wanted. */
export interface Wanted {
  /** Lines that ask anew: their demand, and what is planned for them, are left out; or every open line that is promised. */
  without?: readonly number[] | 'all';
  /** Whether what the items are made of is wanted too; it is where nothing is said. */
  below?: boolean;
  /** Planned orders that are laid anew: what they bring, need and hold is left out. */
  anew?: readonly number[];
  /** Work centres that are wanted besides those of the routings. */
  centreIds?: readonly number[];
  /** Special orders that wait on the bench are bought there, each for itself: no demand for planning. */
  benchLeftOut?: boolean;
}

/**
 * All that promises of some items at locations (points) stand on: the items and all they are made of, their stock, what comes and goes, the
 * centres and what they have to do. // T1
 * Some fourteen queries, one more for each level of the BOMs; each walks a key of the items it is about.
 */
export async function groundRows(
  sql: Sql,
  companyId: number,
  workDate: Day,
  points: readonly number[],
  { without: lines = [], anew = [], below = true, centreIds: besides = [], benchLeftOut = false }: Wanted = {},
): Promise<GroundRows> {
  const { ids, components } = below ? await madeOf(sql, companyId, points) : { ids: points, components: [] };
  const planned = lines === 'all' ? await plannedForAll(sql, companyId) : await plannedFor(sql, companyId, lines);
  const leftOut = [...planned, ...anew];
  const operations = await sql.rows<
    Columns<RoutingOperation, 'itemId no name workCentreId setupMinutes runMinutes parallel firstDay lastDay'>
  >(
    `SELECT item_id, no, name, work_centre_id, setup_minutes, run_minutes, parallel, first_day, last_day FROM routing_operation
      WHERE company_id = ? AND item_id IN (?)`,
    [companyId, below ? ids.filter(isMain) : []],
  );
  const centreIds = [...new Set([...operations.map((row) => row.workCentreId), ...besides])];
  const centres = await centreGround(sql, companyId, workDate, centreIds, leftOut);
  return {
    ...(await itemRows(sql, companyId, workDate, ids)),
    components,
    operations: operations.map((row) => ({
      itemId: row.itemId,
      no: row.no,
      name: row.name,
      centreId: row.workCentreId,
      setup: row.setupMinutes,
      run: row.runMinutes,
      parallel: row.parallel,
      firstDay: row.firstDay,
      lastDay: row.lastDay,
    })),
    ...centres,
    supplies: await suppliesOf(sql, companyId, ids, leftOut),
    demands: await demandsOf(sql, companyId, ids, { lines, works: leftOut, bench: benchLeftOut }),
  };
}

/** Work centres with what they have to do and their hours, but for what some orders laid there. // T5 */
async function centreGround(
  sql: Sql,
  companyId: number,
  workDate: Day,
  centreIds: readonly number[],
  leftOut: readonly number[],
): Promise<Pick<GroundRows, 'centres' | 'load' | 'overtime' | 'out'>> {
  const centres = await sql.rows<Columns<WorkCentre, 'id code name machines calendarId hours'>>(
    'SELECT id, code, name, machines, calendar_id, hours FROM work_centre WHERE company_id = ? AND id IN (?)',
    [companyId, centreIds],
  );
  const load = await sql.rows<LoadRow>(
    `SELECT l.work_centre_id AS centreId, l.day, l.from_minute AS \`from\`, l.until_minute AS until, l.machines
       FROM centre_hold l JOIN planned_operation o ON o.company_id = l.company_id AND o.id = l.planned_operation_id
       JOIN planned_order p ON p.company_id = o.company_id AND p.id = o.planned_order_id AND p.open AND p.state <> 'running'
      WHERE l.company_id = ? AND l.work_centre_id IN (?) AND l.day >= ? AND o.planned_order_id NOT IN (?)`,
    [companyId, centreIds, workDate, leftOut],
  );
  const begun = await heldByRunning(sql, companyId, workDate, centreIds);
  return {
    centres: centres.map(({ hours, ...centre }) => ({ ...centre, shifts: shiftsOf(hours) })),
    load: [...load, ...begun],
    ...(await besidesHours(sql, companyId, centreIds, workDate, addDays(workDate, HORIZON - 1))),
  };
}

/** The centres on which what is left of an order is laid again, from one of its operations on: without what that holds. */
export async function restGround(
  sql: Sql,
  companyId: number,
  workDate: Day,
  { workId, centreIds, keptIds }: { workId: number; centreIds: readonly number[]; keptIds: readonly number[] },
): Promise<GroundRows> {
  const centres = await centreGround(sql, companyId, workDate, centreIds, [workId]);
  // A running order is among those that run, whole: what is kept of it stays.
  const own = await heldByRunning(sql, companyId, workDate, centreIds);
  const others = centres.load.filter((row) => !('orderId' in row) || row.orderId !== workId);
  const kept = own.filter(({ orderId, operationId }) => orderId === workId && keptIds.includes(operationId));
  return {
    ...(await itemRows(sql, companyId, workDate, [])),
    ...centres,
    load: [...others, ...kept],
    components: [],
    operations: [],
    supplies: [],
    demands: [],
  };
}

/** What orders that run still hold of their centres: what is done of them, they hold no more. // T5 */
export async function heldByRunning(sql: Sql, companyId: number, workDate: Day, centreIds: readonly number[]) {
  const rows = await sql.rows<
    LoadRow & { operationId: number; orderId: number; minutes: number; through: string; quantity: string }
  >(
    `SELECT o.id AS operationId, p.id AS orderId, o.minutes, o.done + o.scrapped AS through, p.quantity,
            l.work_centre_id AS centreId, l.day, l.from_minute AS \`from\`, l.until_minute AS until, l.machines
       FROM planned_order p
       JOIN planned_operation o ON o.company_id = p.company_id AND o.planned_order_id = p.id
       JOIN centre_hold l ON l.company_id = o.company_id AND l.planned_operation_id = o.id
      WHERE p.company_id = ? AND p.open = TRUE AND p.state = 'running' AND l.work_centre_id IN (?)
      ORDER BY o.id, l.day, l.from_minute`,
    [companyId, centreIds],
  );
  const done = rows.map((row) => [row.operationId, doneMinutes(row)] as const);
  return stillHeld(rows, new Map(done)).filter(({ day }) => day >= workDate);
}

/** Minutes of an operation that are done with the pieces that passed it. */
const doneMinutes = ({ minutes, through, quantity }: { minutes: number; through: string; quantity: string }) =>
  Math.round(Number(dec(minutes).times(through).div(quantity).toFixed()));

/** Items at locations, with the calendars and days their lead times are counted by; not what comes and goes. // T3 */
export async function itemRows(sql: Sql, companyId: number, workDate: Day, points: readonly number[]) {
  const [company] = await sql.rows<{ calendarId: number; receivingDays: number; safetyDays: number }>(
    'SELECT calendar_id, receiving_days, safety_days FROM company WHERE id = ?',
    [companyId],
  );
  const { calendarId: ownCalendarId, receivingDays, safetyDays } = company!;
  return {
    workDate,
    horizon: HORIZON,
    calendars: await calendarsOf(sql, companyId, workDate),
    ownCalendarId,
    receivingDays,
    safetyDays,
    items: await itemsOf(sql, companyId, points, workDate, ownCalendarId),
  };
}

/** Overtime of work centres and machines that are out, a row for each day from one to another. // T5 */
export async function besidesHours(
  sql: Sql,
  companyId: number,
  centreIds: readonly number[],
  from: Day,
  to: Day,
): Promise<Pick<GroundRows, 'overtime' | 'out'>> {
  interface Period {
    workCentreId: number;
    firstDay: Day;
    lastDay: Day;
  }
  const within = 'WHERE company_id = ? AND work_centre_id IN (?) AND first_day <= ? AND last_day >= ?';
  const values = [companyId, centreIds, to, from];
  const out = await sql.rows<Period & { machines: number }>(
    `SELECT work_centre_id, first_day, last_day, machines FROM centre_downtime ${within}`,
    values,
  );
  const overtime = await sql.rows<Period & { hours: string }>(
    `SELECT work_centre_id, first_day, last_day, hours FROM centre_overtime ${within}`,
    values,
  );
  const days = ({ workCentreId, firstDay, lastDay }: Period) => {
    const first = firstDay > from ? firstDay : from;
    return Array.from({ length: daysBetween(first, lastDay < to ? lastDay : to) + 1 }, (_, at) => ({
      centreId: workCentreId,
      day: addDays(first, at),
    }));
  };
  return {
    out: out.flatMap((row) => days(row).map((each) => ({ ...each, machines: row.machines }))),
    overtime: overtime.flatMap((row) =>
      days(row).flatMap((each) =>
        shiftsOf(row.hours)
          .filter(({ week }) => week[weekdayOf(each.day)] === '1')
          .map((shift) => ({ ...each, from: shift.from, until: shift.until })),
      ),
    ),
  };
}

/** Items with all they are made of, down to what is bought, a query for each level; a cycle ends the walk by itself. */
async function madeOf(sql: Sql, companyId: number, points: readonly number[]) {
  const ids = new Set(points);
  const components: GroundRows['components'][number][] = [];
  // What is made is made at the main location, of what is there.
  let level = [...ids].filter(isMain);
  while (level.length > 0) {
    const rows = await sql.rows<
      Columns<BomLine, 'itemId lineNo componentId quantity scrapPercent operationNo firstDay lastDay'>
    >(
      `SELECT item_id, line_no, component_id, quantity, scrap_percent, operation_no, first_day, last_day FROM bom_line
        WHERE company_id = ? AND item_id IN (?)`,
      [companyId, level],
    );
    level = [];
    for (const row of rows) {
      components.push(row);
      if (!ids.has(row.componentId)) level.push(row.componentId);
      ids.add(row.componentId);
    }
    level = [...new Set(level)];
  }
  return { ids: [...ids], components };
}

const isMain = (point: number) => locationAt(point) === MAIN_LOCATION;

/**
 * Items at locations as promising sees them. Anywhere but at the main location an item is only ever bought, and none of
 * it kept back.
 */
async function itemsOf(
  sql: Sql,
  companyId: number,
  points: readonly number[],
  day: Day,
  ownCalendar: number,
): Promise<ItemRow[]> {
  const ids = itemsAt(points);
  const items = await sql.rows<
    Columns<
      Item,
      'id number name unit obtained promiseMethod safetyStock lotMinimum lotMultiple phantom outOfUse makeDays'
    >
  >(
    `SELECT id, number, name, unit, obtained, promise_method, safety_stock, lot_minimum, lot_multiple, phantom, out_of_use, make_days
       FROM item WHERE company_id = ? AND id IN (?)`,
    [companyId, ids],
  );
  const stock = await sql.rows<Columns<Stock, 'itemId locationId onHand reserved'>>(
    'SELECT item_id, location_id, on_hand, reserved FROM stock WHERE company_id = ? AND item_id IN (?)',
    [companyId, ids],
  );
  const stockAt = new Map(stock.map((row) => [pointOf(row.itemId, row.locationId), row]));
  const elsewhere = points.some((point) => !isMain(point));
  const codes = new Map(elsewhere ? (await locationsOf(sql, companyId)).map(({ id, code }) => [id, code]) : []);
  // The preferred one first, then the cheapest, then the fastest; only who may sell it. // L8 L9
  const sellers = await sql.rows<
    Columns<ItemVendor, 'itemId leadDays minimum multiple'> & {
      vendorId: number;
      name: string;
      calendarId: number | null;
    }
  >(
    `SELECT iv.item_id, v.id AS vendor_id, v.name, iv.lead_days, v.calendar_id, iv.minimum, iv.multiple,
            ${OWN_PRICE} AS own_price
       FROM item_vendor iv JOIN vendor v ON v.company_id = iv.company_id AND v.id = iv.vendor_id
       JOIN item i ON i.company_id = iv.company_id AND i.id = iv.item_id
       LEFT JOIN item_group g ON g.company_id = i.company_id AND g.id = i.item_group_id
      WHERE iv.company_id = ? AND iv.item_id IN (?) AND ${APPROVED}
      ORDER BY iv.item_id, iv.preferred DESC, own_price IS NULL, own_price, iv.lead_days, v.id`,
    [day, companyId, ids, day, day],
  );
  const sellersOf = new Map<number, typeof sellers>();
  for (const seller of sellers) {
    const of = sellersOf.get(seller.itemId);
    if (of) of.push(seller);
    else sellersOf.set(seller.itemId, [seller]);
  }
  const byId = new Map(items.map((item) => [item.id, item]));
  return points.flatMap((point): ItemRow[] => {
    const row = byId.get(itemAt(point));
    if (!row) return [];
    const main = isMain(point);
    const bought = main || row.obtained === 'buy';
    return [
      {
        id: point,
        number: numberAt(row.number, locationAt(point), codes.get(locationAt(point)) ?? ''),
        name: row.name,
        unit: row.unit,
        obtained: bought ? row.obtained : 'none',
        method: row.promiseMethod,
        safetyStock: main ? row.safetyStock : '0',
        lotMinimum: row.lotMinimum,
        lotMultiple: row.lotMultiple,
        phantom: main && row.phantom,
        outOfUse: row.outOfUse,
        makeDays: row.makeDays,
        onHand: stockAt.get(point)?.onHand ?? '0',
        held: stockAt.get(point)?.reserved ?? '0',
        sellers: (sellersOf.get(row.id) ?? []).map((seller) => ({
          vendorId: seller.vendorId,
          name: seller.name,
          leadDays: seller.leadDays,
          calendarId: seller.calendarId ?? ownCalendar,
          minimum: seller.minimum,
          multiple: seller.multiple,
        })),
      },
    ];
  });
}
