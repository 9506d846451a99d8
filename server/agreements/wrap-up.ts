import { decideCancelAgreement, decidePause, decideWrapUp, type WrapUpGround, type WrapUpLine } from '@core/agreements';
import { dec, sum } from '@core/kernel';
import * as contract from '@api/agreements';
import { defineAct, takeNumbers, there, type Doer, type Touched } from '../acts';
import type { Sql, Tx } from '../db/database';
import { plain } from '../db/mapping';
import {
  breaksOf,
  lockAgreement,
  PRICE_COLUMNS,
  priceTermOf,
  writeTerms,
  type AgreementHead,
  type PriceColumns,
} from './store';

export const pauseAgreement = defineAct(contract.pauseAgreement, {
  right: 'agreements',
  says: 'pause agreements',
  saw: ({ id, version }) => ({ kind: 'AG', id, version }),
  load: (tx, input, doer) => lockAgreement(tx, doer.companyId, input.id),
  decide: (head, { pause }) => decidePause(head, pause),
  show: (effects) => effects,
  write: (tx, { state }, head, doer) => setState(tx, doer, head, state),
});

export const cancelAgreement = defineAct(contract.cancelAgreement, {
  right: 'agreements',
  says: 'cancel agreements',
  saw: ({ id, version }) => ({ kind: 'AG', id, version }),
  load: (tx, input, doer) => lockAgreement(tx, doer.companyId, input.id),
  decide: (head) => decideCancelAgreement(head),
  show: (effects) => effects,
  write: (tx, { state }, head, doer) => setState(tx, doer, head, state),
});

async function setState(tx: Tx, doer: Doer, head: AgreementHead, state: string) {
  await tx.run('UPDATE agreement SET state = ?, version = version + 1 WHERE company_id = ? AND id = ?', [
    state,
    doer.companyId,
    head.id,
  ]);
  return { made: [], touched: [changed(head)] };
}

const changed = (head: AgreementHead): Touched => ({
  kind: 'AG',
  id: head.id,
  number: head.number,
  version: head.version + 1,
});

/** Ends an agreement with what is decided about its remainder, or moves its end. // A11 */
export const wrapUpAgreement = defineAct(contract.wrapUpAgreement, {
  right: 'agreements',
  says: 'wrap up agreements',
  saw: ({ id, version }) => ({ kind: 'AG', id, version }),
  async load(tx, input, doer) {
    const head = await lockAgreement(tx, doer.companyId, input.id);
    const [ground, openOrders, owed] = [
      await groundOf(tx, doer.companyId, head),
      await openOrdersOf(tx, doer.companyId, head.id),
      await owedOf(tx, doer.companyId, head.id),
    ];
    return { head, ground, openOrders, owed };
  },
  decide: ({ ground }, input, doer) => decideWrapUp(ground, input, doer.workDate),
  show: (effects, { openOrders, owed, ground }) => ({
    state: effects.state,
    lastDay: effects.lastDay,
    left: effects.left,
    openOrders,
    owed,
    renewal: effects.renewal && {
      firstDay: effects.renewal.firstDay,
      lastDay: effects.renewal.lastDay,
      value: sum(effects.renewal.lines.map((line) => dec(line.value))).toFixed(),
      currency: ground.agreement.currency,
    },
  }),
  async write(tx, effects, { head }, doer) {
    const { companyId, workDate } = doer;
    if (effects.decision === 'extend') {
      await tx.run('UPDATE agreement SET last_day = ?, version = version + 1 WHERE company_id = ? AND id = ?', [
        effects.lastDay,
        companyId,
        head.id,
      ]);
      return { made: [], touched: [changed(head)] };
    }
    const made = effects.renewal ? [await renew(tx, doer, effects.renewal)] : [];
    await tx.run(
      `UPDATE agreement SET state = ?, ended_on = ?, wrap_up = ?, renewed_as = ?, version = version + 1
        WHERE company_id = ? AND id = ?`,
      [effects.state, workDate, effects.decision, made[0]?.id ?? null, companyId, head.id],
    );
    return { made, touched: [changed(head)] };
  },
});

async function renew(tx: Tx, doer: Doer, terms: Parameters<typeof writeTerms>[1]): Promise<Touched> {
  const number = (await takeNumbers(tx, doer.companyId, { AG: 1 }))('AG');
  const id = await writeTerms(tx, terms, null, number, doer);
  return { kind: 'AG', id, number, version: 1 };
}

async function groundOf(sql: Sql, companyId: number, head: AgreementHead): Promise<WrapUpGround> {
  const [row] = await sql.rows<{
    title: string;
    signed_on: string | null;
    probability_percent: string;
    priority: number;
    notes: string;
  }>('SELECT title, signed_on, probability_percent, priority, notes FROM agreement WHERE company_id = ? AND id = ?', [
    companyId,
    head.id,
  ]);
  const more = there(row, 'This agreement');
  const breaks = await breaksOf(sql, companyId, head.id);
  const lines = await sql.rows<
    PriceColumns & {
      id: number;
      item_id: number;
      item: string;
      list_price: string;
      committed: string;
      released: string;
      least_release: string;
      release_multiple: string;
      notes: string;
    }
  >(
    `SELECT l.id, l.item_id, i.number AS item, i.list_price, l.committed, l.released, ${PRICE_COLUMNS},
            l.least_release, l.release_multiple, l.notes
       FROM agreement_line l JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id
      WHERE l.company_id = ? AND l.agreement_id = ? ORDER BY l.line_no`,
    [companyId, head.id],
  );
  return {
    agreement: {
      number: head.number,
      state: head.state,
      customerId: head.customer_id,
      currency: head.currency,
      title: more.title,
      firstDay: head.first_day,
      lastDay: head.last_day,
      signedOn: more.signed_on,
      limitPolicy: head.limit_policy,
      tolerancePercent: plain(head.tolerance_percent),
      probabilityPercent: plain(more.probability_percent),
      priority: more.priority,
      notes: more.notes,
    },
    lines: lines.map((line): WrapUpLine => ({
      id: line.id,
      itemId: line.item_id,
      item: line.item,
      listPrice: plain(line.list_price),
      committed: plain(line.committed),
      released: plain(line.released),
      ...priceTermOf(line, breaks.get(line.id) ?? []),
      leastRelease: plain(line.least_release),
      releaseMultiple: plain(line.release_multiple),
      notes: line.notes,
    })),
  };
}

/** Orders released from it that are not shipped whole. */
async function openOrdersOf(sql: Sql, companyId: number, agreementId: number) {
  const rows = await sql.rows<{ id: number; number: string }>(
    `SELECT DISTINCT o.id, o.number
       FROM sales_order o JOIN sales_order_line l ON l.company_id = o.company_id AND l.order_id = o.id
      WHERE o.company_id = ? AND o.agreement_id = ? AND o.state IN ('draft', 'confirmed') AND l.shipped < l.quantity - l.cancelled
      ORDER BY o.id`,
    [companyId, agreementId],
  );
  return rows.map((row) => ({ kind: 'SO' as const, ...row }));
}

/** What the customer still owes for its invoices. */
async function owedOf(sql: Sql, companyId: number, agreementId: number): Promise<string> {
  const [row] = await sql.rows<{ owed: string | null }>(
    `SELECT SUM(oi.amount - oi.settled) AS owed
       FROM sales_order o
       JOIN customer_invoice i ON i.company_id = o.company_id AND i.order_id = o.id
       JOIN open_item oi ON oi.company_id = i.company_id AND oi.customer_invoice_id = i.id
      WHERE o.company_id = ? AND o.agreement_id = ?`,
    [companyId, agreementId],
  );
  return plain(row?.owed ?? '0');
}
