import {
  decidePlannedCalls,
  decideRelease,
  releasePreview,
  type ReleaseEffects,
  type ReleaseGround,
} from '@core/agreements';
import { dec, sum, type Day, type Dec } from '@core/kernel';
import { extrasOf, priceWithout } from '@core/orders';
import { buildUp } from '@core/pricing';
import * as contract from '@api/agreements';
import { defineAct, takeNumbers, type Doer, type Written, type AlsoNeeded } from '../acts';
import { counterStatements, loadRelease, loadAgreement, planOf } from '../agreements';
import type { Sql, Tx } from '../db';
import { orderPricing, pricingOf } from '../pricing';
import { insertReleasedPurchase } from '../supply';
import { insertOrder } from './store';

/** A release of an agreement: a draft sales order that names it, or a placed purchase order for our own stock. // A6 */
export const releaseAgreement = defineAct(contract.releaseAgreement, {
  // Of a buying agreement it places a purchase, of a selling one it makes an order: each asks for its own right.
  right: 'own',
  says: 'release agreements',
  done: 'released',
  async load(tx, input, doer) {
    const itemIds = input.lines.flatMap((line) => line.itemId ?? []);
    return withPrices(tx, await loadRelease(tx, doer.companyId, input.agreementId, itemIds, doer.workDate), doer);
  },
  decide: (ground, input, doer) => decideRelease(ground, input, doer.workDate),
  also: (effects) => rightsOf(effects),
  preview: (effects, ground) => releasePreview(effects, ground),
  write: (tx, effects, ground, doer) => writeRelease(tx, effects, ground, doer),
});

/** With what each item would cost the customer without the agreement, as a line of an order would. // R1 A3 */
async function withPrices<Ground extends ReleaseGround>(sql: Sql, ground: Ground, doer: Doer): Promise<Ground> {
  const { agreement, party, lines, items } = ground;
  if (agreement.side === 'buying') return ground;
  const ids = [...lines.flatMap((line) => line.item?.id ?? []), ...items.keys()];
  const pricing = await pricingOf(sql, doer.companyId, party.id, ids);
  const { search, orderDate, byShipDate, freight } = await orderPricing(sql, doer, party.id, doer.workDate);
  const { currency } = agreement;
  // The list price that the item was read with: what is asked of one line may be known by another by now.
  const list = new Map([...lines.flatMap(({ item }) => item ?? []), ...items.values()].map((item) => [item.id, item]));
  const without = (id: number, quantity: Dec, shipDate: Day) => {
    const { unit, listPrice } = list.get(id)!;
    const asked = { unit, ownUnit: unit, quantity, day: byShipDate ? shipDate : orderDate, currency };
    return priceWithout({ unit, listPrice, pricing: pricing.get(id)! }, asked, search);
  };
  return {
    ...ground,
    priceWithout: ({ id }, quantity, shipDate) => without(id, quantity, shipDate).listPrice,
    restWithout:
      ({ id }, ofItem, shipDate, shipToId) =>
      (quantity) => {
        const extras = extrasOf(pricing.get(id)!, freight, shipToId, { discount: '0', optionIds: [] });
        return buildUp(without(id, ofItem, shipDate).base, quantity, extras, null, currency);
      },
  };
}

/** Released of a buying agreement, it is a purchase order; of a selling one a sales order. */
const rightsOf = ({ order }: ReleaseEffects): AlsoNeeded[] =>
  order.side === 'buying'
    ? [{ right: 'purchases', says: 'place purchase orders' }]
    : [{ right: 'orders', says: 'release agreements' }];

/** Writes what a release makes; its counters first, then its number. */
async function writeRelease(
  tx: Tx,
  effects: ReleaseEffects,
  { agreement }: ReleaseGround,
  doer: Doer,
): Promise<Written> {
  const counters = counterStatements(doer.companyId, 'released', effects.released);
  const kind = effects.order.side === 'selling' ? ('SO' as const) : ('PO' as const);
  const number = (await takeNumbers(tx, doer.companyId, { [kind]: 1 }, counters))(kind);
  const { order, lines } = effects;
  const id =
    kind === 'SO'
      ? await insertOrder(tx, doer, number, { ...order, customerId: order.partyId }, lines)
      : await insertReleasedPurchase(tx, doer, number, effects);
  return {
    made: [{ kind, id, number, version: 1 }],
    touched: [{ kind: 'AG', id: agreement.id, number: agreement.number }],
  };
}

/** Releases the planned calls up to a day: by hand, or by the clock some days ahead. Each call once. // A7 */
export const releasePlanned = defineAct(contract.releasePlanned, {
  right: 'own',
  says: 'release planned calls',
  done: 'planned calls released',
  async load(tx, input, doer) {
    const { companyId } = doer;
    const ground = await withPrices(tx, await loadRelease(tx, companyId, input.agreementId, [], doer.workDate), doer);
    const head = await loadAgreement(tx, companyId, input.agreementId);
    const { calls, releases } = await planOf(tx, companyId, input.agreementId);
    return {
      ...ground,
      shipToId: head.planShipToId ?? ground.shipToIds[0] ?? null,
      customerReference: head.planReference,
      calls: calls.map((call) => ({
        agreementLineId: call.lineId,
        day: call.day,
        quantity: call.quantity,
        skipped: call.skipped,
        made: call.madeId !== null,
      })),
      released: releases.map((each) => ({
        agreementLineId: each.lineId,
        day: each.day,
        quantity: each.quantity,
      })),
    };
  },
  decide: (ground, input, doer) => decidePlannedCalls(ground, input.upTo, doer.workDate),
  also: ({ release }) => rightsOf(release),
  preview: ({ release }, ground) => ({
    net: sum(release.lines.map((line) => dec(line.amount))).toFixed(),
    lines: release.lines.map((line) => ({
      item: ground.items.get(line.itemId)?.number ?? '',
      day: line.shipDate,
      quantity: line.quantity,
      amount: line.amount,
    })),
  }),
  async write(tx, { release, calls }, ground, doer) {
    const written = await writeRelease(tx, release, ground, doer);
    const [made] = written.made;
    await tx.batch(
      calls.map((call) => ({
        sql: 'UPDATE agreement_call SET made_kind = ?, made_id = ? WHERE company_id = ? AND agreement_line_id = ? AND day = ?',
        values: [made!.kind, made!.id, doer.companyId, call.agreementLineId, call.day],
      })),
    );
    return written;
  },
});
