import { dec } from '@core/kernel';
import { numbered } from '@core/serial';
import { decideShipment, decideStockShipment, movementNeeds, type MoveEffects, type StockLine } from '@core/stock';
import { assemblingFirst, assemblyNeeds, beyondShipped, type Assembled } from '@core/workshop';
import type { SerialEffects } from '@core/serial';
import * as contract from '@api/stock';
import { defineAct, orNotFound, type Doer } from '../acts';
import { loadAgreements } from '../agreements';
import type { Sql, Tx } from '../db';
import { agreementsOf, repriceStatements, shipDatePrices } from '../orders';
import { loadStockAndNumbers } from '../serial';
import { assemblyToWrite, beyondStatements, loadAssemblies, touchedByAssembly, workPosts } from '../workshop';
import { receivedBySisters } from './for-sister';
import { goneOf, linesAt, onceEach, shownOf, throughPoints, tiesAt, touchedBy, typedNumbers } from './moving';
import { loadTies, loadUnstockedLines } from './store';
import { moveToWrite } from './write';

type Locked = Awaited<ReturnType<typeof loadTies>>;

/** Nothing is drop shipped. */
const NO_TIES: Locked = { agreements: [], ties: [], specials: new Map(), byShipDate: [], allTied: false };

/**
 * What orders have to go out from our place with what is there of it, all locked: the orders by id, then their stock, all of
 * it at once: everybody who ships of it waits from then on. Agreements and drop shipments are locked before.
 */
async function loadGoing(tx: Sql, doer: Doer, locked: Locked, orderIds: readonly number[], typed: readonly string[]) {
  const { companyId, workDate } = doer;
  const lines = await loadUnstockedLines(tx, companyId, orderIds);
  const { works, coming } = await loadAssemblies(tx, companyId, lines.assemblies, orderIds);
  const priced = lines.heads.filter(({ priceOf }) => priceOf === 'ship').map(({ id }) => id);
  const repriced = await shipDatePrices(tx, doer, priced, workDate);
  const { stock, numbers } = await loadStockAndNumbers(
    tx,
    companyId,
    [...lines.points, ...works.flatMap(({ points }) => points), ...throughPoints(locked.ties, typed)],
    { typed, workIds: works.map(({ id }) => id) },
  );
  return {
    ...locked,
    ties: tiesAt(locked.ties, repriced),
    repriced,
    heads: lines.heads,
    linesOf: (orderId: number) => linesAt(lines.stocked(orderId, stock), repriced),
    works: works.map((work) => work.stocked(stock)),
    coming,
    numbers,
  };
}

type Going = Omit<Awaited<ReturnType<typeof loadGoing>>, 'heads' | 'linesOf'>;
type Gone = MoveEffects & { assembled: Assembled[]; numbers: SerialEffects };

const shownGone = (effects: Gone, ground: Going) => ({
  ...shownOf(effects, ground.repriced),
  assembled: effects.assembled.map(({ at, effects: { good, materialCost, labourCost } }) => {
    const { id, number, kind } = ground.works[at]!.order;
    const document = { kind: kind === 'make' ? ('PR' as const) : ('AS' as const), id, number };
    return { document, quantity: good, cost: dec(materialCost).plus(labourCost).toFixed() };
  }),
});

async function writeGone(tx: Tx, effects: Gone, ground: Going, stockLines: readonly StockLine[], doer: Doer) {
  const { assembled } = effects;
  await tx.batch([
    ...repriceStatements(doer.companyId, goneOf(effects, ground.repriced), doer.workDate),
    ...beyondStatements(doer.companyId, beyondShipped(effects, stockLines, ground.coming)),
  ]);
  const written = await moveToWrite(tx, effects, doer, {
    count: assembled.length,
    posted: assembled.filter((each) => workPosts(each.effects)).length,
    toWrite: (numbers, shipmentOf) => assemblyToWrite(doer, ground.works, assembled, numbers, shipmentOf),
  });
  const touched = touchedBy(effects, { ...ground, stockLines });
  const insertions = [...written.insertions, ...(await receivedBySisters(tx, effects, doer))];
  return { ...written, insertions, touched: [...touched, ...touchedByAssembly(ground.works, assembled)] };
}

export const shipLines = defineAct(contract.shipLines, {
  right: 'goods',
  says: 'ship goods',
  done: 'shipped',
  async load(tx, input, doer) {
    const others = (input.others ?? []).map((other) => other.orderId);
    // Agreements before any order, those of the orders that go with it too.
    const ids = await Promise.all(others.map((id) => agreementsOf(tx, doer.companyId, id)));
    const agreements = await loadAgreements(tx, doer.companyId, ids.flat());
    const locked = await loadTies(tx, doer.companyId, 'order', input.orderId, doer.workDate);
    const typed = [input, ...(input.others ?? [])].flatMap((each) => each.lines).flatMap(({ numbers = [] }) => numbers);
    const { heads, linesOf, ...going } = await loadGoing(tx, doer, locked, [input.orderId, ...others], typed);
    return {
      ...going,
      agreements: onceEach([...locked.agreements, ...agreements]),
      head: heads.find(({ id }) => id === input.orderId)!,
      stockLines: linesOf(input.orderId),
      withIt: [...others].sort((a, b) => a - b).flatMap(linesOf),
    };
  },
  decide: (ground, input, { workDate }) => {
    const { stockLines, withIt, works } = ground;
    const used = (input.others ?? []).filter(({ lines }) => lines.some(({ quantity }) => quantity.trim() !== ''));
    const asked = [
      ...input.lines.map((line, at) => ({ ...line, field: `lines.${at}.quantity` })),
      ...used.flatMap(({ lines }, index) =>
        lines.map((line, at) => ({ ...line, field: `others.${index}.lines.${at}.quantity` })),
      ),
    ].filter(({ quantity }) => quantity.trim() !== '');
    const decision = assemblingFirst(works, [...stockLines, ...withIt], asked, (lines) =>
      decideShipment(
        { ...ground, stockLines: lines.slice(0, stockLines.length), withIt: lines.slice(stockLines.length) },
        input,
      ),
    );
    const typed = [
      ...typedNumbers(input.lines, 'lines'),
      ...used.flatMap(({ lines }, index) => typedNumbers(lines, `others.${index}.lines`)),
    ];
    return numbered(decision, ground.numbers, workDate, (effects) => [
      ...assemblyNeeds(works, effects.assembled, typed, ground.numbers),
      ...movementNeeds(effects, typed),
    ]);
  },
  posts: (_effects, { workDate }) => workDate,
  preview: (effects, ground) => shownGone(effects, ground),
  write: (tx, effects, ground, doer) => writeGone(tx, effects, ground, [...ground.stockLines, ...ground.withIt], doer),
});

/** Lines of any orders go out from our place in one act, all or none: one shipment a customer, address and place. // S9 */
export const sendOut = defineAct(contract.sendOut, {
  right: 'goods',
  says: 'ship goods',
  done: 'shipped',
  async load(tx, { lines }, doer) {
    const orderIds = await ordersOf(
      tx,
      doer.companyId,
      lines.map(({ lineId }) => lineId),
    );
    const ids = await Promise.all(orderIds.map((id) => agreementsOf(tx, doer.companyId, id)));
    const agreements = await loadAgreements(tx, doer.companyId, ids.flat());
    const typed = lines.flatMap(({ numbers = [] }) => numbers);
    const { linesOf, heads: _, ...going } = await loadGoing(tx, doer, NO_TIES, orderIds, typed);
    return { ...going, agreements: onceEach(agreements), stockLines: orderIds.flatMap(linesOf) };
  },
  decide: ({ stockLines, works, numbers }, { lines }, { workDate }) => {
    const asked = lines.map((line, at) => ({ ...line, field: `lines.${at}.quantity` }));
    const decision = assemblingFirst(works, stockLines, asked, (now) => decideStockShipment(now, asked));
    const typed = typedNumbers(lines, 'lines');
    return numbered(decision, numbers, workDate, (effects) => [
      ...assemblyNeeds(works, effects.assembled, typed, numbers),
      ...movementNeeds(effects, typed),
    ]);
  },
  posts: (_effects, { workDate }) => workDate,
  preview: (effects, ground) => shownGone(effects, ground),
  write: (tx, effects, ground, doer) => writeGone(tx, effects, ground, ground.stockLines, doer),
});

/** The orders of lines, by id. Refuses lines that are not there. */
async function ordersOf(tx: Sql, companyId: number, lineIds: readonly number[]): Promise<number[]> {
  const rows = await tx.rows<{ orderId: number }>(
    'SELECT DISTINCT order_id FROM sales_order_line WHERE company_id = ? AND id IN (?) ORDER BY order_id',
    [companyId, lineIds],
  );
  orNotFound(rows[0], 'This line');
  return rows.map(({ orderId }) => orderId);
}
