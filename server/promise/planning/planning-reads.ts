import type * as z from 'zod';
import { itemAt, locationAt, numberAt, type Day } from '@core/kernel';
import type * as contract from '@api/promise';
import { locationsOf } from '../../catalogue';
import type { Sql, Columns } from '../../db';
import { itemsAt } from '../ground/moves';
import { vendorsOf } from '../../supply';
import { freshnessOf } from '../runs/freshness';
import { actBy, type KeptPlanning } from '../runs/claimed-run';
import type { PromiseRun } from '../tables';
import type { Item } from '../../catalogue/tables';

/** Proposals that are shown where nothing else is asked for. */
const SHOWN = 500;
/** Demands that are named of a proposal. */
const NAMED = 12;

export type RunRow = Columns<PromiseRun, 'id state done total workDate itemIds found taken'> & { untilDay: Day };

export const RUN = 'id, state, done, total, work_date, until_day, item_ids, found, taken';

export type TakenOf = Record<string, { kind: string; id: number; number: string }>;

const NONE: KeptPlanning = { proposals: [], short: [], late: [], proposed: 0 };

export const foundOf = (run: RunRow): KeptPlanning =>
  run.state === 'done' ? { ...NONE, ...(JSON.parse(run.found) as KeptPlanning) } : NONE;

/** The last planning run, with what its proposals are about. */
export async function openPlanning(
  sql: Sql,
  companyId: number,
  most = SHOWN,
): Promise<z.infer<typeof contract.openPlanning.out>> {
  const [run] = await sql.rows<RunRow>(
    `SELECT ${RUN} FROM promise_run WHERE company_id = ? AND kind = 'plan' ORDER BY id DESC LIMIT 1`,
    [companyId],
  );
  const [company] = await sql.rows<{ byProbability: number }>(
    'SELECT plan_by_probability = TRUE AS by_probability FROM company WHERE id = ?',
    [companyId],
  );
  const byProbability = Boolean(company!.byProbability);
  if (!run) return { byProbability, run: null };
  const { proposals, short, late, proposed } = foundOf(run);
  const taken = JSON.parse(run.taken) as TakenOf;
  const shown = proposals
    .map((proposal, at) => ({ proposal, at }))
    .sort((a, b) => actBy(a.proposal).localeCompare(actBy(b.proposal)) || a.at - b.at)
    .slice(0, most);
  const missing = short.slice(0, most);
  const tooLate = late.slice(0, most);
  const chosen = JSON.parse(run.itemIds) as number[];
  const items = await sql.rows<Columns<Item, 'id number name unit obtained'>>(
    'SELECT id, number, name, unit, obtained FROM item WHERE company_id = ? AND id IN (?)',
    [
      companyId,
      [
        ...chosen,
        ...itemsAt([...shown.map(({ proposal }) => proposal), ...missing, ...tooLate].map((each) => each.itemId)),
      ],
    ],
  );
  const codes = new Map((await locationsOf(sql, companyId)).map(({ id, code }) => [id, code]));
  const itemOf = new Map(items.map((item) => [item.id, item]));
  const itemNamed = (point: number) => {
    const item = itemOf.get(itemAt(point));
    const location = locationAt(point);
    return item && { ...item, number: numberAt(item.number, location, codes.get(location) ?? '') };
  };
  const vendors = await vendorsOf(
    sql,
    companyId,
    shown.flatMap(({ proposal }) => (proposal.kind === 'place' ? (proposal.vendorId ?? []) : [])),
  );
  const vendorOf = new Map(vendors.map((vendor) => [vendor.id, vendor.name]));
  return {
    byProbability,
    run: {
      id: run.id,
      state: run.state,
      done: run.done,
      total: run.total,
      workDate: run.workDate,
      ...(await freshnessOf(sql, companyId, run.id)),
      until: run.untilDay,
      items: chosen.flatMap((id) => itemOf.get(id)?.number ?? []),
      proposed,
      proposals: shown.flatMap(({ proposal, at }) => {
        const item = itemNamed(proposal.itemId);
        if (!item) return [];
        const { obtained, ...about } = item;
        const place = proposal.kind === 'place' ? proposal : null;
        const there = proposal.kind === 'place' ? null : proposal;
        return [
          {
            at,
            kind: proposal.kind,
            obtained: place?.obtained ?? obtained,
            item: about,
            locationId: locationAt(proposal.itemId),
            quantity: proposal.quantity,
            source: there && { kind: there.source.kind, id: there.source.id, number: there.source.number },
            vendor: place ? (vendorOf.get(place.vendorId ?? 0) ?? '') : there!.source.party,
            start: place?.start ?? null,
            from: there?.from ?? null,
            to: proposal.kind === 'cancel' ? null : proposal.kind === 'move' ? proposal.to : proposal.due,
            neededOn: proposal.kind === 'cancel' ? null : proposal.neededOn,
            for: proposal.for.slice(0, NAMED).map(({ source, day, quantity }) => ({
              kind: source.kind,
              id: source.id,
              number: source.number,
              party: source.party,
              day,
              quantity,
            })),
            more: Math.max(0, proposal.for.length - NAMED),
            taken: taken[at] ?? null,
          },
        ];
      }),
      short: missing.map((each) => ({
        item: { id: itemAt(each.itemId), number: itemNamed(each.itemId)?.number ?? '' },
        quantity: each.quantity,
        day: each.day,
        why: SHORT_WORDS[each.why],
      })),
      late: tooLate.map((each) => ({
        item: { id: itemAt(each.itemId), number: itemNamed(each.itemId)?.number ?? '' },
        source: { kind: each.source.kind, id: each.source.id, number: each.source.number, party: each.source.party },
        quantity: each.quantity,
        comes: each.comes,
        neededOn: each.neededOn,
        for: each.for.slice(0, NAMED).map(({ source }) => source.number),
      })),
    },
  };
}

const SHORT_WORDS = {
  'nobody-sells': 'nobody sells it to us',
  'no-way': 'it is neither bought nor made',
  cycle: 'it goes into itself',
} as const;
