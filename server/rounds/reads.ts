import type * as z from 'zod';
import { runDays, runOf } from '@core/rounds';
import type { Day } from '@core/kernel';
import type * as contract from '@api/rounds';
import { orNotFound } from '../acts';
import { likeOf, type Columns, type Sql } from '../db';
import { listGoing } from '../going-out';
import type { DeliveryRound } from './tables';

type Shown = z.infer<typeof contract.RoundShown>;

/** Next days that are shown, and lines of one run at most. */
const DAYS = 3;
const MOST_LINES = 1000;
const PAGE = 200;

const ADDRESS = `SELECT s.id AS ship_to_id, c.id AS customer_id, c.name AS customer, s.label, s.town`;

/** Rounds in use with their stops, in the order they are driven. */
export async function roundsOf(sql: Sql, companyId: number, workDate: Day): Promise<Shown[]> {
  const rounds = await sql.rows<Columns<DeliveryRound, 'id version name week vehicle mostWeight mostVolume'>>(
    `SELECT id, version, name, week, vehicle, most_weight, most_volume FROM delivery_round
      WHERE company_id = ? AND out_of_use = FALSE ORDER BY name`,
    [companyId],
  );
  const stops = await sql.rows<{
    roundId: number;
    shipToId: number;
    customerId: number;
    customer: string;
    label: string;
    town: string;
  }>(
    `${ADDRESS}, r.round_id FROM round_stop r
       JOIN ship_to s ON s.company_id = r.company_id AND s.id = r.ship_to_id
       JOIN customer c ON c.company_id = s.company_id AND c.id = s.customer_id
      WHERE r.company_id = ? ORDER BY r.round_id, r.stop_no`,
    [companyId],
  );
  return rounds.map((round) => ({
    ...round,
    stops: stops.filter(({ roundId }) => roundId === round.id).map(stopOf),
    days: runDays(round.week, workDate, DAYS),
  }));
}

const stopOf = (row: { shipToId: number; customerId: number; customer: string; label: string; town: string }) => ({
  shipToId: row.shipToId,
  customer: { id: row.customerId, name: row.customer },
  label: row.label,
  town: row.town,
});

/** One round in use. */
export async function roundOf(sql: Sql, companyId: number, workDate: Day, id: number): Promise<Shown> {
  const rounds = await roundsOf(sql, companyId, workDate);
  return orNotFound(
    rounds.find((round) => round.id === id),
    'This round',
  );
}

/** What goes with a run: lines of its addresses that ship by its day, with what can go and what is loaded. // S11 */
export async function runLines(sql: Sql, companyId: number, workDate: Day, round: Shown, day: Day) {
  const addresses = new Set(round.stops.map(({ shipToId }) => shipToId));
  const customers = [...new Set(round.stops.map(({ customer }) => customer.id))];
  const rows: Awaited<ReturnType<typeof listGoing>>['rows'] = [];
  for (const customer of customers) {
    for (let cursor: string | undefined; rows.length < MOST_LINES;) {
      const query = { until: day, rows: PAGE, customer, ...(cursor ? { cursor } : {}) };
      const page = await listGoing(sql, companyId, workDate, query);
      rows.push(...page.rows.filter(({ shipTo }) => addresses.has(shipTo.id)));
      if (page.next === null) break;
      cursor = page.next;
    }
  }
  const ids = rows.map(({ lineId }) => lineId);
  const [items, loads] = await Promise.all([
    sql.rows<{ id: number; weight: string; volume: string }>(
      'SELECT id, weight, volume FROM item WHERE company_id = ? AND id IN (?)',
      [companyId, rows.map(({ item }) => item.id)],
    ),
    sql.rows<{ orderLineId: number; roundId: number; day: Day; quantity: string; name: string }>(
      `SELECT l.order_line_id, l.round_id, l.day, l.quantity, r.name FROM run_load l
         JOIN delivery_round r ON r.company_id = l.company_id AND r.id = l.round_id
        WHERE l.company_id = ? AND l.order_line_id IN (?) ${sql.forUpdate}`,
      [companyId, ids],
    ),
  ]);
  return rows.map((row) => {
    const item = items.find(({ id }) => id === row.item.id)!;
    const load = loads.find(({ orderLineId }) => orderLineId === row.lineId);
    const own = load !== undefined && load.roundId === round.id && load.day === day;
    return {
      ...row,
      shipToId: row.shipTo.id,
      weight: item.weight,
      volume: item.volume,
      loaded: own ? load.quantity : '0',
      elsewhere: load === undefined || own ? '' : `${load.name} on ${load.day}`,
    };
  });
}

/** The run of a round on a day. // S11 */
export async function runSheet(
  sql: Sql,
  companyId: number,
  workDate: Day,
  { id, day }: { id: number; day: Day },
): Promise<z.infer<typeof contract.runSheet.out>> {
  const round = await roundOf(sql, companyId, workDate, id);
  const lines = await runLines(sql, companyId, workDate, round, day);
  const run = runOf(
    round.stops.map(({ shipToId }) => shipToId),
    lines,
    round,
  );
  const shipped = await sql.rows<{ id: number; number: string; customer: string }>(
    `SELECT s.id, s.number, c.name AS customer FROM shipment s
       JOIN round_stop r ON r.company_id = s.company_id AND r.ship_to_id = s.ship_to_id AND r.round_id = ?
       JOIN customer c ON c.company_id = s.company_id AND c.id = s.customer_id
      WHERE s.company_id = ? AND s.posted_on = ? AND s.reverses_id IS NULL ORDER BY s.id LIMIT 100`,
    [id, companyId, day],
  );
  return {
    round,
    day,
    stops: run.stops.map((stop) => {
      const at = round.stops.findIndex(({ shipToId }) => shipToId === stop.shipToId);
      const own = lines.filter(({ lineId }) => stop.lineIds.includes(lineId));
      return {
        ...round.stops[at]!,
        stopNo: at + 1,
        weight: stop.weight,
        volume: stop.volume,
        over: stop.over,
        loaded: own.some(({ loaded }) => loaded !== '0'),
        lines: own.map((line) => ({
          lineId: line.lineId,
          order: line.order,
          lineNo: line.lineNo,
          reference: line.reference,
          item: line.item,
          byNumber: line.byNumber,
          shipDate: line.shipDate,
          open: line.open,
          now: line.now,
          loaded: line.loaded,
          weight: line.weight,
        })),
      };
    }),
    weight: run.weight,
    volume: run.volume,
    overWeight: run.overWeight,
    overVolume: run.overVolume,
    shipped: shipped.map(({ customer, ...shipment }) => ({ shipment: { kind: 'SH', ...shipment }, customer })),
  };
}

/** Addresses of customers, each with the round it is on. */
export async function roundAddresses(
  sql: Sql,
  companyId: number,
  words: string,
): Promise<z.infer<typeof contract.roundAddresses.out>> {
  const like = likeOf(words);
  const rows = await sql.rows<{
    shipToId: number;
    customerId: number;
    customer: string;
    label: string;
    town: string;
    round: string | null;
  }>(
    `${ADDRESS}, (SELECT d.name FROM round_stop r JOIN delivery_round d ON d.company_id = r.company_id AND d.id = r.round_id
        WHERE r.company_id = s.company_id AND r.ship_to_id = s.id) AS round
       FROM ship_to s JOIN customer c ON c.company_id = s.company_id AND c.id = s.customer_id
      WHERE s.company_id = ? AND (c.name LIKE ? OR s.label LIKE ? OR s.town LIKE ?) ORDER BY c.name, s.label LIMIT 12`,
    [companyId, like, like, like],
  );
  return { rows: rows.map((row) => ({ ...stopOf(row), round: row.round ?? '' })) };
}
