import { decideSale, dueAtTill, dueOf, takenAlong, togetherRefusals, type SaleEffects } from '@core/counter';
import { dec, priceText, sum } from '@core/kernel';
import { refuse, type Decision } from '@core/refusals';
import * as contract from '@api/counter';
import { actNamed, defineAct, doWithin, Refused, takeNumbers, type Doer, type Touched } from '../acts';
import { insertDeposit, insertPayment, setOffVoucher, tillItemOf } from '../billing';
import type { Sql, Tx } from '../db';
import { loadAtTill } from './ground';
import { atCounter, waitsNoMore } from './keep';
import { loadTill } from './tills';
import { slipOrderTable, slipPaymentTable, slipTable } from './tables';

/** Credit notes of a customer with something left, oldest first. */
export function vouchersOf(sql: Sql, companyId: number, customerId: number, currency: string) {
  return sql.rows<{ creditNoteId: number; number: string; left: string }>(
    `SELECT n.id AS credit_note_id, n.number, i.settled - i.amount AS \`left\`
       FROM open_item i JOIN credit_note n ON n.company_id = i.company_id AND n.id = i.credit_note_id
      WHERE i.company_id = ? AND i.customer_id = ? AND i.currency = ? AND i.amount < i.settled ORDER BY i.id`,
    [companyId, customerId, currency],
  );
}

/** What the terminal has not answered or took for orders and that is on no slip. */
export function cardsOf(sql: Sql, companyId: number, orderIds: readonly number[]) {
  return sql.rows<{ id: number; amount: string; state: 'asked' | 'taken'; orderId: number }>(
    `SELECT id, amount, state, order_id FROM card_payment
      WHERE company_id = ? AND order_id IN (?) AND hanging = TRUE AND back = FALSE ORDER BY id ${sql.forUpdate}`,
    [companyId, orderIds],
  );
}

type Loaded = Awaited<ReturnType<typeof loadAtTill>>;

/** Hands over, invoices and takes the money in one transaction: all of it or nothing. // C2 C3 */
export const sellAtTill = defineAct(contract.sellAtTill, {
  right: 'counter',
  says: 'sell at the till',
  done: 'sold at the till',
  expectedVersion: ({ orders }) => ({ kind: 'SO', ...orders[0]! }),
  async load(sql, { orders, tillId }, { companyId, workDate }) {
    const ids = orders.map(({ id }) => id);
    const found = await loadAtTill(sql, companyId, ids, workDate);
    const [vouchers, cards, till] = await Promise.all([
      vouchersOf(sql, companyId, found.customer.id, found.orders[0]!.currency),
      cardsOf(sql, companyId, ids),
      loadTill(sql, companyId, tillId),
    ]);
    return { found, vouchers, cards, till };
  },
  decide({ found, vouchers, cards, till }, input, { workDate }): Decision<Sold> {
    const seen = found.orders.map((order, at) => ({ ...order, seen: input.orders[at]!.version }));
    const { taken, refusals: takes } = takenAlong(found.ground.lines, input.take);
    const refusals = [...togetherRefusals(till, found.customer.name, seen), ...takes];
    if (found.ground.lines.length === 0) refusals.push(refuse('nothing-at-till', '', {}));
    if (refusals.length > 0) return { ok: false, refusals };
    const due = dueAtTill(found.ground, taken, input.later, workDate);
    if (taken.size === 0 && dueOf(due).lte(0)) return { ok: false, refusals: [refuse('nothing-at-till', '', {})] };
    const decision = decideSale(
      {
        currency: till.currency,
        invoiced: due.invoiced,
        deposits: due.deposits,
        mayOwe: found.mayOwe,
        cards: cards.filter(({ state }) => state === 'taken'),
        vouchers,
      },
      input,
    );
    return decision.ok
      ? { ...decision, effects: { ...decision.effects, due, taken } }
      : { ok: false, refusals: decision.refusals };
  },
  posts: (_effects, { workDate }) => workDate,
  preview: ({ due, change }) => ({ toPay: dueOf(due).toFixed(), change }),
  async write(tx, effects, { found, till }, doer, input) {
    const inner = atCounter(doer);
    const touched: Touched[] = [];
    // On account the limit holds; what is paid at once owes nothing. // S4
    const paidAtOnce: Doer = input.onAccount ? inner : { ...inner, rights: [...inner.rights, 'credit'] };
    for (const order of found.orders.filter(({ state }) => state === 'draft')) {
      const creditReason = input.onAccount ? undefined : 'Paid at the till';
      const confirmed = await doWithin(
        tx,
        actNamed('confirmOrder')!,
        { id: order.id, version: order.version, creditReason },
        paidAtOnce,
      );
      touched.push(...confirmed.made, ...confirmed.touched);
    }
    const lines = [...effects.taken].map(([lineId, quantity]) => {
      const numbers = input.take.find((each) => each.lineId === lineId)?.numbers;
      return { lineId, quantity, ...(numbers ? { numbers } : {}) };
    });
    if (lines.length > 0) touched.push(...(await changedBy(doWithin(tx, actNamed('sendOut')!, { lines }, inner))));
    const invoice = await invoiced(tx, inner, found, effects, touched);
    const document = await writeSlip(tx, doer, { found, till, effects, invoiceId: invoice?.id ?? null }, touched);
    return { made: [document], touched: onceEach(touched) };
  },
});

type Sold = SaleEffects & { due: ReturnType<typeof dueAtTill>; taken: Map<number, string> };

const changedBy = async (done: Promise<{ made: Touched[]; touched: Touched[] }>) => {
  const { made, touched } = await done;
  return [...made, ...touched];
};

/** The invoice of what went out: to the cent what was reckoned before it went. */
async function invoiced(
  tx: Tx,
  doer: Doer,
  found: Loaded,
  { due, taken }: Sold,
  touched: Touched[],
): Promise<Touched | null> {
  if (taken.size === 0 && found.ground.invoice.lines.length === 0) return null;
  const [first, ...others] = found.orders;
  const done = await doWithin(
    tx,
    actNamed('invoiceCustomer')!,
    { orderId: first!.id, others: others.map(({ id }) => id), lines: null, invoiceDate: null },
    doer,
  );
  touched.push(...done.made, ...done.touched);
  const [invoice] = done.made;
  const item = await tillItemOf(tx, doer.companyId, 'customer_invoice_id', invoice!.id);
  const left = dec(item.owed.amount).minus(item.owed.settled);
  // Prices of the day it ships are found again as it goes. // R3
  if (!left.eq(due.invoiced)) {
    const facts = { is: priceText(left, item.currency), was: priceText(due.invoiced, item.currency) };
    throw new Refused([refuse('till-reckoned', '', facts)]);
  }
  return invoice!;
}

/** The slip with its payments, each where it belongs; the drawer grows by the cash. // C3 C4 */
async function writeSlip(
  tx: Tx,
  doer: Doer,
  {
    found,
    till,
    effects,
    invoiceId,
  }: { found: Loaded; till: Awaited<ReturnType<typeof loadTill>>; effects: Sold; invoiceId: number | null },
  touched: Touched[],
): Promise<Touched> {
  const { companyId } = doer;
  const { due, payments, cash, change } = effects;
  const deposited = sum(due.deposits.map(({ amount }) => dec(amount)));
  const number = (await takeNumbers(tx, companyId, { SL: 1 }))('SL');
  const [slipId] = await tx.insert(slipTable, [
    {
      companyId,
      number,
      drawerId: till.drawer!.id,
      customerId: found.customer.id,
      currency: till.currency,
      soldOn: doer.workDate,
      soldBy: doer.personId,
      customerInvoiceId: invoiceId,
      total: due.total,
      covered: due.covered,
      deposited: deposited.toFixed(),
      given: sum(payments.map(({ given }) => dec(given))).toFixed(),
      changeGiven: change,
    },
  ]);
  await tx.insertPlain(
    slipOrderTable,
    found.orders.map(({ id: orderId }) => ({ companyId, slipId: slipId!, orderId })),
  );
  const invoice = invoiceId === null ? null : await tillItemOf(tx, companyId, 'customer_invoice_id', invoiceId);
  for (const payment of payments) {
    const { kind, deposits } = payment;
    const amount = dec(payment.invoiced);
    if (kind === 'voucher') await setOffVoucher(tx, doer, invoice!, payment.creditNoteId!, amount);
    if (kind === 'cash' || kind === 'card') {
      const first = amount.gt(0);
      let rounding = dec(payment.rounding);
      if (first) {
        touched.push(await insertPayment(tx, doer, invoice!, { amount, rounding, means: kind, slipId: slipId! }));
        rounding = dec(0);
      }
      for (const deposit of deposits) {
        const { orderId } = deposit;
        touched.push(
          await insertDeposit(tx, doer, {
            customerId: found.customer.id,
            orderId,
            currency: till.currency,
            amount: dec(deposit.amount),
            rounding,
            means: kind,
            slipId: slipId!,
          }),
        );
        rounding = dec(0);
      }
    }
    if (payment.cardId !== null) {
      await tx.run('UPDATE card_payment SET slip_id = ?, version = version + 1 WHERE company_id = ? AND id = ?', [
        slipId!,
        companyId,
        payment.cardId,
      ]);
    }
  }
  await tx.insertPlain(
    slipPaymentTable,
    payments.map(({ kind, invoiced: amount, deposits, rounding, cardId, creditNoteId }) => ({
      companyId,
      slipId: slipId!,
      kind,
      invoiced: amount,
      deposited: sum(deposits.map((each) => dec(each.amount))).toFixed(),
      rounding,
      cardPaymentId: cardId,
      creditNoteId,
    })),
  );
  await tx.run('UPDATE drawer SET cash = cash + ?, version = version + 1 WHERE company_id = ? AND id = ?', [
    cash,
    companyId,
    till.drawer!.id,
  ]);
  await waitsNoMore(
    tx,
    companyId,
    found.orders.map(({ id }) => id),
  );
  return { kind: 'SL', id: slipId!, number };
}

/** Each document once, as it was told last. */
function onceEach(all: readonly Touched[]): Touched[] {
  return [...new Map(all.map((each) => [`${each.kind} ${each.id}`, each])).values()];
}
