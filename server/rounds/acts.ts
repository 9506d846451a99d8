import { decideLoad, decideRound, decideShipStop, runOf } from '@core/rounds';
import { dec } from '@core/kernel';
import { decided, refuse } from '@core/refusals';
import * as contract from '@api/rounds';
import { actNamed, defineAct, doWithin, type Doer } from '../acts';
import type { Sql, Tx } from '../db';
import { roundOf, runLines } from './reads';
import { deliveryRoundTable, roundStopTable, runLoadTable } from './tables';

/** Refuses what was typed over an older round: it has no number of its own, so it is looked at here. // G2 */
const changedMeanwhile = (version: number | null, now: number) =>
  version === now ? [] : [refuse('round-changed', '', {})];

async function writeStops(tx: Tx, companyId: number, roundId: number, stops: readonly number[]): Promise<void> {
  await tx.run('DELETE FROM round_stop WHERE company_id = ? AND round_id = ?', [companyId, roundId]);
  await tx.insertPlain(
    roundStopTable,
    stops.map((shipToId, at) => ({ companyId, roundId, stopNo: at + 1, shipToId })),
  );
}

/** A round made or changed. // S11 */
export const saveRound = defineAct(contract.saveRound, {
  right: 'goods',
  says: 'keep delivery rounds',
  done: 'round saved',
  async load(sql, input, { companyId, workDate }) {
    const was = input.id === null ? null : await roundOf(sql, companyId, workDate, input.id);
    const names = await sql.rows<{ name: string }>('SELECT name FROM delivery_round WHERE company_id = ? AND id <> ?', [
      companyId,
      input.id ?? 0,
    ]);
    const addresses = await sql.rows<{ id: number; label: string; roundId: number | null; round: string | null }>(
      `SELECT s.id, s.label, r.round_id, d.name AS round FROM ship_to s
         LEFT JOIN round_stop r ON r.company_id = s.company_id AND r.ship_to_id = s.id
         LEFT JOIN delivery_round d ON d.company_id = r.company_id AND d.id = r.round_id
        WHERE s.company_id = ? AND s.id IN (?)`,
      [companyId, input.stops],
    );
    return {
      was,
      names: names.map(({ name }) => name),
      addresses: new Map(
        addresses.map(({ id, label, roundId, round }) => [id, { label, round: roundId === input.id ? null : round }]),
      ),
    };
  },
  decide(ground, input) {
    const stale = ground.was ? changedMeanwhile(input.version, ground.was.version) : [];
    return stale.length > 0 ? { ok: false, refusals: stale } : decideRound(ground, input);
  },
  preview: ({ stops }) => ({ stops: stops.length }),
  async write(tx, { stops, ...saved }, { was }, { companyId }) {
    if (was) {
      await tx.run(
        `UPDATE delivery_round SET name = ?, week = ?, vehicle = ?, most_weight = ?, most_volume = ?, version = version + 1
          WHERE company_id = ? AND id = ?`,
        [saved.name, saved.week, saved.vehicle, saved.mostWeight, saved.mostVolume, companyId, was.id],
      );
      await writeStops(tx, companyId, was.id, stops);
      return { made: [], touched: [] };
    }
    const [id] = await tx.insert(deliveryRoundTable, [{ companyId, ...saved }]);
    await writeStops(tx, companyId, id!, stops);
    return { made: [], touched: [] };
  },
});

/** A round put out of use: nothing is gathered for it any more, and what is loaded for it is not. // S11 */
export const dropRound = defineAct(contract.dropRound, {
  right: 'goods',
  says: 'put delivery rounds out of use',
  done: 'round put out of use',
  load: (sql, { id }, { companyId, workDate }) => roundOf(sql, companyId, workDate, id),
  decide: (was, { version }) => decided(changedMeanwhile(version, was.version), () => ({})),
  preview: () => ({}),
  async write(tx, _effects, { id }, { companyId }) {
    await tx.run('UPDATE delivery_round SET out_of_use = TRUE, version = version + 1 WHERE company_id = ? AND id = ?', [
      companyId,
      id,
    ]);
    await tx.run('DELETE FROM round_stop WHERE company_id = ? AND round_id = ?', [companyId, id]);
    await tx.run('DELETE FROM run_load WHERE company_id = ? AND round_id = ?', [companyId, id]);
    return { made: [], touched: [] };
  },
});

async function loadOfRun(sql: Sql, { companyId, workDate }: Doer, roundId: number, day: string) {
  const round = await roundOf(sql, companyId, workDate, roundId);
  return { round, lines: await runLines(sql, companyId, workDate, round, day) };
}

/** What is put on the vehicle of a run, or taken off it. // S11 */
export const loadRun = defineAct(contract.loadRun, {
  right: 'goods',
  says: 'load runs',
  done: 'run loaded',
  load: (sql, { roundId, day }, doer) => loadOfRun(sql, doer, roundId, day),
  decide: ({ lines }, input) =>
    decideLoad(
      lines.map((line) => ({ ...line, item: line.item.number })),
      input.lines,
    ),
  preview(loads, { round, lines }) {
    const loaded = lines.map((line) => ({
      ...line,
      loaded: loads.find(({ lineId }) => lineId === line.lineId)?.quantity ?? line.loaded,
    }));
    const only = loaded.filter((line) => dec(line.loaded).gt(0));
    const { weight, overWeight, volume, overVolume } = runOf(
      round.stops.map(({ shipToId }) => shipToId),
      only,
      round,
    );
    return { weight, overWeight, volume, overVolume };
  },
  async write(tx, loads, { lines }, { companyId }, { roundId, day }) {
    await tx.run('DELETE FROM run_load WHERE company_id = ? AND order_line_id IN (?)', [
      companyId,
      loads.map(({ lineId }) => lineId),
    ]);
    const on = loads.filter(({ quantity }) => dec(quantity).gt(0));
    if (on.length > 0) {
      await tx.insertPlain(
        runLoadTable,
        on.map(({ lineId, quantity }) => ({ companyId, orderLineId: lineId, roundId, day, quantity })),
      );
    }
    const orders = lines.filter(({ lineId }) => loads.some((each) => each.lineId === lineId)).map(({ order }) => order);
    return { made: [], touched: [...new Map(orders.map((order) => [order.id, order])).values()] };
  },
});

/** What is loaded for a stop goes out: one shipment a customer, address and place, as all that goes together. // S9 S11 */
export const shipStop = defineAct(contract.shipStop, {
  right: 'goods',
  says: 'ship goods',
  done: 'stop of a run shipped',
  load: (sql, { roundId, day }, doer) => loadOfRun(sql, doer, roundId, day),
  decide: ({ round, lines }, { shipToId, numbers }) =>
    decideShipStop(
      lines,
      { shipToId, label: round.stops.find((each) => each.shipToId === shipToId)?.label ?? 'this stop' },
      numbers,
    ),
  posts: (_effects, { workDate }) => workDate,
  preview: ({ lines }) => ({ lines: lines.length }),
  async write(tx, { lines }, _ground, doer) {
    const done = await doWithin(tx, actNamed('sendOut')!, { lines }, doer);
    await tx.run('DELETE FROM run_load WHERE company_id = ? AND order_line_id IN (?)', [
      doer.companyId,
      lines.map(({ lineId }) => lineId),
    ]);
    return done;
  },
});
