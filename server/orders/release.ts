import {
  decidePlannedCalls,
  decideRelease,
  releasePreview,
  type ReleaseEffects,
  type ReleaseGround,
} from '@core/agreements';
import { dec, sum } from '@core/kernel';
import * as contract from '@api/agreements';
import { defineAct, takeNumbers, type Doer, type Written, type AlsoNeeded } from '../acts';
import { counterStatements, loadRelease, loadAgreement, planOf } from '../agreements';
import type { Tx } from '../db';
import { insertReleasedPurchase } from '../supply';
import { insertOrder } from './store';

/** A release of an agreement: a draft sales order that names it, or a placed purchase order for our own stock. // A6 */
export const releaseAgreement = defineAct(contract.releaseAgreement, {
  right: 'orders',
  says: 'release agreements',
  done: 'released',
  load: (tx, input, doer) =>
    loadRelease(
      tx,
      doer.companyId,
      input.agreementId,
      input.lines.flatMap((line) => line.itemId ?? []),
      doer.workDate,
    ),
  decide: (ground, input, doer) => decideRelease(ground, input, doer.workDate),
  also: (effects) => rightsOf(effects),
  preview: (effects, ground) => releasePreview(effects, ground),
  write: (tx, effects, ground, doer) => writeRelease(tx, effects, ground, doer),
});

/** Released of a buying agreement, it is a purchase order. */
const rightsOf = ({ order }: ReleaseEffects): AlsoNeeded[] =>
  order.side === 'buying' ? [{ right: 'purchases', says: 'place purchase orders' }] : [];

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
  right: 'orders',
  says: 'release planned calls',
  done: 'planned calls released',
  async load(tx, input, doer) {
    const { companyId } = doer;
    const ground = await loadRelease(tx, companyId, input.agreementId, [], doer.workDate);
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
