import type * as z from 'zod';
import { addDays, Calendar, groupedBy, pointOf, shiftsOf, weekdayOf, type Day } from '@core/kernel';
import { Centre, check, wayOf } from '@core/promise';
import type * as contract from '@api/promise';
import { orNotFound } from '../../acts';
import { locationsOf, NUMBER_AT } from '../../catalogue';
import { PAGE_ROWS, type Sql, type Columns } from '../../db';
import { promisedLines } from './acts';
import { besidesHours, groundRows, heldByRunning } from '../ground/ground';
import type { PlannedComponent, PlannedOrder } from '../tables';
import type { Item, WorkCentre } from '../../catalogue/tables';

/** What comes and goes of one item at each location, without what it is made of. // T1 T2 */
export async function openAvailability(
  sql: Sql,
  companyId: number,
  workDate: Day,
  itemId: number,
  line?: number,
): Promise<z.infer<typeof contract.openAvailability.out>> {
  const [item] = await sql.rows<{ id: number }>('SELECT id FROM item WHERE company_id = ? AND id = ?', [
    companyId,
    itemId,
  ]);
  orNotFound(item, 'This item');
  const places = await locationsOf(sql, companyId);
  const points = places.map(({ id }) => pointOf(itemId, id));
  const rows = await groundRows(sql, companyId, workDate, points, {
    without: line === undefined ? [] : [line],
    below: false,
  });
  return { ...rows, places, own: line === undefined ? null : await promisedOf(sql, companyId, line) };
}

/** What was promised of a line, and what is planned for it: left out of its availability, and told beside it. // T8 */
async function promisedOf(sql: Sql, companyId: number, lineId: number) {
  const [line] = await sql.rows<{ day: Day | null }>(
    'SELECT promised_date AS day FROM sales_order_line WHERE company_id = ? AND id = ?',
    [companyId, lineId],
  );
  const planned = await sql.rows<{ number: string; quantity: string; day: Day }>(
    `SELECT p.number, t.quantity - t.made AS quantity, p.due_date AS day FROM planned_tie t
       JOIN planned_order p ON p.company_id = t.company_id AND p.id = t.planned_order_id AND p.open
      WHERE t.company_id = ? AND t.order_line_id = ? ORDER BY p.due_date, p.id`,
    [companyId, lineId],
  );
  return line?.day ? { day: line.day, planned } : null;
}

export async function openPromiseGround(
  sql: Sql,
  companyId: number,
  workDate: Day,
  orderId: number,
): Promise<z.infer<typeof contract.openPromiseGround.out>> {
  const [order] = await sql.rows<{ id: number; number: string; version: number; state: string }>(
    'SELECT id, number, version, state FROM sales_order WHERE company_id = ? AND id = ?',
    [companyId, orderId],
  );
  const lines = await promisedLines(sql, companyId, orNotFound(order, 'This sales order').id);
  return {
    order: order!,
    rows: await groundRows(
      sql,
      companyId,
      workDate,
      lines.map((line) => line.point),
      { without: lines.map((line) => line.id) },
    ),
    lines: lines.map((line) => ({
      id: line.id,
      lineNo: line.lineNo,
      item: { id: line.itemId, number: line.number, name: line.name, unit: line.unit },
      point: line.point,
      straight: line.straight,
      own: line.own,
      quantity: line.quantity,
      asked: line.asked,
      shipDate: line.shipDate,
      promised: line.promisedDate,
      method: line.promiseMethod,
      way: line.promisedBy,
      planned: line.planned,
    })),
  };
}

/** What promises of lines that are only typed stand on. The lines of an order they are typed over ask for nothing. // T10 */
export async function tryPromise(
  sql: Sql,
  companyId: number,
  workDate: Day,
  { orderId, lines }: z.infer<typeof contract.tryPromise.body>,
): Promise<z.infer<typeof contract.tryPromise.out>> {
  const own = orderId === null ? [] : (await promisedLines(sql, companyId, orderId)).map(({ id }) => id);
  const items = await sql.rows<Columns<Item, 'id number name unit promiseMethod'>>(
    'SELECT id, number, name, unit, promise_method FROM item WHERE company_id = ? AND id IN (?)',
    [companyId, lines.map(({ itemId }) => itemId)],
  );
  const places = new Set((await locationsOf(sql, companyId)).map(({ id }) => id));
  const asked = lines.flatMap((line, at) => {
    const item = items.find(({ id }) => id === line.itemId);
    const day = line.asked ?? workDate;
    if (!item || !places.has(line.locationId)) return [];
    const { id, number, name, unit } = item;
    return [
      {
        id: at + 1,
        lineNo: at + 1,
        item: { id, number, name, unit },
        point: pointOf(id, line.locationId),
        straight: line.straight,
        own: line.own ?? false,
        quantity: line.quantity,
        asked: day,
        shipDate: day,
        promised: null,
        method: item.promiseMethod,
        way: null,
        planned: 0,
      },
    ];
  });
  return {
    order: { id: 0, number: '', version: 0, state: 'draft' },
    rows: await groundRows(
      sql,
      companyId,
      workDate,
      asked.map(({ point }) => point),
      { without: own },
    ),
    lines: asked,
  };
}

/** When the lines of an order could be had, every way; each as its item is promised where nothing was chosen. // T10 */
export async function checkPromise(
  sql: Sql,
  companyId: number,
  workDate: Day,
  orderId: number,
): Promise<z.infer<typeof contract.checkPromise.out>> {
  const { rows, lines } = await openPromiseGround(sql, companyId, workDate, orderId);
  const asks = lines.map((line) => ({
    key: String(line.id),
    itemId: line.point,
    quantity: line.quantity,
    asked: line.asked,
    straight: line.straight,
    own: line.own,
    way: line.straight || line.own ? ('lead' as const) : (line.way ?? wayOf(line.method) ?? 'atp'),
  }));
  return { lines: check(rows, asks) };
}

type PlannedColumns = Columns<
  PlannedOrder,
  'id version number kind state itemId quantity finished scrapped held startDate dueDate parentId'
> & {
  itemNumber: string;
  itemName: string;
  unit: string;
  vendor: string | null;
  orderId: number | null;
  orderNumber: string | null;
  customer: string | null;
  parentNumber: string | null;
  parentKind: 'make' | 'assemble' | null;
  purchaseId: number | null;
  purchaseNumber: string | null;
  lineCount: number;
};

const PLANNED = `SELECT p.id, p.version, p.number, p.kind, p.state, p.item_id,
       ${NUMBER_AT} AS item_number, i.name AS item_name, i.unit,
       p.quantity, p.finished, p.scrapped, p.held, p.start_date, p.due_date, v.name AS vendor, o.id AS order_id, o.number AS order_number,
       c.name AS customer, p.parent_id, u.number AS parent_number, u.kind AS parent_kind,
       po.id AS purchase_id, po.number AS purchase_number,
       (SELECT COUNT(*) FROM planned_tie f WHERE f.company_id = p.company_id AND f.planned_order_id = p.id) AS line_count
  FROM planned_order p
  JOIN item i ON i.company_id = p.company_id AND i.id = p.item_id
  JOIN location lo ON lo.company_id = p.company_id AND lo.id = p.location_id
  LEFT JOIN vendor v ON v.company_id = p.company_id AND v.id = p.vendor_id
  LEFT JOIN planned_tie t ON t.company_id = p.company_id AND t.id = (SELECT MIN(f.id) FROM planned_tie f
       WHERE f.company_id = p.company_id AND f.planned_order_id = p.id)
  LEFT JOIN sales_order_line l ON l.company_id = t.company_id AND l.id = t.order_line_id
  LEFT JOIN sales_order o ON o.company_id = l.company_id AND o.id = l.order_id
  LEFT JOIN customer c ON c.company_id = o.company_id AND c.id = o.customer_id
  LEFT JOIN planned_order u ON u.company_id = p.company_id AND u.id = p.parent_id
  LEFT JOIN purchase_order_line pl ON pl.company_id = p.company_id AND pl.id = p.purchase_line_id
  LEFT JOIN purchase_order po ON po.company_id = pl.company_id AND po.id = pl.purchase_order_id`;

function plannedOf(row: PlannedColumns) {
  const parent = row.parentId !== null && {
    kind: row.parentKind === 'make' ? 'PR' : 'AS',
    id: row.parentId,
    number: row.parentNumber!,
    party: '',
  };
  return {
    id: row.id,
    number: row.number,
    kind: row.kind,
    state: row.state,
    version: row.version,
    item: { id: row.itemId, number: row.itemNumber, name: row.itemName, unit: row.unit },
    quantity: row.quantity,
    finished: row.finished,
    scrapped: row.scrapped,
    start: row.startDate,
    due: row.dueDate,
    vendor: row.vendor,
    for:
      row.orderId === null
        ? parent || null
        : { kind: 'SO', id: row.orderId, number: row.orderNumber!, party: row.customer! },
    alsoFor: Math.max(0, row.lineCount - 1),
    purchase: row.purchaseId === null ? null : { kind: 'PO' as const, id: row.purchaseId, number: row.purchaseNumber! },
  };
}

/** What is planned, soonest first. Walks planned_order_open; the cursor is the due date and id of the last row. */
export async function listPlanned(
  sql: Sql,
  companyId: number,
  { cursor, rows: most = PAGE_ROWS }: { cursor?: string | undefined; rows?: number | undefined },
): Promise<z.infer<typeof contract.listPlanned.out>> {
  const after = /^(\d{4}-\d\d-\d\d)\.(\d{1,10})$/.exec(cursor ?? '');
  const [day, id] = after ? [after[1]!, Number(after[2])] : ['1000-01-01', 0];
  const rows = await sql.rows<PlannedColumns>(
    `${PLANNED} WHERE p.company_id = ? AND p.open = TRUE AND (p.due_date > ? OR (p.due_date = ? AND p.id > ?))
      ORDER BY p.due_date, p.id LIMIT ?`,
    [companyId, day, day, id, most + 1],
  );
  const shown = rows.slice(0, most);
  const last = shown.at(-1);
  return { rows: shown.map(plannedOf), next: rows.length > most ? `${last!.dueDate}.${last!.id}` : null };
}

export async function openPlanned(
  sql: Sql,
  companyId: number,
  id: number,
): Promise<z.infer<typeof contract.openPlanned.out>> {
  const [row] = await sql.rows<PlannedColumns>(`${PLANNED} WHERE p.company_id = ? AND p.id = ?`, [companyId, id]);
  const order = orNotFound(row, 'This planned order');
  const components = await sql.rows<
    Columns<PlannedComponent, 'itemId quantity covered neededOn'> & {
      number: string;
      name: string;
      unit: string;
    }
  >(
    `SELECT k.item_id, i.number, i.name, i.unit, k.quantity, k.covered, k.needed_on FROM planned_component k
       JOIN item i ON i.company_id = k.company_id AND i.id = k.item_id
      WHERE k.company_id = ? AND k.planned_order_id = ? ORDER BY k.id`,
    [companyId, id],
  );
  const operations = await sql.rows<{
    no: number;
    name: string;
    centre: string;
    minutes: number;
    firstDay: Day;
    lastDay: Day;
  }>(
    `SELECT o.no, o.name, w.name AS centre, o.minutes, o.first_day AS firstDay, o.last_day AS lastDay
       FROM planned_operation o JOIN work_centre w ON w.company_id = o.company_id AND w.id = o.work_centre_id
      WHERE o.company_id = ? AND o.planned_order_id = ? ORDER BY o.no`,
    [companyId, id],
  );
  const below = await sql.rows<PlannedColumns>(`${PLANNED} WHERE p.company_id = ? AND p.parent_id = ? ORDER BY p.id`, [
    companyId,
    id,
  ]);
  return {
    ...plannedOf(order),
    held: order.held,
    components: components.map((each) => ({
      item: { id: each.itemId, number: each.number, name: each.name, unit: each.unit },
      quantity: each.quantity,
      covered: each.covered,
      neededOn: each.neededOn,
    })),
    operations,
    below: below.map(plannedOf),
  };
}

/** Work centres by day: what they can do, what they have to do, and for which orders. Walks the key of centre_hold. */
export async function openLoad(
  sql: Sql,
  companyId: number,
  workDate: Day,
  days = 42,
): Promise<z.infer<typeof contract.openLoad.out>> {
  const centres = await sql.rows<Columns<WorkCentre, 'id code name machines calendarId hours'> & { week: string }>(
    `SELECT w.id, w.code, w.name, w.machines, w.hours, w.calendar_id, k.week FROM work_centre w
       JOIN calendar k ON k.company_id = w.company_id AND k.id = w.calendar_id WHERE w.company_id = ? ORDER BY w.code`,
    [companyId],
  );
  const last = addDays(workDate, days - 1);
  const holidays = await sql.rows<{ calendarId: number; day: Day }>(
    'SELECT calendar_id, day FROM holiday WHERE company_id = ? AND day BETWEEN ? AND ?',
    [companyId, workDate, last],
  );
  const centreIds = centres.map((centre) => centre.id);
  const waiting = await sql.rows<{ centreId: number; day: Day; minutes: string; orderId: number }>(
    `SELECT l.work_centre_id AS centre_id, l.day, SUM(l.minutes) AS minutes, p.id AS order_id
       FROM centre_hold l
       JOIN planned_operation o ON o.company_id = l.company_id AND o.id = l.planned_operation_id
       JOIN planned_order p ON p.company_id = o.company_id AND p.id = o.planned_order_id AND p.open AND p.state <> 'running'
      WHERE l.company_id = ? AND l.work_centre_id IN (?) AND l.day BETWEEN ? AND ?
      GROUP BY l.work_centre_id, l.day, p.id`,
    [companyId, centreIds, workDate, last],
  );
  // What is done of those that run is no load any more. // T5
  const running = (await heldByRunning(sql, companyId, workDate, centreIds)).map((row) => ({
    centreId: row.centreId,
    day: row.day,
    orderId: row.orderId,
    minutes: (row.until - row.from) * row.machines,
  }));
  const load = [...waiting.map((row) => ({ ...row, minutes: Number(row.minutes) })), ...running].filter(
    ({ day }) => day <= last,
  );
  const orders = await sql.rows<{ id: number; kind: 'make' | 'assemble'; number: string; item: string }>(
    `SELECT p.id, p.kind, p.number, i.number AS item FROM planned_order p
       JOIN item i ON i.company_id = p.company_id AND i.id = p.item_id WHERE p.company_id = ? AND p.id IN (?)`,
    [companyId, [...new Set(load.map(({ orderId }) => orderId))]],
  );
  const orderOf = new Map(orders.map((order) => [order.id, order]));
  const minutesOf = groupedBy(load, ({ centreId, day }) => `${centreId} ${day}`);
  const { out, overtime } = await besidesHours(sql, companyId, centreIds, workDate, last);
  return {
    centres: centres.map((centre) => {
      const closed = holidays.filter((row) => row.calendarId === centre.calendarId).map((row) => row.day);
      const calendar = new Calendar(workDate, days, { week: centre.week, holidays: closed });
      const of = <Each extends { centreId: number; day: Day }>(rows: readonly Each[], day: number) =>
        rows.filter((row) => row.centreId === centre.id && row.day === addDays(workDate, day));
      const own = new Map(
        Array.from({ length: days }, (_, day) => [
          day,
          { overtime: of(overtime, day), out: of(out, day).reduce((sum, row) => sum + row.machines, 0), taken: [] },
        ]),
      );
      const open = new Centre(centre.machines, shiftsOf(centre.hours), calendar, weekdayOf(workDate), own);
      return {
        id: centre.id,
        code: centre.code,
        name: centre.name,
        days: Array.from({ length: days }, (_, at) => {
          const day = addDays(workDate, at);
          const on = [...groupedBy(minutesOf.get(`${centre.id} ${day}`) ?? [], ({ orderId }) => orderId)]
            .map(([orderId, rows]) => ({
              ...orderOf.get(orderId)!,
              minutes: rows.reduce((sum, row) => sum + row.minutes, 0),
            }))
            .sort((a, b) => a.id - b.id);
          return {
            day,
            capacity: open.freeOn(at),
            minutes: on.reduce((sum, row) => sum + row.minutes, 0),
            orders: on.map((row) => ({
              id: row.id,
              kind: row.kind === 'make' ? 'PR' : 'AS',
              number: row.number,
              minutes: row.minutes,
              item: row.item,
            })),
          };
        }),
      };
    }),
  };
}
