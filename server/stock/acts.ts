import { decideReceipt, decideShipment, movementNeeds, type MoveEffects, type TypedNumbers } from '@core/stock';
import { dec, MAIN_LOCATION, pointOf } from '@core/kernel';
import { numbered, numbersShown, type SerialEffects } from '@core/serial';
import { assemblingFirst, assemblyNeeds, beyondShipped } from '@core/workshop';
import * as contract from '@api/stock';
import { defineAct, type Touched } from '../acts';
import { loadAgreements } from '../agreements';
import type { Repriced } from '@core/orders';
import type { DropTie, StockLine } from '@core/stock';
import { agreementsOf, repriceStatements, shipDatePrices } from '../orders';
import { loadStockAndNumbers } from '../serial';
import { adjustStock, takeBackAdjustment } from './adjust';
import { moveBetween } from './between';
import { arrive, arrivesOn, carryBack } from './carriages';
import { addToCount, beginCount, cancelCount, enterCount, postCount, takeBackCount } from './count';
import { loadOwnLines, loadTies, loadUnstockedLines } from './store';
import { assemblyToWrite, beyondStatements, loadAssemblies, touchedByAssembly, workPosts } from '../workshop';
import { supplyLine } from './reserve';
import { reverseMovement } from './reverse';
import { moveToWrite } from './write';

/** A drop shipment brings nothing to our place. */
const NOTHING_OWN: Awaited<ReturnType<typeof loadOwnLines>> = { own: [], loose: [], points: [] };

export const receiveGoods = defineAct(contract.receiveGoods, {
  right: 'goods',
  says: 'receive goods',
  done: 'received',
  async load(tx, input, doer) {
    const locked = await loadTies(tx, doer.companyId, 'purchase', input.purchaseId, doer.workDate);
    const repriced = await shipDatePrices(tx, doer, locked.byShipDate, doer.workDate);
    const own = locked.allTied
      ? NOTHING_OWN
      : await loadOwnLines(tx, doer.companyId, input.purchaseId, locked.specials, doer.workDate);
    const typed = input.lines.flatMap(({ numbers = [] }) => numbers);
    const points = [...own.points, ...throughPoints(locked.ties, typed)];
    const { numbers } = await loadStockAndNumbers(tx, doer.companyId, points, { typed });
    return { ...locked, ties: tiesAt(locked.ties, repriced), repriced, ...own, numbers };
  },
  decide: (ground, input, { workDate }) =>
    numbered(decideReceipt(ground, input.lines), ground.numbers, workDate, (effects) =>
      movementNeeds(effects, typedNumbers(input.lines, 'lines')),
    ),
  posts: (_effects, { workDate }) => workDate,
  preview: (effects, ground) => shownOf(effects, ground.repriced),
  async write(tx, effects, ground, doer) {
    await tx.batch(repriceStatements(doer.companyId, goneOf(effects, ground.repriced), doer.workDate));
    return { ...(await moveToWrite(tx, effects, doer)), touched: touchedBy(effects, ground) };
  },
});

const shipLines = defineAct(contract.shipLines, {
  right: 'goods',
  says: 'ship goods',
  done: 'shipped',
  async load(tx, input, doer) {
    const others = (input.others ?? []).map((other) => other.orderId);
    // Agreements before any order, those of the orders that go with it too.
    const ids = await Promise.all(others.map((id) => agreementsOf(tx, doer.companyId, id)));
    const agreements = await loadAgreements(tx, doer.companyId, ids.flat());
    const locked = await loadTies(tx, doer.companyId, 'order', input.orderId, doer.workDate);
    const orderIds = [input.orderId, ...others];
    // Their stock last, all of it at once: everybody who ships of it waits from then on.
    const lines = await loadUnstockedLines(tx, doer.companyId, orderIds);
    const { works, coming } = await loadAssemblies(tx, doer.companyId, lines.assemblies, orderIds);
    const priced = lines.heads.filter(({ priceOf }) => priceOf === 'ship').map(({ id }) => id);
    const repriced = await shipDatePrices(tx, doer, priced, doer.workDate);
    const typed = [input, ...(input.others ?? [])].flatMap((each) => each.lines).flatMap(({ numbers = [] }) => numbers);
    const { stock, numbers } = await loadStockAndNumbers(
      tx,
      doer.companyId,
      [...lines.points, ...works.flatMap(({ points }) => points), ...throughPoints(locked.ties, typed)],
      { typed, workIds: works.map(({ id }) => id) },
    );
    const linesOf = (id: number) => linesAt(lines.stocked(id, stock), repriced);
    return {
      ...locked,
      ties: tiesAt(locked.ties, repriced),
      repriced,
      agreements: onceEach([...locked.agreements, ...agreements]),
      head: lines.heads.find(({ id }) => id === input.orderId)!,
      stockLines: linesOf(input.orderId),
      withIt: [...others].sort((a, b) => a - b).flatMap(linesOf),
      works: works.map((work) => work.stocked(stock)),
      coming,
      numbers,
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
  preview: (effects, ground) => ({
    ...shownOf(effects, ground.repriced),
    assembled: effects.assembled.map(({ at, effects: { good, materialCost, labourCost } }) => {
      const { id, number, kind } = ground.works[at]!.order;
      const document = { kind: kind === 'make' ? ('PR' as const) : ('AS' as const), id, number };
      return { document, quantity: good, cost: dec(materialCost).plus(labourCost).toFixed() };
    }),
  }),
  async write(tx, effects, ground, doer) {
    const stockLines = [...ground.stockLines, ...ground.withIt];
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
    return { ...written, touched: [...touched, ...touchedByAssembly(ground.works, assembled)] };
  },
});

/** The numbers that were typed with lines. */
const typedNumbers = (
  lines: readonly { lineId: number; numbers?: readonly string[] | undefined }[],
  field: string,
): TypedNumbers[] =>
  lines.map(({ lineId, numbers = [] }, at) => ({ lineId, numbers, field: `${field}.${at}.numbers` }));

/** Where numbers of what only passes through are looked for, where any were typed. */
const throughPoints = (ties: readonly DropTie[], typed: readonly string[]): number[] =>
  typed.length > 0 ? ties.map(({ item }) => pointOf(item.id, MAIN_LOCATION)) : [];

/** Ties and lines at the prices of the day they ship. // R3 */
function tiesAt(ties: readonly DropTie[], repriced: readonly Repriced[]): DropTie[] {
  return ties.map((tie) => ({ ...tie, orderLine: priceAt(tie.orderLine, repriced) }));
}

function linesAt(lines: readonly StockLine[], repriced: readonly Repriced[]): StockLine[] {
  return lines.map((each) => ({ ...each, line: priceAt(each.line, repriced) }));
}

function priceAt<Line extends { id: number; unitPrice: string; amount: string }>(
  line: Line,
  repriced: readonly Repriced[],
): Line {
  const found = repriced.find((each) => each.orderLineId === line.id);
  return found ? { ...line, unitPrice: found.unitPrice, amount: found.amount } : line;
}

/** The prices found again of what goes out. */
function goneOf({ shipments }: MoveEffects, repriced: readonly Repriced[]): Repriced[] {
  const gone = new Set(shipments.flatMap(({ parts }) => parts.map((part) => part.orderLineId)));
  return repriced.filter((line) => gone.has(line.orderLineId));
}

function shownOf(effects: MoveEffects & { numbers: SerialEffects }, repriced: readonly Repriced[]) {
  return {
    ...effects,
    numbers: numbersShown(effects.numbers),
    repriced: goneOf(effects, repriced).map(({ orderLineId, item, was, unitPrice, amount }) => ({
      orderLineId,
      item,
      was: was.unitPrice,
      is: unitPrice,
      difference: dec(amount).minus(was.amount).toFixed(),
    })),
  };
}

const onceEach = <Document extends Touched>(documents: readonly Document[]): Document[] => [
  ...new Map(documents.map((document) => [document.id, document])).values(),
];

/** The orders, purchases and agreements whose counters a movement changes. */
function touchedBy(
  effects: MoveEffects,
  ground: Awaited<ReturnType<typeof loadTies>> & {
    stockLines?: readonly StockLine[];
    own?: Awaited<ReturnType<typeof loadOwnLines>>['own'];
  },
): Touched[] {
  const orders = [...ground.ties.map((tie) => tie.order), ...(ground.stockLines ?? []).map((line) => line.order)];
  const purchases = [...ground.ties.map((tie) => tie.purchase), ...(ground.own ?? []).map((line) => line.purchase)];
  const refs = (kind: 'SO' | 'PO', all: readonly { id: number; number: string }[], ids: readonly number[]): Touched[] =>
    [...new Set(ids)].map((id) => ({ kind, id, number: all.find((each) => each.id === id)!.number }));
  const held = new Set(effects.receipts.flatMap((receipt) => receipt.parts.map((part) => part.heldFor)));
  const served = [...ground.specials.values()].flat().filter((tie) => held.has(tie.orderLineId));
  return [
    ...refs(
      'SO',
      [...orders, ...served.map((tie) => tie.order)],
      [...effects.shipments.map((shipment) => shipment.orderId), ...served.map((tie) => tie.order.id)],
    ),
    ...refs(
      'PO',
      purchases,
      effects.receipts.map((receipt) => receipt.purchaseId),
    ),
    ...ground.agreements,
  ];
}

export const stockActs = [
  receiveGoods,
  shipLines,
  moveBetween,
  arrive,
  arrivesOn,
  carryBack,
  adjustStock,
  takeBackAdjustment,
  beginCount,
  enterCount,
  addToCount,
  postCount,
  cancelCount,
  takeBackCount,
  supplyLine,
  reverseMovement,
];
