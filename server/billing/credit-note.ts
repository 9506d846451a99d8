import { decideCreditNote, decideSettlement, type CreditEffects, type CreditGround } from '@core/billing';
import { bothOf, dec, negBoth, pointOf, priceText, type Day } from '@core/kernel';
import { numbered, numbersShown } from '@core/serial';
import {
  atCost,
  creditNoteJournal,
  netsOf,
  openingItemJournal,
  rebateSettlementJournal,
  returnJournal,
} from '@core/ledger';
import * as agreements from '@api/agreements';
import * as contract from '@api/billing';
import { defineAct, NotFound, takeNumbers, orNotFound, type Doer } from '../acts';
import {
  accrualJournals,
  counterStatements,
  loadAgreement,
  loadAgreements,
  rebatesOf,
  writeAccruals,
} from '../agreements';
import { exchangeOn, foreignOf, ownCurrency } from '../catalogue';
import { Piece, TextPiece, type Sql, type Statement, type Tx, type Columns } from '../db';
import { postJournals } from '../ledger';
import { stockStatement } from '../on-hand';
import { agreementsOf, loadOrder, reopenStatement } from '../orders';
import { loadStockAndNumbers, numbersToWrite } from '../serial';
import { inOwn } from './in-own';
import { insertOpenItem, insertTaxes, loadOwed, setOffEntries, writeSetOffs, type OwedColumns } from './open-items';
import type { CustomerInvoiceLine, OpenItem } from './tables';
import { rebateEntryTable } from '../agreements/tables';
import { creditNoteLineTable, creditNoteTable } from './tables';

import { stockEntryTable } from '../stock/tables';

/** Credits an invoice for goods that came back, or for a price put right. // P1 P3 A4 A10 */
export const creditInvoice = defineAct(contract.creditInvoice, {
  right: 'customer-invoices',
  says: 'write credit notes',
  done: 'credited',
  load: (tx, { invoiceId, lines }, doer) =>
    loadForCredit(
      tx,
      doer.companyId,
      invoiceId,
      lines.flatMap(({ numbers = [] }) => numbers),
    ),
  decide: (ground, input, { workDate }) =>
    numbered(decideCreditNote(ground, input, workDate), ground.numbers, workDate, ({ lines }) =>
      lines
        .filter(({ quantity }) => dec(quantity).gt(0))
        .map(({ invoiceLineId, orderLineId, itemId, locationId, quantity }) => {
          const at = input.lines.findIndex((line) => line.invoiceLineId === invoiceLineId);
          return {
            way: 'return',
            itemId,
            locationId,
            quantity,
            lineId: orderLineId,
            with: { kind: 'CN', at: 0 },
            field: at < 0 ? '' : `lines.${at}.numbers`,
            typed: input.lines[at]?.numbers ?? [],
          };
        }),
    ),
  also: ({ lines }) =>
    lines.some((line) => dec(line.quantity).gt(0)) ? [{ right: 'goods', says: 'take goods back into stock' }] : [],
  posts: ({ creditDate }) => creditDate,
  second: ({ kind, currency, total, reason }, { invoice }) =>
    kind === 'price'
      ? [
          {
            kind: 'write-off',
            words: `Credit ${currency} ${priceText(total, currency)} of ${invoice.number}: ${reason}`,
          },
        ]
      : [],
  preview: ({ setOff, own, numbers, ...effects }, { invoice }) => ({
    ...effects,
    numbers: numbersShown(numbers),
    own: inOwn(invoice.exchange, effects.rate, own),
    setOff: setOff.amount,
  }),
  async write(tx, effects, { orders, touched, openItemId, invoice, opening }, doer) {
    const { companyId } = doer;
    const back = effects.lines.filter((line) => dec(line.quantity).gt(0));
    await tx.batch([...countersOf(effects, companyId), ...orders.map((order) => reopenStatement(companyId, order.id))]);
    const goods = dec(effects.cost).gt(0) ? 1 : 0;
    const number = await takeNumbers(tx, companyId, { CN: 1, JR: 1 + goods + accrualJournals(effects.rebates) });
    const document = { kind: 'CN' as const, number: number('CN') };
    const id = await insertCreditNote(tx, doer, document.number, {
      ...effects,
      agreementId: null,
      opening,
    });
    await tx.insertPlain(
      creditNoteLineTable,
      effects.lines.map((line) => ({
        companyId,
        creditNoteId: id,
        invoiceLineId: line.invoiceLineId,
        orderLineId: line.orderLineId,
        quantity: line.quantity,
        uninvoiced: line.uninvoiced,
        unitPrice: line.unitPrice,
        net: line.net,
        agreedNet: line.agreedNet,
        value: line.value,
        agreedValue: line.agreedValue,
        cost: line.cost,
        taxCodeId: line.taxCodeId,
        taxRate: line.taxRate,
      })),
    );
    await insertTaxes(tx, doer, 'CN', id, effects.taxes);
    await tx.insertPlain(
      stockEntryTable,
      back.map((line) => ({
        companyId,
        itemId: line.itemId,
        place: 'ours',
        locationId: line.locationId,
        quantity: line.quantity,
        cost: line.cost,
        postedOn: effects.creditDate,
        documentKind: 'CN',
        documentId: id,
      })),
    );
    const creditItem = await insertOpenItem(
      tx,
      doer,
      { customerId: effects.customerId, creditNoteId: id },
      {
        currency: effects.currency,
        dueDate: effects.creditDate,
        amount: `-${effects.total}`,
        ownAmount: `-${effects.own.total}`,
      },
    );
    const setOffs = dec(effects.setOff.amount).gt(0) ? [{ openItemId, ...effects.setOff }] : [];
    await writeSetOffs(tx, doer, creditItem, setOffs);
    const source = { kind: 'CN' as const, id };
    const currency = foreignOf(invoice.exchange);
    const posted = { source, postedOn: effects.creditDate, customerId: effects.customerId, currency };
    const { own } = effects;
    const net = bothOf(effects.net, own.net);
    const credited = opening
      ? openingItemJournal('customer', negBoth(net))
      : creditNoteJournal(net, bothOf(effects.tax, own.tax), netsOf(effects.lines, invoice.exchange));
    const journals = [
      { ...posted, opening, number: number('JR'), entries: [...credited, ...setOffEntries('customer', setOffs)] },
      ...(goods ? [{ ...posted, number: number('JR'), entries: returnJournal(effects.cost, atCost(back)) }] : []),
    ];
    const accruals = await writeAccruals(tx, doer, effects.rebates, { ...source, currency }, effects.creditDate, () =>
      number('JR'),
    );
    await postJournals(tx, doer, [...journals, ...accruals]);
    return {
      ...numbersToWrite(doer, effects.numbers, () => id),
      made: [{ ...document, id: new Piece('?', [id]), number: new TextPiece('?', [document.number]) }],
      touched: [
        ...orders.map(({ id: orderId, number: of }) => ({ kind: 'SO' as const, id: orderId, number: of })),
        ...touched,
      ],
    };
  },
});

/** What a credit note moves back: order lines, stock, agreement lines. */
function countersOf({ lines }: CreditEffects, companyId: number): Statement[] {
  const back = lines.filter((line) => dec(line.quantity).gt(0));
  const under = lines.filter((line) => line.agreementLineId !== null);
  const less = (text: string) => dec(text).neg().toFixed();
  return [
    ...back.flatMap((line) => [
      {
        sql: 'UPDATE sales_order_line SET invoiced = invoiced - ?, shipped = shipped - ? WHERE company_id = ? AND id = ?',
        values: [line.quantity, line.quantity, companyId, line.orderLineId],
      },
      stockStatement(companyId, line),
    ]),
    ...lines
      .filter((line) => dec(line.uninvoiced).gt(0))
      .map((line) => ({
        sql: 'UPDATE sales_order_line SET invoiced = invoiced - ? WHERE company_id = ? AND id = ?',
        values: [line.uninvoiced, companyId, line.orderLineId],
      })),
    ...counterStatements(
      companyId,
      'shipped',
      under
        .filter((line) => dec(line.quantity).gt(0))
        .map((line) => ({
          agreementLineId: line.agreementLineId!,
          quantity: less(line.quantity),
          value: less(line.agreedValue ?? line.value),
        })),
    ),
    ...counterStatements(
      companyId,
      'invoiced',
      under.map((line) => ({
        agreementLineId: line.agreementLineId!,
        quantity: less(dec(line.quantity).plus(line.uninvoiced).toFixed()),
        value: less(line.agreedNet ?? line.net),
      })),
    ),
  ];
}

interface NewCreditNote {
  kind: 'return' | 'price' | 'rebate' | 'reversal';
  customerId: number;
  invoiceId: number | null;
  orderId: number | null;
  agreementId: number | null;
  currency: string;
  creditDate: string;
  reason: string;
  net: string;
  tax: string;
  total: string;
  rate: string;
  own: { net: string; tax: string };
  cost: string;
  opening?: boolean;
}

async function insertCreditNote(tx: Tx, doer: Doer, number: string, note: NewCreditNote): Promise<number> {
  const [id] = await tx.insert(creditNoteTable, [
    {
      companyId: doer.companyId,
      number,
      kind: note.kind,
      customerId: note.customerId,
      customerInvoiceId: note.invoiceId,
      orderId: note.orderId,
      agreementId: note.agreementId,
      currency: note.currency,
      creditDate: note.creditDate,
      reason: note.reason,
      net: note.net,
      tax: note.tax,
      total: note.total,
      rate: note.rate,
      ownNet: note.own.net,
      ownTax: note.own.tax,
      cost: note.cost,
      opening: note.opening ?? false,
    },
  ]);
  return id!;
}

/** What of an invoice can be credited; its agreements, orders, stock and open item locked in that order. */
async function loadForCredit(sql: Sql, companyId: number, invoiceId: number, typed: readonly string[]) {
  const [found] = await sql.rows<{ orderId: number | null; opening: boolean }>(
    'SELECT order_id, opening FROM customer_invoice WHERE company_id = ? AND id = ?',
    [companyId, invoiceId],
  );
  const { orderId, opening } = orNotFound(found, 'This customer invoice');
  if (orderId === null && !opening) throw new NotFound('An invoice of a sales order');
  const covered = await sql.rows<{ orderId: number }>(
    `SELECT DISTINCT ol.order_id FROM customer_invoice_line l
       JOIN sales_order_line ol ON ol.company_id = l.company_id AND ol.id = l.order_line_id
      WHERE l.company_id = ? AND l.invoice_id = ? ORDER BY ol.order_id`,
    [companyId, invoiceId],
  );
  const orderIds = covered.map((row) => row.orderId);
  const agreementIds = await agreementsOf(sql, companyId, orderIds);
  const touched = await loadAgreements(sql, companyId, agreementIds);
  const orders = [];
  for (const id of orderIds) orders.push(await loadOrder(sql, companyId, id));
  const lines = await creditableLines(sql, companyId, invoiceId);
  const { numbers } = await loadStockAndNumbers(
    sql,
    companyId,
    lines.map((line) => pointOf(line.item.id, line.locationId)),
    { typed, lineIds: lines.map(({ orderLineId }) => orderLineId) },
  );
  const [invoice] = await sql.rows<
    Columns<OpenItem, OwedColumns> & {
      number: string;
      customerId: number;
      currency: string;
      rate: string;
      own: string;
      openItemId: number;
      day: Day;
      total: string;
      credits: number;
    }
  >(
    `SELECT i.number, i.customer_id, i.total,
            (SELECT COUNT(*) FROM credit_note n WHERE n.company_id = i.company_id AND n.customer_invoice_id = i.id) AS credits, i.currency, i.rate, ${ownCurrency('i.company_id')} AS own, i.invoice_date AS day,
            oi.id AS open_item_id, oi.amount, oi.settled, oi.own_amount, oi.own_settled
       FROM customer_invoice i JOIN open_item oi ON oi.company_id = i.company_id AND oi.customer_invoice_id = i.id
      WHERE i.company_id = ? AND i.id = ? ${sql.forUpdate}`,
    [companyId, invoiceId],
  );
  const { number, customerId, currency, openItemId, day, rate, own, total, credits, ...owed } = orNotFound(
    invoice,
    'This customer invoice',
  );
  return {
    invoice: {
      id: invoiceId,
      number,
      orderId,
      customerId,
      currency,
      total,
      credited: opening && credits > 0,
      owed,
      day,
      exchange: { currency, own, rate },
    },
    opening,
    lines,
    rebates: await rebatesOf(sql, companyId, agreementIds),
    numbers,
    orders,
    touched,
    openItemId,
  };
}

/** Lines of an invoice with what is not credited of them, and of their shipments what did not come back. */
export async function creditableLines(sql: Sql, companyId: number, invoiceId: number): Promise<CreditGround['lines']> {
  const rows = await sql.rows<
    Columns<CustomerInvoiceLine, 'id unitPrice allowance taxCodeId taxRate'> & {
      orderLineId: number;
      agreementLineId: number | null;
      agreementId: number | null;
      itemId: number;
      itemNumber: string;
      locationId: number;
      quantity: string;
      net: string;
      agreedNet: string | null;
      shippedQuantity: string;
      shippedValue: string;
      shippedAgreed: string | null;
      shippedCost: string;
      credited: number;
      whole: string;
      taxCode: string;
    }
  >(
    `SELECT l.id, l.order_line_id, ol.agreement_line_id, al.agreement_id, sl.item_id, i.number AS item_number, ol.location_id, l.unit_price,
            l.net AS whole, l.allowance, l.quantity - COALESCE(own.quantity, 0) AS quantity, l.net - COALESCE(own.net, 0) AS net,
            l.agreed_net - COALESCE(own.agreed_net, 0) AS agreed_net,
            sl.quantity - COALESCE(back.quantity, 0) AS shipped_quantity, sl.value - COALESCE(back.value, 0) AS shipped_value,
            sl.agreed_value - COALESCE(back.agreed_value, 0) AS shipped_agreed, sl.cost - COALESCE(back.cost, 0) AS shipped_cost,
            own.invoice_line_id IS NOT NULL AS credited, tc.code AS tax_code, l.tax_code_id, l.tax_rate
       FROM customer_invoice_line l
       JOIN shipment_line sl ON sl.company_id = l.company_id AND sl.id = l.shipment_line_id
       JOIN sales_order_line ol ON ol.company_id = l.company_id AND ol.id = l.order_line_id
       LEFT JOIN agreement_line al ON al.company_id = ol.company_id AND al.id = ol.agreement_line_id
       JOIN item i ON i.company_id = sl.company_id AND i.id = sl.item_id
       JOIN tax_code tc ON tc.company_id = l.company_id AND tc.id = l.tax_code_id
       LEFT JOIN (SELECT cl.invoice_line_id, SUM(cl.quantity + cl.uninvoiced) AS quantity, SUM(cl.net) AS net, SUM(cl.agreed_net) AS agreed_net
                    FROM customer_invoice_line x
                    JOIN credit_note_line cl ON cl.company_id = x.company_id AND cl.invoice_line_id = x.id
                   WHERE x.company_id = ? AND x.invoice_id = ? GROUP BY cl.invoice_line_id) own ON own.invoice_line_id = l.id
       LEFT JOIN (SELECT y.shipment_line_id, SUM(cl.quantity) AS quantity, SUM(cl.value) AS value,
                         SUM(cl.agreed_value) AS agreed_value, SUM(cl.cost) AS cost
                    FROM customer_invoice_line x
                    JOIN customer_invoice_line y ON y.company_id = x.company_id AND y.shipment_line_id = x.shipment_line_id
                    JOIN credit_note_line cl ON cl.company_id = y.company_id AND cl.invoice_line_id = y.id
                   WHERE x.company_id = ? AND x.invoice_id = ? GROUP BY y.shipment_line_id) back ON back.shipment_line_id = sl.id
      WHERE l.company_id = ? AND l.invoice_id = ? ORDER BY l.id`,
    [companyId, invoiceId, companyId, invoiceId, companyId, invoiceId],
  );
  return rows.map((row) => ({
    invoiceLineId: row.id,
    orderLineId: row.orderLineId,
    agreementLineId: row.agreementLineId,
    agreementId: row.agreementId,
    item: { id: row.itemId, number: row.itemNumber },
    locationId: row.locationId,
    unitPrice: row.unitPrice,
    quantity: row.quantity,
    credited: Boolean(row.credited),
    net: row.net,
    agreedNet: row.agreedNet,
    invoiced: { net: row.whole, allowance: row.allowance },
    shipped: {
      quantity: row.shippedQuantity,
      value: row.shippedValue,
      agreedValue: row.shippedAgreed,
      cost: row.shippedCost,
    },
    taxCode: row.taxCode,
    taxCodeId: row.taxCodeId,
    taxRate: row.taxRate,
  }));
}

/** An agreement with what of its rebate is accrued and settled, locked. */
export async function loadRebate(sql: Sql, companyId: number, agreementId: number) {
  const head = await loadAgreement(sql, companyId, agreementId);
  const [row] = await sql.rows<{ accrued: string; settled: string; carried: string }>(
    'SELECT rebate_accrued AS accrued, rebate_settled AS settled, rebate_own AS carried FROM agreement WHERE company_id = ? AND id = ?',
    [companyId, head.id],
  );
  const { id, number, currency } = head;
  return { id, number, currency, customerId: head.customerId ?? 0, ...row! };
}

/** Settles what is accrued on an agreement into a credit note, set off against what the customer owes. // A10 */
export const settleRebate = defineAct(agreements.settleRebate, {
  right: 'customer-invoices',
  says: 'settle rebates',
  done: 'rebate settled',
  async load(tx, input, doer) {
    const agreement = await loadRebate(tx, doer.companyId, input.agreementId);
    return {
      agreement,
      exchange: await exchangeOn(tx, doer.companyId, agreement.currency, doer.workDate),
      owed: await loadOwed(tx, doer.companyId, agreement.customerId, agreement.currency),
    };
  },
  decide: (ground) => decideSettlement(ground),
  posts: (_effects, { workDate }) => workDate,
  preview: ({ amount, currency, setOff }) => ({
    amount,
    currency,
    setOff: setOff.map((each) => ({ invoice: each.number, amount: each.amount })),
  }),
  async write(tx, { agreementId, customerId, currency, amount, rate, own, setOff }, { agreement, exchange }, doer) {
    const { companyId, workDate } = doer;
    await tx.run(
      'UPDATE agreement SET rebate_settled = rebate_settled + ?, rebate_own = rebate_own - ? WHERE company_id = ? AND id = ?',
      [amount, own.carried, companyId, agreementId],
    );
    const number = await takeNumbers(tx, companyId, { CN: 1, JR: 1 });
    const note = number('CN');
    const id = await insertCreditNote(tx, doer, note, {
      kind: 'rebate',
      customerId,
      invoiceId: null,
      orderId: null,
      agreementId,
      currency,
      creditDate: workDate,
      reason: `Rebate on ${agreement.number}`,
      net: amount,
      tax: '0',
      total: amount,
      rate,
      own: { net: own.worth, tax: '0' },
      cost: '0',
    });
    await tx.insertPlain(rebateEntryTable, [
      {
        companyId,
        agreementId,
        documentKind: 'CN',
        documentId: id,
        postedOn: workDate,
        settled: amount,
        ownSettled: own.carried,
      },
    ]);
    const creditItem = await insertOpenItem(
      tx,
      doer,
      { customerId, creditNoteId: id },
      { currency, dueDate: workDate, amount: `-${amount}`, ownAmount: `-${own.worth}` },
    );
    await writeSetOffs(tx, doer, creditItem, setOff);
    await postJournals(tx, doer, [
      {
        number: number('JR'),
        source: { kind: 'CN', id },
        postedOn: workDate,
        entries: [
          ...rebateSettlementJournal(bothOf(amount, own.worth), dec(own.carried)),
          ...setOffEntries('customer', setOff),
        ],
        currency: foreignOf(exchange),
        customerId,
      },
    ]);
    return {
      made: [{ kind: 'CN', id, number: note }],
      touched: [{ kind: 'AG', id: agreementId, number: agreement.number }],
    };
  },
});
