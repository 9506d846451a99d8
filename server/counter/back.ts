import { backRefusals, decideDepositBack, decidePayBack, type PaidBy, type Tender } from '@core/counter';
import { dec, type Day } from '@core/kernel';
import { decided } from '@core/refusals';
import * as contract from '@api/counter';
import { actNamed, defineAct, doWithin, orNotFound, Refused, takeNumbers, type Touched } from '../acts';
import { insertPayment, returnDeposit, tillItemOf } from '../billing';
import type { Sql } from '../db';
import { atCounter } from './keep';
import { cardPaymentTable, depositReturnTable, slipOrderTable, slipPaymentTable, slipTable } from './tables';
import { loadTill } from './tills';

/** What a slip was paid by, less what went back by slips that returned of it. */
async function paidBy(sql: Sql, companyId: number, slipId: number): Promise<PaidBy[]> {
  const rows = await sql.rows<{ kind: Tender; amount: string; cardId: number | null }>(
    `SELECT p.kind, SUM(p.invoiced) AS amount, p.card_payment_id AS card_id FROM slip_payment p
       JOIN slip s ON s.company_id = p.company_id AND s.id = p.slip_id
      WHERE p.company_id = ? AND (s.id = ? OR s.returns_id = ?) GROUP BY p.kind, p.card_payment_id
     HAVING amount > 0 ORDER BY p.card_payment_id`,
    [companyId, slipId, slipId],
  );
  return rows.map((row) => ({ ...row }));
}

/** Goods of a slip brought back: credited and on hand again, the money back to what it came by, in one transaction. // C5 */
export const bringBack = defineAct(contract.bringBack, {
  right: 'counter',
  says: 'take goods back at the till',
  done: 'brought back to the till',
  async load(sql, { slipId, tillId }, { companyId }) {
    const [slip] = await sql.rows<{
      id: number;
      number: string;
      soldOn: Day;
      customerId: number;
      currency: string;
      invoiceId: number | null;
    }>(
      `SELECT id, number, sold_on, customer_id, currency, customer_invoice_id AS invoice_id FROM slip
        WHERE company_id = ? AND id = ? ${sql.forUpdate}`,
      [companyId, slipId],
    );
    const [company] = await sql.rows<{ days: number }>('SELECT return_days AS days FROM company WHERE id = ?', [
      companyId,
    ]);
    const orders = await sql.rows<{ orderId: number }>(
      'SELECT order_id FROM slip_order WHERE company_id = ? AND slip_id = ?',
      [companyId, slipId],
    );
    return {
      slip: orNotFound(slip, 'This slip'),
      days: company!.days,
      orders,
      till: await loadTill(sql, companyId, tillId),
    };
  },
  decide({ slip, days, till }, _input, { workDate }) {
    const told = { number: slip.number, soldOn: slip.soldOn, invoiced: slip.invoiceId !== null };
    return decided(backRefusals({ till, slip: told, days }, workDate), () => ({
      invoiceId: slip.invoiceId!,
    }));
  },
  posts: (_effects, { workDate }) => workDate,
  preview: () => ({}),
  async write(tx, { invoiceId }, { slip, orders, till }, doer, input) {
    const { companyId } = doer;
    const credited = await doWithin(
      tx,
      actNamed('creditInvoice')!,
      {
        kind: 'return',
        invoiceId,
        reason: input.reason,
        lines: input.lines.map((line) => ({ ...line, unitPrice: '' })),
      },
      atCounter(doer),
    );
    const [note] = credited.made;
    const item = await tillItemOf(tx, companyId, 'credit_note_id', note!.id);
    const owed = dec(item.owed.settled).minus(item.owed.amount);
    const decision = decidePayBack(till, owed, await paidBy(tx, companyId, slip.id));
    if (!decision.ok) throw new Refused(decision.refusals);
    const { payments, cash } = decision.effects;
    const number = (await takeNumbers(tx, companyId, { SL: 1 }))('SL');
    const [id] = await tx.insert(slipTable, [
      {
        companyId,
        number,
        drawerId: till.drawer!.id,
        customerId: slip.customerId,
        currency: slip.currency,
        soldOn: doer.workDate,
        soldBy: doer.personId,
        creditNoteId: note!.id,
        returnsId: slip.id,
        total: item.owed.amount,
      },
    ]);
    await tx.insertPlain(
      slipOrderTable,
      orders.map(({ orderId }) => ({ companyId, slipId: id!, orderId })),
    );
    const touched: Touched[] = [
      ...credited.made,
      ...credited.touched,
      { kind: 'SL', id: slip.id, number: slip.number },
    ];
    for (const [at, { kind, amount, rounding }] of payments.entries()) {
      const paid = { amount: dec(amount).neg(), rounding: dec(rounding).neg(), means: kind, slipId: id! };
      touched.push(await insertPayment(tx, doer, item, paid));
      if (kind === 'card') {
        await tx.insert(cardPaymentTable, [
          {
            companyId,
            tillId: till.id,
            orderId: orders[0]!.orderId,
            currency: slip.currency,
            amount,
            back: true,
            givesBackId: payments[at]!.cardId,
            slipId: id!,
          },
        ]);
      }
    }
    await tx.insertPlain(
      slipPaymentTable,
      payments.map(({ kind, amount, rounding, cardId }) => ({
        companyId,
        slipId: id!,
        kind,
        invoiced: dec(amount).neg().toFixed(),
        rounding: dec(rounding).neg().toFixed(),
        cardPaymentId: cardId,
      })),
    );
    await tx.run('UPDATE drawer SET cash = cash - ?, version = version + 1 WHERE company_id = ? AND id = ?', [
      cash,
      companyId,
      till.drawer!.id,
    ]);
    return { made: [{ kind: 'SL', id: id!, number }], touched };
  },
});

/** What is left of a deposit goes back out of the drawer. // C2 */
export const payBackDeposit = defineAct(contract.payBackDeposit, {
  right: 'counter',
  says: 'pay deposits back',
  done: 'deposit paid back',
  async load(sql, { tillId, prepaymentId }, { companyId }) {
    const [order] = await sql.rows<{ orderId: number }>(
      `SELECT o.id AS order_id FROM prepayment p JOIN sales_order o ON o.company_id = p.company_id AND o.id = p.order_id
        WHERE p.company_id = ? AND p.id = ? ${sql.forUpdate}`,
      [companyId, prepaymentId],
    );
    orNotFound(order, 'This deposit');
    const [deposit] = await sql.rows<{ id: number; number: string; left: string; carried: string }>(
      `SELECT id, number, amount - drawn - returned - carried AS \`left\`, own_amount - own_used AS carried FROM prepayment
        WHERE company_id = ? AND id = ? ${sql.forUpdate}`,
      [companyId, prepaymentId],
    );
    return { deposit: deposit!, till: await loadTill(sql, companyId, tillId) };
  },
  decide: ({ deposit, till }) => decideDepositBack(till, deposit),
  posts: (_effects, { workDate }) => workDate,
  preview: ({ cash }) => ({ amount: cash.toFixed() }),
  async write(tx, { left, cash, rounding }, { deposit, till }, doer) {
    await returnDeposit(tx, doer, { id: deposit.id, left, carried: dec(deposit.carried), rounding });
    await tx.insert(depositReturnTable, [
      { companyId: doer.companyId, drawerId: till.drawer!.id, prepaymentId: deposit.id, amount: cash.toFixed() },
    ]);
    await tx.run('UPDATE drawer SET cash = cash - ?, version = version + 1 WHERE company_id = ? AND id = ?', [
      cash.toFixed(),
      doer.companyId,
      till.drawer!.id,
    ]);
    return { made: [], touched: [{ kind: 'PP', id: deposit.id, number: deposit.number }] };
  },
});
