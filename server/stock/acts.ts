import { decideDropMove, decideOwnReceipt, decideStockShipment, mergeMoves, type MoveEffects } from '@core/stock';
import { decided, refuse, type Decision } from '@core/refusals';
import * as contract from '@api/stock';
import { defineAct, type Touched } from '../acts';
import { lockOwnLines, lockStockLines, lockTies } from './store';
import { supplyLine } from './reserve';
import { reverseMovement } from './reverse';
import { writeMove } from './write';

const receiveGoods = defineAct(contract.receiveGoods, {
  right: 'goods',
  says: 'receive goods',
  async load(tx, input, doer) {
    const locked = await lockTies(tx, doer.companyId, 'purchase', input.purchaseId);
    return { ...locked, ...(await lockOwnLines(tx, doer.companyId, input.purchaseId, locked.specials)) };
  },
  decide({ ties, own, loose }, input) {
    const refused = input.lines.flatMap(({ lineId, quantity }, index) => {
      const line = quantity.trim() === '' ? undefined : loose.find((each) => each.id === lineId);
      const facts = line && { purchase: line.purchase, line: String(line.lineNo) };
      return facts ? [refuse('loose-purchase', `lines.${index}.quantity`, facts)] : [];
    });
    if (refused.length > 0) return { ok: false, refusals: refused };
    return decideBoth(
      input.lines,
      (lineId) => own.some((each) => each.line.id === lineId),
      (asked) => decideOwnReceipt(own, asked),
      (asked) => decideDropMove(ties, asked, 'purchase'),
    );
  },
  show: (effects) => effects,
  async write(tx, effects, ground, doer) {
    return { made: await writeMove(tx, effects, doer), touched: touchedBy(effects, ground) };
  },
});

const shipLines = defineAct(contract.shipLines, {
  right: 'goods',
  says: 'ship goods',
  async load(tx, input, doer) {
    const locked = await lockTies(tx, doer.companyId, 'order', input.orderId);
    return { ...locked, stockLines: await lockStockLines(tx, doer.companyId, input.orderId) };
  },
  decide: ({ ties, stockLines }, input) =>
    decideBoth(
      input.lines,
      (lineId) => stockLines.some((each) => each.line.id === lineId),
      (asked) => decideStockShipment(stockLines, asked),
      (asked) => decideDropMove(ties, asked, 'order'),
    ),
  show: (effects) => effects,
  async write(tx, effects, ground, doer) {
    return { made: await writeMove(tx, effects, doer), touched: touchedBy(effects, ground) };
  },
});

type Asked = { lineId: number; quantity: string };

/** Decides lines that touch our own stock apart from drop shipments, and joins what both make. */
function decideBoth(
  lines: readonly Asked[],
  isOwn: (lineId: number) => boolean,
  decideOwn: (asked: readonly (Asked & { field: string })[]) => Decision<MoveEffects>,
  decideDrop: (asked: readonly Asked[]) => Decision<MoveEffects>,
): Decision<MoveEffects> {
  const ownAsked = lines
    .map((line, index) => ({ ...line, field: `lines.${index}.quantity` }))
    .filter((line) => line.quantity.trim() !== '' && isOwn(line.lineId));
  const own = decideOwn(ownAsked);
  // Blanked, not removed: refusals name a line by its place in what was typed.
  const rest = lines.map((line) => (isOwn(line.lineId) ? { ...line, quantity: '' } : line));
  const dropAsked = rest.some((line) => line.quantity.trim() !== '');
  if (!dropAsked && ownAsked.length > 0) return own;
  const drop = decideDrop(rest);
  return decided<MoveEffects>([...(own.ok ? [] : own.refusals), ...(drop.ok ? [] : drop.refusals)], () =>
    mergeMoves((drop as { effects: MoveEffects }).effects, (own as { effects: MoveEffects }).effects),
  );
}

/** The orders, purchases and agreements whose counters a movement changes. */
function touchedBy(
  effects: MoveEffects,
  ground: Awaited<ReturnType<typeof lockTies>> & {
    stockLines?: Awaited<ReturnType<typeof lockStockLines>>;
    own?: Awaited<ReturnType<typeof lockOwnLines>>['own'];
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

export const stockActs = [receiveGoods, shipLines, supplyLine, reverseMovement];
