import { decideDropMove, decideStockShipment, mergeMoves, type MoveEffects } from '@core/stock';
import { decided } from '@core/refusals';
import * as contract from '@api/stock';
import { defineAct, type Touched } from '../acts';
import { lockStockLines, lockTies } from './store';
import { writeMove } from './write';

const receiveGoods = defineAct(contract.receiveGoods, {
  right: 'goods',
  says: 'receive goods',
  load: (tx, input, doer) => lockTies(tx, doer.companyId, 'purchase', input.purchaseId),
  decide: ({ ties }, input) => decideDropMove(ties, input.lines, 'purchase'),
  show: (effects) => effects,
  async write(tx, effects, ground, doer) {
    return { made: await writeMove(tx, effects, doer), touched: touchedBy(effects, ground) };
  },
});

const shipLines = defineAct(contract.shipLines, {
  right: 'goods',
  says: 'ship goods',
  async load(tx, input, doer) {
    const { agreements, ties } = await lockTies(tx, doer.companyId, 'order', input.orderId);
    return { agreements, ties, stockLines: await lockStockLines(tx, doer.companyId, input.orderId) };
  },
  decide({ ties, stockLines }, input) {
    const fromStock = input.lines
      .map((line, index) => ({ ...line, field: `lines.${index}.quantity` }))
      .filter((line) => line.quantity.trim() !== '' && stockLines.some((each) => each.line.id === line.lineId));
    const stock = decideStockShipment(stockLines, fromStock);
    // Blanked, not removed: refusals name a line by its place in what was typed.
    const rest = input.lines.map((line) =>
      fromStock.some((each) => each.lineId === line.lineId) ? { ...line, quantity: '' } : line,
    );
    const dropAsked = rest.some((line) => line.quantity.trim() !== '');
    if (!dropAsked && fromStock.length > 0) return stock;
    const drop = decideDropMove(ties, rest, 'order');
    return decided<MoveEffects>([...(stock.ok ? [] : stock.refusals), ...(drop.ok ? [] : drop.refusals)], () =>
      mergeMoves((drop as { effects: MoveEffects }).effects, (stock as { effects: MoveEffects }).effects),
    );
  },
  show: (effects) => effects,
  async write(tx, effects, ground, doer) {
    return { made: await writeMove(tx, effects, doer), touched: touchedBy(effects, ground) };
  },
});

/** The orders, purchases and agreements whose counters a movement changes. */
function touchedBy(
  effects: MoveEffects,
  ground: Awaited<ReturnType<typeof lockTies>> & { stockLines?: Awaited<ReturnType<typeof lockStockLines>> },
): Touched[] {
  const orders = [...ground.ties.map((tie) => tie.order), ...(ground.stockLines ?? []).map((line) => line.order)];
  const purchases = ground.ties.map((tie) => tie.purchase);
  const refs = (kind: 'SO' | 'PO', all: readonly { id: number; number: string }[], ids: readonly number[]): Touched[] =>
    [...new Set(ids)].map((id) => ({ kind, id, number: all.find((each) => each.id === id)!.number }));
  return [
    ...refs(
      'SO',
      orders,
      effects.shipments.map((shipment) => shipment.orderId),
    ),
    ...refs(
      'PO',
      purchases,
      effects.receipts.map((receipt) => receipt.purchaseId),
    ),
    ...ground.agreements,
  ];
}

export const stockActs = [receiveGoods, shipLines];
