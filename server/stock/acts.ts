import { decideDropMove, decideOwnReceipt, decideStockShipment, mergeMoves, type MoveEffects } from '@core/stock';
import { decided, refuse, type Decision } from '@core/refusals';
import * as contract from '@api/stock';
import { defineAct, there, type Touched } from '../acts';
import { lockAgreements } from '../agreements';
import { agreementsOf } from '../orders';
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
    const others = (input.others ?? []).map((other) => other.orderId);
    // Agreements before any order, those of the orders that go with it too.
    const ids = await Promise.all(others.map((id) => agreementsOf(tx, doer.companyId, id)));
    const agreements = await lockAgreements(tx, doer.companyId, ids.flat());
    const locked = await lockTies(tx, doer.companyId, 'order', input.orderId);
    const stockLines = await lockStockLines(tx, doer.companyId, input.orderId);
    const withIt = [];
    for (const id of [...others].sort((a, b) => a - b)) withIt.push(...(await lockStockLines(tx, doer.companyId, id)));
    const [head] = await tx.rows<{ number: string; customer_id: number; ship_to_id: number | null }>(
      'SELECT number, customer_id, ship_to_id FROM sales_order WHERE company_id = ? AND id = ?',
      [doer.companyId, input.orderId],
    );
    return {
      ...locked,
      agreements: onceEach([...locked.agreements, ...agreements]),
      head: there(head, 'This sales order'),
      stockLines,
      withIt,
    };
  },
  decide({ ties, stockLines, withIt, head }, input) {
    const others = (input.others ?? []).filter((other) => other.lines.some((line) => line.quantity.trim() !== ''));
    const refused = others.flatMap((other, index) => {
      const order = withIt.find((each) => each.order.id === other.orderId)?.order;
      const fits = order?.customerId === head.customer_id && order.shipToId === head.ship_to_id;
      const facts = { order: order?.number ?? 'This order', with: head.number };
      return fits && other.orderId !== input.orderId ? [] : [refuse('not-the-same-way', `others.${index}`, facts)];
    });
    if (refused.length > 0) return { ok: false, refusals: refused };
    const further = (input.others ?? []).flatMap((other, index) =>
      other.lines
        .map((line, at) => ({ ...line, field: `others.${index}.lines.${at}.quantity` }))
        .filter((line) => line.quantity.trim() !== ''),
    );
    return decideBoth(
      input.lines,
      (lineId) => stockLines.some((each) => each.line.id === lineId),
      (asked) => decideStockShipment([...stockLines, ...withIt], asked),
      (asked) => decideDropMove(ties, asked, 'order'),
      further,
    );
  },
  show: (effects) => effects,
  async write(tx, effects, ground, doer) {
    const stockLines = [...ground.stockLines, ...ground.withIt];
    return { made: await writeMove(tx, effects, doer), touched: touchedBy(effects, { ...ground, stockLines }) };
  },
});

const onceEach = <Document extends Touched>(documents: readonly Document[]): Document[] => [
  ...new Map(documents.map((document) => [document.id, document])).values(),
];

type Asked = { lineId: number; quantity: string };

/** Decides lines that touch our own stock apart from drop shipments, and joins what both make. */
function decideBoth(
  lines: readonly Asked[],
  isOwn: (lineId: number) => boolean,
  decideOwn: (asked: readonly (Asked & { field: string })[]) => Decision<MoveEffects>,
  decideDrop: (asked: readonly Asked[]) => Decision<MoveEffects>,
  /** Lines of other orders that go from our place with these. */
  further: readonly (Asked & { field: string })[] = [],
): Decision<MoveEffects> {
  const ownAsked = lines
    .map((line, index) => ({ ...line, field: `lines.${index}.quantity` }))
    .filter((line) => line.quantity.trim() !== '' && isOwn(line.lineId))
    .concat(further);
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
