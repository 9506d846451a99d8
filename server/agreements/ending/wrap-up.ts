import {
  decideCancelAgreement,
  decidePause,
  decideWrapUp,
  shortfallOf,
  type WrapUpEffects,
  type WrapUpGround,
} from '@core/agreements';
import { bothOf, dec, sum, priceText } from '@core/kernel';
import { prepaymentReturnJournal } from '@core/ledger';
import * as contract from '@api/agreements';
import { defineAct, takeNumbers, type Doer, type Touched } from '../../acts';
import { exchangeOn, foreignOf } from '../../catalogue';
import type { Sql, Tx } from '../../db';
import { postJournals } from '../../ledger';
import { loadAgreement, termsOf, type AgreementHead } from '../terms/store';
import { termLinesOf } from '../terms/term-lines';
import { writeTerms } from '../terms/write-terms';
import { shortfallDraftTable, shortfallLineTable } from '../tables';
import { prepaymentMoveTable } from '../../billing/tables';

export const pauseAgreement = defineAct(contract.pauseAgreement, {
  right: 'agreements',
  says: 'pause agreements',
  done: 'paused or let go on',
  expectedVersion: ({ id, version }) => ({ kind: 'AG', id, version }),
  load: (tx, input, doer) => loadAgreement(tx, doer.companyId, input.id),
  decide: (head, { pause }) => decidePause(head, pause),
  preview: (effects) => effects,
  write: (tx, { state }, head, doer) => setState(tx, doer, head, state),
});

export const cancelAgreement = defineAct(contract.cancelAgreement, {
  right: 'agreements',
  says: 'cancel agreements',
  done: 'cancelled',
  expectedVersion: ({ id, version }) => ({ kind: 'AG', id, version }),
  load: (tx, input, doer) => loadAgreement(tx, doer.companyId, input.id),
  decide: (head) => decideCancelAgreement(head),
  preview: (effects) => effects,
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

/** Ends an agreement with what is decided about its remainder, or moves its end. // A11 A12 */
export const wrapUpAgreement = defineAct(contract.wrapUpAgreement, {
  right: 'agreements',
  says: 'wrap up agreements',
  done: 'wrapped up',
  expectedVersion: ({ id, version }) => ({ kind: 'AG', id, version }),
  async load(tx, input, doer) {
    const head = await loadAgreement(tx, doer.companyId, input.id);
    const [ground, openOrders, owed, rebate] = [
      await groundOf(tx, doer, head),
      await openOrdersOf(tx, doer.companyId, head.id),
      await owedOf(tx, doer.companyId, head.id),
      await rebateBalanceOf(tx, doer.companyId, head.id),
    ];
    return { head, ground, openOrders, owed, rebate };
  },
  decide: ({ ground }, input, doer) => decideWrapUp(ground, input, doer.workDate),
  second: ({ prepayments }, { head, ground }) => {
    const left = sum(ground.prepayments.map((each) => dec(each.left)));
    const { currency } = ground.agreement;
    return prepayments === 'return' && left.gt(0)
      ? [
          {
            kind: 'money-out',
            words: `Wrap up ${head.number} and pay back ${currency} ${priceText(left.toFixed(), currency)}`,
          },
        ]
      : [];
  },
  also: ({ prepayments }, { ground }) =>
    prepayments === 'return' && ground.prepayments.some((each) => dec(each.left).gt(0))
      ? [{ right: 'payments', says: 'pay prepayments out' }]
      : [],
  preview: (effects, { openOrders, owed, rebate, ground }) => ({
    state: effects.state,
    lastDay: effects.lastDay,
    left: effects.left,
    openOrders,
    owed,
    rebate,
    prepaid: sum(ground.prepayments.map((each) => dec(each.left))).toFixed(),
    shortfall: sum(shortfallOf(ground).map((line) => dec(line.net))).toFixed(),
    renewal: effects.renewal && {
      firstDay: effects.renewal.firstDay,
      lastDay: effects.renewal.lastDay,
      value: sum(effects.renewal.lines.map((line) => dec(line.value))).toFixed(),
      currency: ground.agreement.currency,
    },
  }),
  async write(tx, effects, { head, ground }, doer) {
    const { companyId, workDate } = doer;
    if (effects.decision === 'extend') {
      await tx.run('UPDATE agreement SET last_day = ?, version = version + 1 WHERE company_id = ? AND id = ?', [
        effects.lastDay,
        companyId,
        head.id,
      ]);
      return { made: [], touched: [changed(head)] };
    }
    const renewal = effects.renewal ? await renew(tx, doer, effects.renewal) : null;
    if (effects.shortfall.length > 0) await draftShortfall(tx, doer, head.id, effects.shortfall);
    const carried = await movePrepayments(tx, doer, effects, ground, renewal);
    await tx.run(
      `UPDATE agreement SET state = ?, ended_on = ?, wrap_up = ?, renewed_as = ?, version = version + 1
        WHERE company_id = ? AND id = ?`,
      [effects.state, workDate, effects.decision, renewal?.id ?? null, companyId, head.id],
    );
    return { made: [...(renewal ? [renewal] : []), ...carried], touched: [changed(head)] };
  },
});

async function renew(tx: Tx, doer: Doer, terms: Parameters<typeof writeTerms>[1]): Promise<Touched> {
  const number = (await takeNumbers(tx, doer.companyId, { AG: 1 }))('AG');
  const id = await writeTerms(tx, terms, null, number, doer);
  return { kind: 'AG', id, number, version: 1 };
}

/** The invoice draft for what was not taken: posted or dropped by whoever invoices. // A11 */
async function draftShortfall(
  tx: Tx,
  doer: Doer,
  agreementId: number,
  lines: WrapUpEffects['shortfall'],
): Promise<void> {
  const { companyId, workDate } = doer;
  const [id] = await tx.insert(shortfallDraftTable, [{ companyId, agreementId, madeOn: workDate }]);
  await tx.insert(
    shortfallLineTable,
    lines.map((line) => ({
      companyId,
      shortfallDraftId: id!,
      agreementLineId: line.agreementLineId,
      quantity: line.quantity,
      unitPrice: line.unitPrice,
      net: line.net,
      taxCodeId: line.taxCodeId,
      taxRate: line.taxRate,
    })),
  );
}

/** Pays prepayments back, or carries them to the renewal as prepayments of its own. // A12 */
async function movePrepayments(
  tx: Tx,
  doer: Doer,
  { prepayments: how, paidBack }: WrapUpEffects,
  { prepayments, exchange }: WrapUpGround,
  renewal: Touched | null,
): Promise<Touched[]> {
  if (how === null) return [];
  const { companyId, workDate } = doer;
  const column = how === 'return' ? 'returned' : 'carried';
  await tx.batch(
    prepayments.map(({ id, left, carried }) => ({
      sql: `UPDATE prepayment SET ${column} = ${column} + ?, own_used = own_used + ? WHERE company_id = ? AND id = ?`,
      values: [left, carried, companyId, id],
    })),
  );
  await tx.insertPlain(
    prepaymentMoveTable,
    prepayments.map(({ id, left, carried }) => ({
      companyId,
      prepaymentId: id,
      kind: column,
      amount: left,
      ownAmount: carried,
      ownWorth: paidBack.find((each) => each.id === id)?.worth ?? carried,
      movedOn: workDate,
    })),
  );
  if (how === 'return') {
    const number = await takeNumbers(tx, companyId, { JR: prepayments.length });
    await postJournals(
      tx,
      doer,
      paidBack.map(({ id, amount, worth, carried }) => ({
        number: number('JR'),
        source: { kind: 'PP', id },
        postedOn: workDate,
        currency: foreignOf(exchange),
        entries: prepaymentReturnJournal(bothOf(amount, worth), dec(carried)),
      })),
    );
    return [];
  }
  const number = await takeNumbers(tx, companyId, { PP: prepayments.length });
  const made: Touched[] = [];
  for (const { id, left, carried } of prepayments) {
    const own = number('PP');
    await tx.run(
      `INSERT INTO prepayment (company_id, number, customer_id, agreement_id, currency, taken_on, amount, rate, own_amount, carried_from)
       SELECT company_id, ?, customer_id, ?, currency, taken_on, ?, rate, ?, id FROM prepayment WHERE company_id = ? AND id = ?`,
      [own, renewal!.id, left, carried, companyId, id],
    );
    const [row] = await tx.rows<{ id: number }>('SELECT id FROM prepayment WHERE company_id = ? AND number = ?', [
      companyId,
      own,
    ]);
    made.push({ kind: 'PP', id: row!.id, number: own });
  }
  return made;
}

async function groundOf(sql: Sql, { companyId, workDate }: Doer, head: AgreementHead): Promise<WrapUpGround> {
  const terms = await termsOf(sql, companyId, head);
  const lines = await termLinesOf(sql, companyId, head);
  const taxes = await taxesOf(sql, companyId, head.id);
  const prepayments = await sql.rows<{ id: number; leftOver: string; carried: string }>(
    `SELECT id, amount - drawn - returned - carried AS left_over, own_amount - own_used AS carried FROM prepayment
      WHERE company_id = ? AND agreement_id = ? AND amount > drawn + returned + carried ORDER BY id`,
    [companyId, head.id],
  );
  return {
    agreement: {
      ...terms,
      number: head.number,
      state: head.state,
      currency: head.currency,
      firstDay: head.firstDay,
      lastDay: head.lastDay,
      priority: head.priority,
    },
    lines: lines.map(({ covers, lineNo: _lineNo, ...line }) => ({ ...line, item: covers, ...taxes.get(line.id)! })),
    prepayments: prepayments.map((row) => ({ id: row.id, left: row.leftOver, carried: row.carried })),
    exchange: await exchangeOn(sql, companyId, head.currency, workDate),
  };
}

/** The tax code each line would be charged with: its item's, else its group's first item's, else the first there is. */
async function taxesOf(sql: Sql, companyId: number, agreementId: number) {
  const rows = await sql.rows<{ id: number; taxCodeId: number; rate: string }>(
    `SELECT d.id, t.id AS tax_code_id, t.rate FROM (
       SELECT l.id, COALESCE(i.tax_code_id,
                (SELECT gi.tax_code_id FROM item gi WHERE gi.company_id = l.company_id AND gi.item_group_id = l.item_group_id ORDER BY gi.id LIMIT 1),
                (SELECT MIN(tc.id) FROM tax_code tc WHERE tc.company_id = l.company_id)) AS tax_code_id
         FROM agreement_line l LEFT JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id
        WHERE l.company_id = ? AND l.agreement_id = ?) d
       JOIN tax_code t ON t.company_id = ? AND t.id = d.tax_code_id`,
    [companyId, agreementId, companyId],
  );
  return new Map(rows.map((row) => [row.id, { taxCodeId: row.taxCodeId, taxRate: row.rate }]));
}

/** Rebate accrued and not settled. */
async function rebateBalanceOf(sql: Sql, companyId: number, agreementId: number): Promise<string> {
  const [row] = await sql.rows<{ balance: string }>(
    'SELECT rebate_accrued - rebate_settled AS balance FROM agreement WHERE company_id = ? AND id = ?',
    [companyId, agreementId],
  );
  return row!.balance;
}

/** Orders, or purchases, released from it that are not moved whole. */
async function openOrdersOf(sql: Sql, companyId: number, agreementId: number) {
  return sql.rows<{ kind: 'SO' | 'PO'; id: number; number: string }>(
    `SELECT DISTINCT 'SO' AS kind, o.id, o.number
       FROM agreement_line al
       JOIN sales_order_line l ON l.company_id = al.company_id AND l.agreement_line_id = al.id
       JOIN sales_order o ON o.company_id = l.company_id AND o.id = l.order_id
      WHERE al.company_id = ? AND al.agreement_id = ? AND o.state IN ('draft', 'confirmed') AND l.shipped < l.quantity - l.cancelled
     UNION SELECT 'PO', p.id, p.number
       FROM agreement_line al
       JOIN purchase_order_line l ON l.company_id = al.company_id AND l.agreement_line_id = al.id
       JOIN purchase_order p ON p.company_id = l.company_id AND p.id = l.purchase_order_id
      WHERE al.company_id = ? AND al.agreement_id = ? AND p.state = 'placed' AND l.received < l.quantity
      ORDER BY kind, id`,
    [companyId, agreementId, companyId, agreementId],
  );
}

/** What the customer still owes for invoices of it, or we owe the vendor. */
async function owedOf(sql: Sql, companyId: number, agreementId: number): Promise<string> {
  const [row] = await sql.rows<{ owed: string | null }>(
    `SELECT SUM(oi.amount - oi.settled) AS owed FROM open_item oi WHERE oi.company_id = ? AND (
       oi.customer_invoice_id IN (
         SELECT i.invoice_id FROM agreement_line al
           JOIN sales_order_line l ON l.company_id = al.company_id AND l.agreement_line_id = al.id
           JOIN customer_invoice_line i ON i.company_id = l.company_id AND i.order_line_id = l.id
          WHERE al.company_id = ? AND al.agreement_id = ?)
       OR oi.vendor_invoice_id IN (
         SELECT i.invoice_id FROM agreement_line al
           JOIN purchase_order_line l ON l.company_id = al.company_id AND l.agreement_line_id = al.id
           JOIN vendor_invoice_line i ON i.company_id = l.company_id AND i.purchase_line_id = l.id
          WHERE al.company_id = ? AND al.agreement_id = ?))`,
    [companyId, companyId, agreementId, companyId, agreementId],
  );
  return row?.owed ?? '0';
}
