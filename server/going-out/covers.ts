import { coverLines, type Coming, type Cover, type GoingLine } from '@core/going-out';
import { groupedBy, itemAt, pointOf, type Day } from '@core/kernel';
import type { Sql } from '../db';
import { demandsOf, KIND_OF_PLANNED, suppliesOf } from '../promise';

/** An open line of a confirmed order that leaves one of our places, as it is read. */
export interface OpenLine {
  id: number;
  itemId: number;
  locationId: number;
  shipDate: Day;
  open: string;
  reserved: string;
  route: GoingLine['route'];
}

interface OwnRead {
  lineId: number;
  quantity: string;
  day: Day;
  kind: string;
  id: number;
  number: string;
  party: string;
}

/**
 * What there is and comes for lines, whose items' claims are read up to the last of them. // S9
 * Five reads, each by the keys of the lines or of their items; none without lines.
 */
export async function coversOf(
  sql: Sql,
  companyId: number,
  workDate: Day,
  lines: readonly OpenLine[],
): Promise<Map<number, Cover>> {
  if (lines.length === 0) return new Map();
  const points = [...new Set(lines.map((line) => pointOf(line.itemId, line.locationId)))];
  const after = lines.reduce(
    (last, { shipDate, id }) =>
      shipDate > last.day || (shipDate === last.day && id > last.lineId) ? { day: shipDate, lineId: id } : last,
    { day: '', lineId: 0 },
  );
  const [free, own, claims, supplies] = [
    await freeAt(sql, companyId, points),
    await ownOf(
      sql,
      companyId,
      lines.map(({ id }) => id),
    ),
    await demandsOf(sql, companyId, points, { own: true, after }),
    await suppliesOf(sql, companyId, points, []),
  ];
  return coverLines({
    workDate,
    free,
    claims,
    supplies,
    lines: lines.map(({ id, itemId, locationId, reserved, ...line }) => ({
      id,
      ...line,
      point: pointOf(itemId, locationId),
      held: reserved,
      own: own.get(id) ?? [],
    })),
  });
}

async function freeAt(sql: Sql, companyId: number, points: readonly number[]): Promise<Map<number, string>> {
  const rows = await sql.rows<{ itemId: number; locationId: number; free: string }>(
    'SELECT item_id, location_id, on_hand - reserved AS free FROM stock WHERE company_id = ? AND item_id IN (?)',
    [companyId, [...new Set(points.map(itemAt))]],
  );
  return new Map(rows.map((row) => [pointOf(row.itemId, row.locationId), row.free]));
}

/** What comes for lines alone: of purchases on their ties, and of what is made, assembled or planned for them. */
async function ownOf(sql: Sql, companyId: number, lineIds: readonly number[]): Promise<Map<number, Coming[]>> {
  const rows = await sql.rows<OwnRead>(
    `SELECT t.order_line_id AS line_id, t.quantity - t.received AS quantity, pl.due_date AS day, 'PO' AS kind, p.id, p.number, v.name AS party
       FROM tie t
       JOIN purchase_order_line pl ON pl.company_id = t.company_id AND pl.id = t.purchase_line_id
       JOIN purchase_order p ON p.company_id = pl.company_id AND p.id = pl.purchase_order_id
       JOIN vendor v ON v.company_id = p.company_id AND v.id = p.vendor_id
      WHERE t.company_id = ? AND t.order_line_id IN (?) AND t.quantity > t.received
     UNION ALL
     SELECT pt.order_line_id, pt.quantity - pt.made, p.due_date, ${KIND_OF_PLANNED}, p.id, p.number, COALESCE(v.name, '')
       FROM planned_tie pt
       JOIN planned_order p ON p.company_id = pt.company_id AND p.id = pt.planned_order_id AND p.open
       LEFT JOIN vendor v ON v.company_id = p.company_id AND v.id = p.vendor_id
      WHERE pt.company_id = ? AND pt.order_line_id IN (?) AND pt.quantity > pt.made
      ORDER BY line_id, day, kind, id`,
    [companyId, lineIds, companyId, lineIds],
  );
  const coming = ({ quantity, day, kind, id, number, party }: OwnRead): Coming => ({
    quantity,
    day,
    by: { kind, id, number, party },
  });
  return new Map([...groupedBy(rows, ({ lineId }) => lineId)].map(([id, own]) => [id, own.map(coming)]));
}

/** How much could be assembled for each line as it goes, of the components that are free where its order is. // P5 */
export async function assembledNow(
  sql: Sql,
  companyId: number,
  lineIds: readonly number[],
): Promise<Map<number, string>> {
  if (lineIds.length === 0) return new Map();
  const rows = await sql.rows<{ lineId: number; quantity: string }>(
    `SELECT w.line_id, SUM(w.quantity) AS quantity FROM (
       SELECT pt.order_line_id AS line_id, LEAST(pt.quantity - pt.made, COALESCE(MIN(FLOOR(
                GREATEST(0, COALESCE(s.on_hand - s.reserved, 0)) * (p.quantity - p.finished - p.scrapped) / (k.quantity - k.used))),
                pt.quantity - pt.made)) AS quantity
         FROM planned_tie pt
         JOIN planned_order p ON p.company_id = pt.company_id AND p.id = pt.planned_order_id AND p.open AND p.kind = 'assemble'
         LEFT JOIN planned_component k ON k.company_id = p.company_id AND k.planned_order_id = p.id AND k.quantity > k.used
         LEFT JOIN stock s ON s.company_id = k.company_id AND s.item_id = k.item_id AND s.location_id = p.location_id
        WHERE pt.company_id = ? AND pt.order_line_id IN (?) AND pt.quantity > pt.made
        GROUP BY pt.id) w GROUP BY w.line_id`,
    [companyId, lineIds],
  );
  return new Map(rows.map((row) => [row.lineId, row.quantity]));
}
