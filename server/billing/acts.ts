import { decideCustomerInvoice, decidePayment, decideVendorInvoice, type CustomerInvoiceEffects } from '@core/billing';
import { bothOf, dec, isDay, known, priceText, type Day } from '@core/kernel';
import { customerInvoiceJournal, drawJournal, netsOf, paymentJournal, vendorInvoiceJournal } from '@core/ledger';
import * as contract from '@api/billing';
import { defineAct, takeNumbers, type Doer, type Touched } from '../acts';
import { accrualJournals, counterStatements, writeAccruals, type CounterChange } from '../agreements';
import { foreignOf } from '../catalogue';
import type { Tx } from '../db';
import { postJournals } from '../ledger';
import { claimRebate } from './claim-rebate';
import { creditInvoice, settleRebate } from './credit-note';
import { openItems } from './open-before';
import { insertOpenItem, insertTaxes } from './open-items';
import { inOwn } from './in-own';
import { takePrepayment } from './prepayment';
import { dropShortfall, postShortfall } from './shortfall';
import { setOffCredit } from './set-off';
import { takeBackInvoice } from './take-back';
import { writeVendorInvoice } from './write-vendor-invoice';
import { loadForCustomerInvoice, loadForVendorInvoice, loadOpenItem } from './store';
import {
  customerInvoiceLineTable,
  customerInvoiceTable,
  invoiceAllowanceTable,
  paymentTable,
  prepaymentMoveTable,
} from './tables';

const invoiceCustomer = defineAct(contract.invoiceCustomer, {
  right: 'customer-invoices',
  says: 'invoice customers',
  done: 'customer invoiced',
  load: (tx, { orderId, others, invoiceDate }, doer) =>
    loadForCustomerInvoice(tx, doer.companyId, [orderId, ...others], dayOr(invoiceDate, doer.workDate)),
  decide: (ground, input, doer) => decideCustomerInvoice(ground, input, doer.workDate),
  posts: ({ invoiceDate }) => invoiceDate,
  preview: (effects, { exchange }) => ({ ...effects, own: inOwn(exchange, effects.rate, effects.own) }),
  async write(tx, effects, { orders, agreements, exchange }, doer) {
    const { companyId } = doer;
    await tx.run(
      `UPDATE sales_order_line SET invoiced = invoiced + CASE id ${effects.lines.map(() => 'WHEN ? THEN ?').join(' ')} ELSE 0 END
        WHERE company_id = ? AND id IN (?)`,
      [...byLine(effects.lines).flat(), companyId, effects.lines.map((line) => line.orderLineId)],
    );
    await tx.batch(counterStatements(companyId, 'invoiced', underAgreement(effects.lines)));
    await tx.run("UPDATE sales_order SET state = 'closed' WHERE company_id = ? AND id IN (?) AND state = 'confirmed'", [
      companyId,
      effects.closes,
    ]);
    const draws = effects.draws.length > 0 ? 1 : 0;
    const number = await takeNumbers(tx, companyId, { CI: 1, JR: 1 + draws + accrualJournals(effects.rebates) });
    const document = { kind: 'CI' as const, number: number('CI') };
    const [id] = await tx.insert(customerInvoiceTable, [
      {
        companyId,
        number: document.number,
        customerId: effects.customerId,
        orderId: effects.orderId,
        currency: effects.currency,
        invoiceDate: effects.invoiceDate,
        dueDate: effects.dueDate,
        net: effects.net,
        tax: effects.tax,
        total: effects.total,
        rate: effects.rate,
        ownNet: effects.own.net,
        ownTax: effects.own.tax,
      },
    ]);
    const lineIds = await tx.insert(
      customerInvoiceLineTable,
      effects.lines.map((line) => ({
        companyId,
        invoiceId: id!,
        shipmentLineId: line.shipmentLineId,
        orderLineId: line.orderLineId,
        quantity: line.quantity,
        unitPrice: line.unitPrice,
        net: line.net,
        allowance: line.allowance,
        agreedNet: line.agreedNet,
        taxCodeId: line.taxCodeId,
        taxRate: line.taxRate,
      })),
    );
    await tx.insertPlain(
      invoiceAllowanceTable,
      effects.allowances.map((each) => ({
        companyId,
        invoiceId: id!,
        measure: each.measure,
        reached: each.reached,
        fromMeasure: each.from,
        perCent: each.perCent,
        amount: each.amount,
      })),
    );
    await insertTaxes(tx, doer, 'CI', id!, effects.taxes);
    await insertOpenItem(
      tx,
      doer,
      { customerId: effects.customerId, customerInvoiceId: id! },
      {
        ...effects,
        amount: effects.total,
        ownAmount: effects.own.total,
        settled: effects.drawn,
        ownSettled: effects.ownDrawn.settled,
      },
    );
    const source = { kind: 'CI' as const, id: id! };
    const currency = foreignOf(exchange);
    const posted = { source, postedOn: effects.invoiceDate, customerId: effects.customerId, currency };
    const { own, drawn, ownDrawn } = effects;
    const invoiced = customerInvoiceJournal(
      bothOf(effects.net, own.net),
      bothOf(effects.tax, own.tax),
      netsOf(effects.lines, known(exchange)),
    );
    const drawnEntries = drawJournal(bothOf(drawn, ownDrawn.settled), dec(ownDrawn.carried));
    const journals = [
      { ...posted, number: number('JR'), entries: invoiced },
      ...(draws ? [{ ...posted, number: number('JR'), entries: drawnEntries }] : []),
    ];
    await writeDraws(tx, doer, effects, id!, lineIds);
    // What was kept for these orders is drawn now, or is free for others. // C1
    if (draws > 0) {
      await tx.run('DELETE FROM prepayment_mark WHERE company_id = ? AND order_id IN (?)', [
        companyId,
        orders.map((order) => order.id),
      ]);
    }
    const accruals = await writeAccruals(tx, doer, effects.rebates, { ...source, currency }, effects.invoiceDate, () =>
      number('JR'),
    );
    await postJournals(tx, doer, [...journals, ...accruals]);
    return {
      made: [{ ...document, id: id! }],
      touched: [
        ...orders.map(({ id: orderId, number: of }) => ({ kind: 'SO' as const, id: orderId, number: of })),
        ...agreements,
      ],
    };
  },
});

/** A day that was typed as one; else the other. */
const dayOr = (typed: string | null, other: Day): Day => (typed !== null && isDay(typed) ? typed : other);

/** What of lines counts on agreement lines, in quantity and in the value under the agreement. // A4 A5 */
function underAgreement(
  lines: readonly { agreementLineId: number | null; quantity: string; net: string; agreedNet: string | null }[],
): CounterChange[] {
  return lines.flatMap((line) =>
    line.agreementLineId === null
      ? []
      : [{ agreementLineId: line.agreementLineId, quantity: line.quantity, value: line.agreedNet ?? line.net }],
  );
}

/** What the invoice draws from prepayments, line by line. // A12 */
async function writeDraws(
  tx: Tx,
  doer: Doer,
  { draws, invoiceDate }: CustomerInvoiceEffects,
  invoiceId: number,
  lineIds: readonly number[],
): Promise<void> {
  await tx.batch(
    draws.map((draw) => ({
      sql: 'UPDATE prepayment SET drawn = drawn + ?, own_used = own_used + ? WHERE company_id = ? AND id = ?',
      values: [draw.amount, draw.carried, doer.companyId, draw.prepaymentId],
    })),
  );
  await tx.insertPlain(
    prepaymentMoveTable,
    draws.map((draw) => ({
      companyId: doer.companyId,
      prepaymentId: draw.prepaymentId,
      kind: 'drawn',
      amount: draw.amount,
      ownAmount: draw.carried,
      ownWorth: draw.worth,
      movedOn: invoiceDate,
      customerInvoiceId: invoiceId,
      invoiceLineId: draw.lineIndex === null ? null : lineIds[draw.lineIndex]!,
    })),
  );
}

/** Order line and quantity, summed: one line may be invoiced for several shipments at once. */
function byLine(lines: readonly { orderLineId: number; quantity: string }[]): [number, string][] {
  // CASE takes the first match, so a line met again is folded into its first.
  const sums = new Map<number, string>();
  for (const line of lines) {
    sums.set(
      line.orderLineId,
      dec(sums.get(line.orderLineId) ?? '0')
        .plus(line.quantity)
        .toFixed(),
    );
  }
  return lines.map((line) => [line.orderLineId, sums.get(line.orderLineId)!]);
}

export const enterVendorInvoice = defineAct(contract.enterVendorInvoice, {
  right: 'vendor-invoices',
  says: 'enter vendor invoices',
  done: 'vendor invoice entered',
  load: (tx, input, doer) =>
    loadForVendorInvoice(tx, doer.companyId, input.purchaseId, input.vendorNumber, input.invoiceDate ?? doer.workDate),
  decide: (ground, input, doer) => decideVendorInvoice(ground, input, doer.workDate),
  posts: (_effects, { workDate }) => workDate,
  preview: ({ posted, ...effects }, { exchange }) => {
    const own = inOwn(exchange, effects.rate, effects.own);
    const { received, dropDifference, stockDifference, net } = posted;
    const priced = received.own.plus(dropDifference.own).plus(stockDifference.own);
    return {
      ...effects,
      received: received.amount.toFixed(),
      dropDifference: dropDifference.amount.toFixed(),
      stockDifference: stockDifference.amount.toFixed(),
      own: own && { ...own, exchangeDifference: net.own.minus(priced).toFixed() },
    };
  },
  async write(tx, effects, { purchase, agreements, take, exchange }, doer) {
    const { companyId } = doer;
    await tx.batch(counterStatements(companyId, 'invoiced', underAgreement(effects.lines)));
    for (const line of effects.lines) {
      await tx.run('UPDATE purchase_order_line SET invoiced = invoiced + ? WHERE company_id = ? AND id = ?', [
        line.quantity,
        companyId,
        line.purchaseLineId,
      ]);
    }
    if (effects.closes) {
      await tx.run("UPDATE purchase_order SET state = 'closed' WHERE company_id = ? AND id = ? AND state = 'placed'", [
        companyId,
        purchase.id,
      ]);
    }
    const number = await takeNumbers(tx, companyId, { VI: 1, JR: 1 });
    const document = { kind: 'VI' as const, number: number('VI') };
    const { id } = await writeVendorInvoice(tx, doer, {
      ...effects,
      number: document.number,
      journalNumber: number('JR'),
      take,
      reverses: null,
      postedOn: doer.workDate,
      entries: vendorInvoiceJournal(effects.posted),
      foreign: foreignOf(exchange),
      lines: effects.lines.map((line) => ({ ...line, receivedCost: line.received })),
    });
    return {
      made: [{ ...document, id }],
      touched: [{ kind: 'PO', id: purchase.id, number: purchase.number }, ...agreements],
    };
  },
});

const recordPayment = defineAct(contract.recordPayment, {
  right: 'payments',
  says: 'record payments',
  done: 'payment recorded',
  load: (tx, input, doer) => loadOpenItem(tx, doer.companyId, input.openItemId, input.paidOn ?? doer.workDate),
  decide: (ground, input) => decidePayment(ground, input),
  posts: ({ paidOn }) => paidOn,
  second: ({ side, currency, amount }, { document }) =>
    side === 'vendor'
      ? [{ kind: 'money-out', words: `Pay ${currency} ${priceText(amount, currency)} of ${document.number}` }]
      : [],
  preview: ({ amount, side, own, rate, currency }) => ({
    amount,
    side,
    own:
      currency === own.currency
        ? null
        : { currency: own.currency, rate, paid: own.paid, difference: dec(own.paid).minus(own.settled).toFixed() },
  }),
  async write(tx, effects, { document, exchange }, doer) {
    const { companyId } = doer;
    await tx.run(
      'UPDATE open_item SET settled = settled + ?, own_settled = own_settled + ? WHERE company_id = ? AND id = ?',
      [effects.amount, effects.own.settled, companyId, effects.openItemId],
    );
    const number = await takeNumbers(tx, companyId, { PY: 1, JR: 1 });
    const payment = number('PY');
    const [id] = await tx.insert(paymentTable, [
      {
        companyId,
        number: payment,
        openItemId: effects.openItemId,
        currency: effects.currency,
        paidOn: effects.paidOn,
        amount: effects.amount,
        rate: effects.rate,
        ownAmount: effects.own.paid,
        ownSettled: effects.own.settled,
      },
    ]);
    await postJournals(tx, doer, [
      {
        number: number('JR'),
        source: { kind: 'PY', id: id! },
        postedOn: effects.paidOn,
        entries: paymentJournal(effects.side, bothOf(effects.amount, effects.own.paid), dec(effects.own.settled)),
        currency: foreignOf(exchange),
        customerId: effects.side === 'customer' ? effects.partyId : null,
        vendorId: effects.side === 'vendor' ? effects.partyId : null,
      },
    ]);
    const made: Touched[] = [{ kind: 'PY', id: id!, number: payment }];
    return { made, touched: [document] };
  },
});

export const billingActs = [
  invoiceCustomer,
  enterVendorInvoice,
  recordPayment,
  creditInvoice,
  settleRebate,
  claimRebate,
  takeBackInvoice,
  takePrepayment,
  postShortfall,
  dropShortfall,
  openItems,
  setOffCredit,
];
