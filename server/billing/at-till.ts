import type { Dec, OwedInBoth } from '@core/kernel';
import { paymentJournal, prepaymentJournal, prepaymentReturnJournal, type Means } from '@core/ledger';
import { takeNumbers, type Doer, type Touched } from '../acts';
import type { Tx } from '../db';
import { postJournals } from '../ledger';
import { writeSetOffs } from './open-items';
import { paymentTable, prepaymentMoveTable, prepaymentTable } from './tables';

/** An open item, locked, as a till pays on it: of an invoice, or below zero of a credit note. */
export interface TillItem {
  id: number;
  customerId: number;
  currency: string;
  owed: OwedInBoth;
}

/** The open item of an invoice or a credit note, locked. */
export async function tillItemOf(
  tx: Tx,
  companyId: number,
  of: 'customer_invoice_id' | 'credit_note_id',
  id: number,
): Promise<TillItem> {
  const [row] = await tx.rows<OwedInBoth & { id: number; customerId: number; currency: string }>(
    `SELECT id, customer_id, currency, amount, settled, own_amount, own_settled FROM open_item
      WHERE company_id = ? AND ${of} = ? ${tx.forUpdate}`,
    [companyId, id],
  );
  const { id: itemId, customerId, currency, ...owed } = row!;
  return { id: itemId, customerId, currency, owed };
}

/**
 * Money in (or, below zero, out) on an open item by some means, in the company's own currency; cash with what it was rounded
 * by. What is settled of the item moves with it. // C2 P3
 */
export async function insertPayment(
  tx: Tx,
  doer: Doer,
  item: TillItem,
  { amount, rounding, means, slipId }: { amount: Dec; rounding: Dec; means: Means; slipId: number },
): Promise<Touched> {
  const { companyId, workDate } = doer;
  const number = await takeNumbers(tx, companyId, { PY: 1, JR: 1 });
  const document = number('PY');
  const text = amount.toFixed();
  const [id] = await tx.insert(paymentTable, [
    {
      companyId,
      number: document,
      openItemId: item.id,
      currency: item.currency,
      paidOn: workDate,
      amount: text,
      ownAmount: text,
      ownSettled: text,
      means,
      rounding: rounding.toFixed(),
      slipId,
    },
  ]);
  await tx.run(
    'UPDATE open_item SET settled = settled + ?, own_settled = own_settled + ? WHERE company_id = ? AND id = ?',
    [text, text, companyId, item.id],
  );
  const paid = { amount, own: amount };
  await postJournals(tx, doer, [
    {
      number: number('JR'),
      source: { kind: 'PY', id: id! },
      postedOn: workDate,
      entries: paymentJournal('customer', paid, amount, means, rounding),
      currency: null,
      customerId: item.customerId,
    },
  ]);
  return { kind: 'PY', id: id!, number: document };
}

/** A deposit for what of an order is not taken along. // C2 C3 */
export async function insertDeposit(
  tx: Tx,
  doer: Doer,
  deposit: {
    customerId: number;
    orderId: number;
    currency: string;
    amount: Dec;
    rounding: Dec;
    means: Means;
    slipId: number;
  },
): Promise<Touched> {
  const { companyId, workDate } = doer;
  const { customerId, orderId, currency, amount, rounding, means, slipId } = deposit;
  const number = await takeNumbers(tx, companyId, { PP: 1, JR: 1 });
  const document = number('PP');
  const [id] = await tx.insert(prepaymentTable, [
    {
      companyId,
      number: document,
      customerId,
      orderId,
      currency,
      takenOn: workDate,
      amount: amount.toFixed(),
      ownAmount: amount.toFixed(),
      means,
      rounding: rounding.toFixed(),
      slipId,
    },
  ]);
  await postJournals(tx, doer, [
    {
      number: number('JR'),
      source: { kind: 'PP', id: id! },
      postedOn: workDate,
      entries: prepaymentJournal({ amount, own: amount }, means, rounding),
      currency: null,
    },
  ]);
  return { kind: 'PP', id: id!, number: document };
}

/** What is left of a deposit goes back in cash, with what that was rounded by (below zero: more went out). // C2 */
export async function returnDeposit(
  tx: Tx,
  doer: Doer,
  { id, left, carried, rounding }: { id: number; left: Dec; carried: Dec; rounding: Dec },
): Promise<void> {
  const { companyId, workDate } = doer;
  const number = await takeNumbers(tx, companyId, { JR: 1 });
  await tx.run(
    'UPDATE prepayment SET returned = returned + ?, own_used = own_used + ? WHERE company_id = ? AND id = ?',
    [left.toFixed(), carried.toFixed(), companyId, id],
  );
  await tx.insertPlain(prepaymentMoveTable, [
    {
      companyId,
      prepaymentId: id,
      kind: 'returned',
      amount: left.toFixed(),
      ownAmount: carried.toFixed(),
      ownWorth: left.toFixed(),
      movedOn: workDate,
      means: 'cash',
      rounding: rounding.toFixed(),
    },
  ]);
  await postJournals(tx, doer, [
    {
      number: number('JR'),
      source: { kind: 'PP', id },
      postedOn: workDate,
      entries: prepaymentReturnJournal({ amount: left, own: left }, carried, 'cash', rounding),
      currency: null,
    },
  ]);
}

/** So much of what is left of a credit note set off against an invoice: a voucher. Both are in the company's own currency. // C2 */
export async function setOffVoucher(
  tx: Tx,
  doer: Doer,
  invoice: TillItem,
  creditNoteId: number,
  amount: Dec,
): Promise<void> {
  const credit = await tillItemOf(tx, doer.companyId, 'credit_note_id', creditNoteId);
  const text = amount.toFixed();
  await writeSetOffs(tx, doer, credit.id, [
    { openItemId: invoice.id, amount: text, ownInvoice: text, ownCredit: text },
  ]);
}
