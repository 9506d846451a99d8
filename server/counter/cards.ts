import { amountRefusals } from '@core/billing';
import { drawerRefusals } from '@core/counter';
import { dec, priceText } from '@core/kernel';
import { decided, refuse, type Refusal } from '@core/refusals';
import * as contract from '@api/counter';
import { defineAct, GroundMoved, orNotFound, type Doer, type Touched } from '../acts';
import type { Database, Sql } from '../db';
import { chargeTerminal, giveBackAtTerminal, type TerminalAnswer } from '../stand-ins';
import type { CardPayment } from './tables';
import { cardPaymentTable } from './tables';
import { loadTill } from './tills';

type Card = Pick<
  CardPayment,
  'id' | 'orderId' | 'amount' | 'currency' | 'state' | 'slipId' | 'back' | 'givesBackId'
> & {
  number: string;
};

/** By what the terminal knows a payment: the same whenever it is asked. */
const referenceOf = ({ companyId }: Doer, id: number) => `${companyId}-${id}`;

async function loadCard(sql: Sql, companyId: number, id: number): Promise<Card> {
  const [card] = await sql.rows<Card>(
    `SELECT k.id, k.order_id, k.amount, k.currency, k.state, k.slip_id, k.back, k.gives_back_id, o.number FROM card_payment k
       JOIN sales_order o ON o.company_id = k.company_id AND o.id = k.order_id
      WHERE k.company_id = ? AND k.id = ? ${sql.forUpdate}`,
    [companyId, id],
  );
  return orNotFound(card, 'This card payment');
}

const orderOf = ({ orderId, number }: Card): Touched => ({ kind: 'SO', id: orderId, number });

/** Keeps that a card is to be charged, before the terminal is asked. // C2 */
export const askCard = defineAct(contract.askCard, {
  right: 'counter',
  says: 'take card payments',
  done: 'card asked for',
  async load(sql, input, { companyId }) {
    const till = await loadTill(sql, companyId, input.tillId);
    const [order] = await sql.rows<{ id: number; number: string }>(
      'SELECT id, number FROM sales_order WHERE company_id = ? AND id = ?',
      [companyId, input.orderId],
    );
    return { till, order: orNotFound(order, 'This order') };
  },
  decide: ({ till }, { amount }) =>
    decided([...drawerRefusals(till), ...amountRefusals(amount, till.currency)], () => ({
      amount: dec(amount).toFixed(),
    })),
  preview: ({ amount }) => ({ amount }),
  async write(tx, { amount }, { till, order }, { companyId }) {
    await tx.insert(cardPaymentTable, [
      { companyId, tillId: till.id, orderId: order.id, currency: till.currency, amount },
    ]);
    return { made: [], touched: [{ kind: 'SO', id: order.id, number: order.number }] };
  },
});

/** Hears what the terminal says, outside of the transaction that keeps it: asked again, it charges nothing twice. // C2 */
export const hearCard = defineAct(contract.hearCard, {
  right: 'counter',
  says: 'take card payments',
  done: 'card terminal heard',
  async prepare(database: Database, { id }, doer): Promise<TerminalAnswer | 'given-back'> {
    const card = await database.snapshot((sql) => loadCard(sql, doer.companyId, id));
    if (!card.back) return chargeTerminal(database, referenceOf(doer, id), card.amount);
    const { givesBackId, amount } = card;
    await giveBackAtTerminal(
      database,
      referenceOf(doer, id),
      givesBackId === null ? null : { of: referenceOf(doer, givesBackId), amount },
    );
    return 'given-back';
  },
  async load(sql, { id }, { companyId }, answer) {
    const card = await loadCard(sql, companyId, id);
    // Meanwhile somebody wants it back: the terminal is to be asked for that.
    if (card.back !== (answer === 'given-back')) throw new GroundMoved();
    return { card, answer };
  },
  decide({ card, answer }) {
    const amount = priceText(card.amount, card.currency);
    const refusals: Refusal[] = [];
    if (card.state !== 'asked') refusals.push(refuse('card-settled', '', { state: card.state.replace('-', ' ') }));
    else if (answer === 'silent') refusals.push(refuse('card-silent', '', { amount }));
    return decided(refusals, () => ({ state: answer as 'taken' | 'refused' | 'given-back' }));
  },
  preview: ({ state }) => ({ state }),
  async write(tx, { state }, { card }, doer) {
    await tx.run(
      'UPDATE card_payment SET state = ?, terminal = ?, version = version + 1 WHERE company_id = ? AND id = ?',
      [state, referenceOf(doer, card.id), doer.companyId, card.id],
    );
    return { made: [], touched: [orderOf(card)] };
  },
});

/** Gives back what was taken for no slip; what the terminal was only asked for is asked back too. // C2 */
export const giveBackCard = defineAct(contract.giveBackCard, {
  right: 'counter',
  says: 'give card payments back',
  done: 'card payment given back',
  load: (sql, { id }, { companyId }) => loadCard(sql, companyId, id),
  decide(card) {
    const open = (card.state === 'asked' || card.state === 'taken') && card.slipId === null;
    return decided(
      open
        ? []
        : [refuse('card-settled', '', { state: card.slipId === null ? card.state.replace('-', ' ') : 'on a slip' })],
      () => ({
        amount: card.amount,
      }),
    );
  },
  preview: ({ amount }) => ({ amount }),
  async write(tx, _effects, card, { companyId }) {
    // The terminal hears of it after: until it has, the payment hangs.
    await tx.run(
      "UPDATE card_payment SET state = 'asked', back = TRUE, version = version + 1 WHERE company_id = ? AND id = ?",
      [companyId, card.id],
    );
    return { made: [], touched: [orderOf(card)] };
  },
});
