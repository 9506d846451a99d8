import { decideReceipt, movementNeeds } from '@core/stock';
import { numbered } from '@core/serial';
import * as contract from '@api/stock';
import { defineAct } from '../acts';
import { repriceStatements, shipDatePrices } from '../orders';
import { loadStockAndNumbers } from '../serial';
import { adjustStock, takeBackAdjustment } from './adjust';
import { openStock } from './open';
import { moveBetween } from './between';
import { arrive, arrivesOn, carryBack } from './carriages';
import { addToCount, beginCount, cancelCount, enterCount, postCount, takeBackCount } from './count';
import { goneOf, shownOf, throughPoints, tiesAt, touchedBy, typedNumbers } from './moving';
import { loadOwnLines, loadTies } from './store';
import { supplyLine } from './reserve';
import { reverseMovement } from './reverse';
import { sendOut, shipLines } from './ship';
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

export const stockActs = [
  receiveGoods,
  shipLines,
  sendOut,
  moveBetween,
  arrive,
  arrivesOn,
  carryBack,
  adjustStock,
  takeBackAdjustment,
  openStock,
  beginCount,
  enterCount,
  addToCount,
  postCount,
  cancelCount,
  takeBackCount,
  supplyLine,
  reverseMovement,
];
