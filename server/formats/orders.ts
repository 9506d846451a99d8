import { routeIsMade } from '@core/catalogue';
import {
  decideOrderFile,
  leftOut,
  ORDER_COLUMNS,
  wholeOrGood,
  orderOfWritten,
  ordersOfTable,
  type FileCustomer,
  type FileOrder,
  type ImportProblem,
} from '@core/formats';
import { refuse, type Refusal } from '@core/refusals';
import { dec, documentTotals, MAIN_LOCATION } from '@core/kernel';
import { readUblOrder, ublOrder, ublProblems } from '@core/formats';
import * as contract from '@api/formats';
import { partsOfOne } from '../workshop';
import { defineAct, takeNumbers, type Doer, type Touched } from '../acts';
import { counterStatements, loadOffers } from '../agreements';
import { itemsNamed } from '../catalogue';
import type { Sql, Columns } from '../db';
import { shipTosOf } from '../parties';
import { insertOrder, pricedItems, standingOf } from '../orders';
import { orderPricing } from '../pricing';
import { openPurchase } from '../purchasing';
import { tableIn, xmlIn } from './read-file';
import { ublXml } from './xml';
import type { Customer } from '../parties/tables';

/** Brings orders in from a file, all of it or its good lines, each as a draft; in one transaction. // G4 */
export const bringInOrders = defineAct(contract.bringInOrders, {
  right: 'orders',
  says: 'bring orders in',
  done: 'brought in',
  prepare: (_, input) => ordersIn(input.name, Buffer.from(input.content, 'base64')),
  async load(tx, _input, doer, read) {
    const customers = 'code' in read ? new Map<string, FileCustomer>() : await customersOf(tx, read.orders, doer);
    return { read, customers };
  },
  decide({ read, customers }, input, doer) {
    if ('code' in read) return { ok: false, refusals: [read] };
    const find = (names: readonly string[]) =>
      names.map((name) => customers.get(name.toLowerCase())).find((each) => each !== undefined) ?? null;
    return wholeOrGood(decideOrderFile(find, read.orders, input.goodOnly, doer.workDate, read.leftOut), input);
  },
  preview: ({ drafts: _drafts, ...found }) => found,
  async write(tx, { drafts }, { customers }, doer, input) {
    const released = drafts.flatMap((draft) => draft.released);
    const number = await takeNumbers(
      tx,
      doer.companyId,
      { SO: drafts.length },
      counterStatements(doer.companyId, 'released', released),
    );
    const made: Touched[] = [];
    for (const draft of drafts) {
      const own = number('SO');
      const head = {
        customerId: draft.customerId,
        agreementId: null,
        shipToId: draft.shipToId,
        customerReference: draft.customerReference,
        orderDate: doer.workDate,
        currency: draft.currency,
        batch: `${input.name} ${doer.workDate}`.slice(0, 120),
      };
      made.push({ kind: 'SO', id: await insertOrder(tx, doer, own, head, draft.lines), number: own, version: 1 });
    }
    const offers = [...new Set(customers.values())].flatMap((customer) => customer.ground.offers);
    const moved = offers.filter((offer) => released.some((each) => each.agreementLineId === offer.line.id));
    const agreements = new Map(moved.map(({ agreement }) => [agreement.id, agreement.number]));
    return { made, touched: [...agreements].map(([id, own]) => ({ kind: 'AG' as const, id, number: own })) };
  },
});

/** The orders of a file: rows of CSV or XLSX, or one UBL 2.1 order. */
async function ordersIn(
  name: string,
  content: Buffer,
): Promise<{ orders: FileOrder[]; leftOut: ImportProblem[] } | Refusal> {
  if (!name.toLowerCase().endsWith('.xml')) {
    const table = await tableIn(name, content);
    if ('code' in table) return table;
    const orders = ordersOfTable(table);
    return 'code' in orders ? orders : { orders, leftOut: leftOut(table[0] ?? [], ORDER_COLUMNS) };
  }
  const root = await xmlIn(name, content);
  if ('code' in root) return root;
  const written = readUblOrder(root);
  if (!written) return refuse('not-an-order', 'file', { root: root.name });
  const [problem] = ublProblems(root);
  return problem
    ? refuse('not-ubl', 'file', { path: problem.path, what: problem.words })
    : { orders: [orderOfWritten(written)], leftOut: [] };
}

/** The customers a file names, by number and name, with what their orders are decided by; agreements locked first. */
async function customersOf(tx: Sql, orders: readonly FileOrder[], doer: Doer): Promise<Map<string, FileCustomer>> {
  const { companyId, workDate } = doer;
  const names = [...new Set(orders.flatMap((order) => order.customers).filter((name) => name !== ''))];
  if (names.length === 0) return new Map();
  const rows = await tx.rows<Columns<Customer, 'id number name currency contractedOnly'>>(
    `SELECT id, number, name, currency, contracted_only FROM customer
      WHERE company_id = ? AND (number IN (?) OR name IN (?)) ORDER BY id`,
    [companyId, names, names],
  );
  const found = new Map<string, FileCustomer>();
  for (const row of rows) {
    const own = orders.filter((order) =>
      order.customers.some((name) => [row.number, row.name].some((each) => each.toLowerCase() === name.toLowerCase())),
    );
    const offers = await loadOffers(tx, companyId, { customerId: row.id, day: workDate });
    const called = await itemsNamed(
      tx,
      companyId,
      own.flatMap((order) => order.lines.flatMap((line) => line.items)),
      row.id,
    );
    const references = own.map((order) => order.reference).filter((reference) => reference !== '');
    const used = await tx.rows<{ customerReference: string; number: string }>(
      `SELECT customer_reference, number FROM sales_order
        WHERE company_id = ? AND customer_id = ? AND customer_reference IN (?) AND state <> 'cancelled'`,
      [companyId, row.id, references.length > 0 ? references : ['']],
    );
    const shipTos = await shipTosOf(tx, companyId, row.id);
    const customer: FileCustomer = {
      id: row.id,
      name: row.name,
      shipTos,
      items: new Map(called.rows.map(({ asked, item }) => [asked.toLowerCase(), { id: item.id, route: item.route }])),
      references: new Map(
        used
          .filter((each) => each.customerReference !== '')
          .map((each) => [each.customerReference.toLowerCase(), each.number]),
      ),
      ground: {
        current: null,
        customer: {
          id: row.id,
          name: row.name,
          currency: row.currency,
          contractedOnly: row.contractedOnly,
        },
        shipToIds: shipTos.map((each) => each.id),
        locationIds: [MAIN_LOCATION],
        items: await pricedItems(
          tx,
          companyId,
          row.id,
          called.rows.map(({ item }) => item.id),
        ),
        offers,
        pricing: await orderPricing(tx, doer, row.id, workDate),
        parts: await partsOfOne(
          tx,
          companyId,
          workDate,
          called.rows.flatMap(({ item }) => (routeIsMade(item.route) ? [item.id] : [])),
        ),
        standing: await standingOf(tx, companyId, row.id, null, 'typed'),
      },
    };
    for (const name of [row.number, row.name]) found.set(name.toLowerCase(), customer);
  }
  return found;
}

/** A purchase order as UBL 2.1, for the vendor's program. */
export async function purchaseUbl(sql: Sql, companyId: number, id: number): Promise<{ name: string; content: Buffer }> {
  const sheet = await openPurchase(sql, companyId, id);
  const [company] = await sql.rows<{ name: string }>('SELECT name FROM company WHERE id = ?', [companyId]);
  const to = sheet.shipTo;
  const rates = await sql.rows<{ code: string; rate: string; amount: string }>(
    `SELECT c.code, l.tax_rate AS rate, l.amount FROM purchase_order_line l
       JOIN tax_code c ON c.company_id = l.company_id AND c.id = l.tax_code_id
      WHERE l.company_id = ? AND l.purchase_order_id = ? ORDER BY l.line_no`,
    [companyId, id],
  );
  const totals = documentTotals(
    rates.map(({ code, rate, amount }) => ({ taxCode: code, taxRate: rate, net: dec(amount) })),
    sheet.currency,
  );
  const root = ublOrder({
    number: sheet.number,
    day: sheet.orderDate,
    currency: sheet.currency,
    buyer: company!.name,
    seller: sheet.vendor,
    shipTo: to
      ? { name: `${sheet.customer?.name ?? ''}, ${to.label}`, address: to }
      : { name: `${company!.name}, ${sheet.location!.name}`, address: null },
    net: totals.net.toFixed(),
    tax: totals.tax.toFixed(),
    taxes: totals.taxes.map((each) => ({
      code: each.taxCode,
      rate: each.taxRate,
      base: each.base.toFixed(),
      tax: each.tax.toFixed(),
    })),
    lines: sheet.lines
      .filter(({ quantity }) => quantity !== '0')
      .map((line) => ({
        number: line.lineNo,
        item: line.item.number,
        name: line.item.name,
        quantity: line.quantity,
        unit: line.item.unit,
        unitPrice: line.unitPrice,
        amount: line.amount,
        day: line.dueDate,
      })),
  });
  return { name: `${sheet.number}.xml`, content: ublXml(root) };
}
