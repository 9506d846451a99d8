import { dec, type Day } from '@core/kernel';
import type { OrderState } from '@core/orders';
import { stepsFor } from '@core/pricing';
import type { PurchaseState } from '@core/stock';
import { decidePairs, pairFields, type Pair, type PairEffects } from '@core/supply';
import * as contract from '@api/supply';
import { defineAct, type Doer, type Touched } from '../acts';
import { counterStatements, loadOffers } from '../agreements';
import type { Sql, Statement, Tx, Columns } from '../db';
import { addressLine } from '../parties';
import type { ShipTo } from '../parties/tables';
import { inStepStatements } from './in-step';
import type { SalesOrderLine } from '../orders/tables';

/** Changes both ends of many ties in one transaction. // L6 L7 */
export const editPairs = defineAct(contract.editPairs, {
  right: 'purchases',
  says: 'change orders and their purchases together',
  done: 'both ends changed',
  async load(tx, input, doer) {
    const ids = input.pairs.map((pair) => pair.tieId);
    const held = await agreementLinesOf(tx, doer.companyId, ids);
    const offers = await loadOffers(tx, doer.companyId, { lineIds: held, day: doer.workDate });
    return { offers, pairs: await loadPairs(tx, doer.companyId, ids) };
  },
  decide: ({ offers, pairs }, input, doer) => decidePairs(pairs, input.pairs, offers, doer.workDate, input.goodOnly),
  also: (_effects, _ground, { pairs }) =>
    pairs.some(({ quantity, shipDate, shipToId }) => (quantity ?? shipDate ?? shipToId) !== undefined)
      ? [{ right: 'orders', says: 'change sales orders' }]
      : [],
  preview: ({ shown, leftOut, orders, purchases }, { pairs }) => ({
    leftOut,
    pairs: shown.map((each) => {
      const pair = pairs.find((one) => one.tieId === each.tieId)!;
      return {
        ...each,
        order: pair.order.number,
        purchase: pair.purchase.number,
        item: pair.item.number,
        currency: pair.order.currency,
        shipToId: orders.find(({ id }) => id === pair.order.id)?.shipToId ?? pair.order.shipToId,
        also: pair.order.drops.flatMap(({ id, number }) =>
          id !== pair.purchase.id && purchases.some((moved) => moved.id === id) ? [number] : [],
        ),
        salesBy: dec(each.salesAmount).minus(pair.sales.amount).toFixed(),
        supplyBy: dec(each.supplyAmount).minus(pair.supply.amount).toFixed(),
      };
    }),
  }),
  async write(tx, effects, { pairs, offers }, doer) {
    const shipTos = await tx.rows<Columns<ShipTo, 'id label street town'>>(
      'SELECT id, label, street, town FROM ship_to WHERE company_id = ? AND id IN (?)',
      [
        doer.companyId,
        [
          ...effects.orders.map(({ shipToId }) => shipToId),
          ...pairs.flatMap(({ order, purchase }) => [order.shipToId, purchase.shipToId]),
        ],
      ],
    );
    const fields = pairFields(effects, pairs, new Map(shipTos.map((shipTo) => [shipTo.id, addressLine(shipTo)])));
    await writePairs(tx, effects, pairs, doer);
    const agreements = offers.filter((offer) =>
      effects.released.some((each) => each.agreementLineId === offer.line.id),
    );
    return {
      made: [],
      touched: [
        ...changedDocuments(effects, pairs).map((document) => ({
          ...document,
          fields: (document.kind === 'SO' ? fields.orders : fields.purchases).get(document.id) ?? [],
        })),
        ...[...new Map(agreements.map(({ agreement }) => [agreement.id, agreement.number]))].map(
          ([id, number]): Touched => ({ kind: 'AG', id, number }),
        ),
      ],
    };
  },
});

/** What is tied to an order and not all here yet, with both its ends, locked: the order before. // S8 */
export async function loadAlong(sql: Sql, companyId: number, orderId: number): Promise<Pair[]> {
  const ties = await sql.rows<{ id: number }>(
    `SELECT t.id FROM sales_order_line l JOIN tie t ON t.company_id = l.company_id AND t.order_line_id = l.id AND t.open
      WHERE l.company_id = ? AND l.order_id = ?`,
    [companyId, orderId],
  );
  return ties.length === 0
    ? []
    : loadPairs(
        sql,
        companyId,
        ties.map(({ id }) => id),
      );
}

/** The agreement lines that price what is tied to an order. */
export async function buyingLinesOf(sql: Sql, companyId: number, orderId: number): Promise<number[]> {
  const rows = await sql.rows<{ id: number }>(
    `SELECT DISTINCT pl.agreement_line_id AS id FROM sales_order_line l
       JOIN tie t ON t.company_id = l.company_id AND t.order_line_id = l.id AND t.open
       JOIN purchase_order_line pl ON pl.company_id = t.company_id AND pl.id = t.purchase_line_id
      WHERE l.company_id = ? AND l.order_id = ? AND pl.agreement_line_id IS NOT NULL`,
    [companyId, orderId],
  );
  return rows.map(({ id }) => id);
}

/** What writes the purchases' end of what moves along with an order, with the ties; the order's own end is its change's. */
export function alongStatements(effects: PairEffects, pairs: readonly Pair[], companyId: number): Statement[] {
  const purchases = purchasesAlong(effects, pairs);
  return [
    ...counterStatements(companyId, 'released', effects.released),
    ...supplyStatements(effects, companyId),
    ...purchases.map((purchase) => headStatement(companyId, purchase)),
    ...inStepStatements(companyId, 'purchase', idsOf(purchases, 'PO')),
  ];
}

/** The purchases that move along, each with what of it is another. */
export function purchasesAlong(
  effects: PairEffects,
  pairs: readonly Pair[],
  addresses: ReadonlyMap<number, string> = new Map(),
): Touched[] {
  const fields = pairFields(effects, pairs, addresses).purchases;
  return changedDocuments(effects, pairs)
    .filter(({ kind }) => kind === 'PO')
    .map((purchase) => ({ ...purchase, fields: fields.get(purchase.id) ?? [] }));
}

/** Agreement lines that price either end, read without a lock so that they can be locked first. */
async function agreementLinesOf(sql: Sql, companyId: number, tieIds: readonly number[]): Promise<number[]> {
  const rows = await sql.rows<{ sold: number | null; bought: number | null }>(
    `SELECT sl.agreement_line_id AS sold, pl.agreement_line_id AS bought
       FROM tie t
       JOIN sales_order_line sl ON sl.company_id = t.company_id AND sl.id = t.order_line_id
       JOIN purchase_order_line pl ON pl.company_id = t.company_id AND pl.id = t.purchase_line_id
      WHERE t.company_id = ? AND t.id IN (?)`,
    [companyId, tieIds],
  );
  return [...new Set(rows.flatMap((row) => [row.sold, row.bought]))].filter((id) => id !== null);
}

/** The ties with both their ends, locked: orders first, then purchases; in the order of the ties. */
async function loadPairs(sql: Sql, companyId: number, tieIds: readonly number[]): Promise<Pair[]> {
  const ids = tieIds;
  const of = (column: string) => `SELECT ${column} FROM tie t
       JOIN sales_order_line sl ON sl.company_id = t.company_id AND sl.id = t.order_line_id
       JOIN purchase_order_line pl ON pl.company_id = t.company_id AND pl.id = t.purchase_line_id
      WHERE t.company_id = ? AND t.id IN (?)`;
  await sql.rows(
    `SELECT id FROM sales_order WHERE company_id = ? AND id IN (${of('sl.order_id')}) ORDER BY id ${sql.forUpdate}`,
    [companyId, companyId, ids],
  );
  // The other drop shipments of these orders as well: they go where the orders go.
  await sql.rows(
    `SELECT id FROM purchase_order WHERE company_id = ? AND id IN (
       SELECT opl.purchase_order_id FROM sales_order_line osl
         JOIN tie ot ON ot.company_id = osl.company_id AND ot.order_line_id = osl.id
         JOIN purchase_order_line opl ON opl.company_id = ot.company_id AND opl.id = ot.purchase_line_id
        WHERE osl.company_id = ? AND osl.order_id IN (${of('sl.order_id')})) ORDER BY id ${sql.forUpdate}`,
    [companyId, companyId, companyId, ids],
  );
  const rows = await sql.rows<PairRow>(
    `SELECT t.id, t.quantity AS tied, t.received AS tie_received, sl.item_id, i.number AS item_number, i.unit, i.list_price,
            o.id AS order_id, o.number AS order_number, o.state AS order_state, o.currency AS order_currency, o.customer_id,
            o.ship_to_id AS order_ship_to, sl.id AS sales_id, sl.line_no AS sales_no, sl.quantity - sl.cancelled AS sales_quantity,
            sl.tied AS sales_tied, sl.unit_price AS sales_price, sl.amount AS sales_amount, sl.agreed_amount AS sales_agreed,
            sl.agreement_line_id AS sales_agreement, sl.route, sl.shipped, sl.reserved, sl.ship_date,
            p.id AS purchase_id, p.number AS purchase_number, p.state AS purchase_state, p.currency AS purchase_currency,
            p.ship_to_id AS purchase_ship_to, pl.id AS supply_id, pl.line_no AS supply_no, pl.quantity AS supply_quantity,
            pl.tied AS supply_tied, pl.unit_price AS supply_price, pl.amount AS supply_amount, pl.agreed_amount AS supply_agreed,
            pl.agreement_line_id AS supply_agreement, pl.received AS supply_received, pl.due_date, v.name AS vendor,
            COALESCE(iv.minimum, 0) AS minimum, COALESCE(iv.multiple, 0) AS multiple
       FROM tie t
       JOIN sales_order_line sl ON sl.company_id = t.company_id AND sl.id = t.order_line_id
       JOIN sales_order o ON o.company_id = sl.company_id AND o.id = sl.order_id
       JOIN item i ON i.company_id = sl.company_id AND i.id = sl.item_id
       JOIN purchase_order_line pl ON pl.company_id = t.company_id AND pl.id = t.purchase_line_id
       JOIN purchase_order p ON p.company_id = pl.company_id AND p.id = pl.purchase_order_id
       JOIN vendor v ON v.company_id = p.company_id AND v.id = p.vendor_id
       LEFT JOIN item_vendor iv ON iv.company_id = p.company_id AND iv.item_id = pl.item_id AND iv.vendor_id = p.vendor_id
      WHERE t.company_id = ? AND t.id IN (?) ORDER BY t.id`,
    [companyId, ids],
  );
  const [addresses, sharing] = await Promise.all([
    sql.rows<{ id: number; customerId: number }>(
      'SELECT id, customer_id FROM ship_to WHERE company_id = ? AND customer_id IN (?)',
      [companyId, rows.map((row) => row.customerId)],
    ),
    dropsOf(
      sql,
      companyId,
      rows.map((row) => row.orderId),
    ),
  ]);
  return rows.map((row) =>
    pairOf(
      row,
      addresses.filter((each) => each.customerId === row.customerId).map((each) => each.id),
      sharing.get(row.orderId) ?? [],
    ),
  );
}

/** The drop shipments still to come for orders, by order, each with all the orders it serves. */
async function dropsOf(
  sql: Sql,
  companyId: number,
  orderIds: readonly number[],
): Promise<Map<number, { id: number; number: string; orderIds: number[] }[]>> {
  const rows = await sql.rows<{ orderId: number; id: number; number: string; otherId: number }>(
    `SELECT DISTINCT sl.order_id, p.id, p.number, osl.order_id AS other_id
       FROM sales_order_line sl
       JOIN tie t ON t.company_id = sl.company_id AND t.order_line_id = sl.id AND t.open = TRUE
       JOIN purchase_order_line pl ON pl.company_id = t.company_id AND pl.id = t.purchase_line_id
       JOIN purchase_order p ON p.company_id = pl.company_id AND p.id = pl.purchase_order_id AND p.ship_to_id IS NOT NULL
       JOIN purchase_order_line opl ON opl.company_id = p.company_id AND opl.purchase_order_id = p.id
       JOIN tie ot ON ot.company_id = opl.company_id AND ot.purchase_line_id = opl.id AND ot.open = TRUE
       JOIN sales_order_line osl ON osl.company_id = ot.company_id AND osl.id = ot.order_line_id
      WHERE sl.company_id = ? AND sl.order_id IN (?) ORDER BY p.id`,
    [companyId, orderIds],
  );
  const byOrder = new Map<number, { id: number; number: string; orderIds: number[] }[]>();
  for (const { orderId, id, number, otherId } of rows) {
    const drops = byOrder.get(orderId) ?? [];
    const drop = drops.find((each) => each.id === id);
    if (drop) drop.orderIds.push(otherId);
    else drops.push({ id, number, orderIds: [otherId] });
    byOrder.set(orderId, drops);
  }
  return byOrder;
}

type PairRow = Columns<SalesOrderLine, 'itemId route shipped reserved shipDate'> & {
  id: number;
  tied: string;
  tieReceived: string;
  itemNumber: string;
  unit: string;
  listPrice: string;
  orderId: number;
  orderNumber: string;
  orderState: OrderState;
  orderCurrency: string;
  customerId: number;
  orderShipTo: number | null;
  salesId: number;
  salesNo: number;
  salesQuantity: string;
  salesTied: string;
  salesPrice: string;
  salesAmount: string;
  salesAgreed: string | null;
  salesAgreement: number | null;
  purchaseId: number;
  purchaseNumber: string;
  purchaseState: PurchaseState;
  purchaseCurrency: string;
  purchaseShipTo: number | null;
  supplyId: number;
  supplyNo: number;
  supplyQuantity: string;
  supplyTied: string;
  supplyPrice: string;
  supplyAmount: string;
  supplyAgreed: string | null;
  supplyAgreement: number | null;
  supplyReceived: string;
  dueDate: Day;
  vendor: string;
  minimum: string;
  multiple: string;
};

function pairOf(row: PairRow, shipToIds: number[], drops: Pair['order']['drops']): Pair {
  return {
    tieId: row.id,
    quantity: row.tied,
    received: row.tieReceived,
    item: { id: row.itemId, number: row.itemNumber, unit: row.unit, listPrice: row.listPrice },
    order: {
      id: row.orderId,
      number: row.orderNumber,
      state: row.orderState,
      currency: row.orderCurrency,
      shipToId: row.orderShipTo,
      shipToIds,
      drops,
    },
    sales: {
      id: row.salesId,
      lineNo: row.salesNo,
      quantity: row.salesQuantity,
      tied: row.salesTied,
      unitPrice: row.salesPrice,
      amount: row.salesAmount,
      agreedAmount: row.salesAgreed,
      agreementLineId: row.salesAgreement,
      route: row.route,
      shipped: row.shipped,
      reserved: row.reserved,
      shipDate: row.shipDate,
    },
    purchase: {
      id: row.purchaseId,
      number: row.purchaseNumber,
      state: row.purchaseState,
      currency: row.purchaseCurrency,
      shipToId: row.purchaseShipTo,
    },
    supply: {
      id: row.supplyId,
      lineNo: row.supplyNo,
      quantity: row.supplyQuantity,
      tied: row.supplyTied,
      unitPrice: row.supplyPrice,
      amount: row.supplyAmount,
      agreedAmount: row.supplyAgreed,
      agreementLineId: row.supplyAgreement,
      received: row.supplyReceived,
      dueDate: row.dueDate,
      vendor: row.vendor,
      minimum: row.minimum,
      multiple: row.multiple,
    },
  };
}

/** Both documents of what was changed, in the order they are locked. */
function changedDocuments(effects: PairEffects, pairs: readonly Pair[]): Touched[] {
  const sold = new Set(effects.sales.map((line) => line.id));
  const bought = new Set(effects.supply.map((line) => line.id));
  const tied = new Set(effects.ties.map((tie) => tie.id));
  const orders = new Map(effects.orders.map((order) => [order.id, order.number]));
  const purchases = new Map(effects.purchases.map((purchase) => [purchase.id, purchase.number]));
  for (const pair of pairs) {
    if (sold.has(pair.sales.id) || tied.has(pair.tieId)) orders.set(pair.order.id, pair.order.number);
    if (bought.has(pair.supply.id) || tied.has(pair.tieId)) purchases.set(pair.purchase.id, pair.purchase.number);
  }
  return [
    ...[...orders].map(([id, number]): Touched => ({ kind: 'SO', id, number })),
    ...[...purchases].map(([id, number]): Touched => ({ kind: 'PO', id, number })),
  ];
}

/** Counters of agreements, then ties and lines, then the heads that follow from them, in one trip. */
async function writePairs(tx: Tx, effects: PairEffects, pairs: readonly Pair[], { companyId }: Doer): Promise<void> {
  const changed = changedDocuments(effects, pairs);
  const built = await tx.rows<{ id: number; buildUp: string }>(
    'SELECT id, build_up FROM sales_order_line WHERE company_id = ? AND id IN (?)',
    [companyId, effects.sales.map((line) => line.id)],
  );
  /** Its price as it was built, for what the line is now. // R4 */
  const stepsOf = (id: number, amount: string) => {
    const steps = JSON.parse(built.find((row) => row.id === id)!.buildUp) as Parameters<typeof stepsFor>[0];
    return JSON.stringify(stepsFor(steps, amount, pairs.find((pair) => pair.sales.id === id)!.order.currency));
  };
  const statements: Statement[] = [
    ...counterStatements(companyId, 'released', effects.released),
    ...effects.sales.map((line) => ({
      sql: `UPDATE sales_order_line SET quantity = cancelled + ?, amount = ?, build_up = ?, ship_date = ?, tied = tied + ?,
                   on_bench = route IN ('drop', 'special') AND tied < quantity - cancelled
             WHERE company_id = ? AND id = ?`,
      values: [
        line.quantity,
        line.amount,
        stepsOf(line.id, line.amount),
        line.shipDate,
        line.tiedBy,
        companyId,
        line.id,
      ],
    })),
    ...supplyStatements(effects, companyId),
    ...effects.orders.map((order) => ({
      sql: 'UPDATE sales_order SET ship_to_id = ? WHERE company_id = ? AND id = ?',
      values: [order.shipToId, companyId, order.id],
    })),
    ...changed.map((document) => headStatement(companyId, document)),
    ...inStepStatements(companyId, 'order', idsOf(changed, 'SO')),
    ...inStepStatements(companyId, 'purchase', idsOf(changed, 'PO')),
  ];
  await tx.batch(statements);
}

/** The purchases' end, and the ties. */
const supplyStatements = ({ supply, ties, purchases }: PairEffects, companyId: number): Statement[] => [
  ...supply.map((line) => ({
    sql: `UPDATE purchase_order_line SET quantity = ?, amount = ?, due_date = ?, tied = tied + ?
           WHERE company_id = ? AND id = ?`,
    values: [line.quantity, line.amount, line.dueDate, line.tiedBy, companyId, line.id],
  })),
  ...ties.map((tie) => ({
    sql: 'UPDATE tie SET quantity = quantity + ? WHERE company_id = ? AND id = ?',
    values: [tie.by, companyId, tie.id],
  })),
  ...purchases.map((purchase) => ({
    sql: 'UPDATE purchase_order SET ship_to_id = ? WHERE company_id = ? AND id = ?',
    values: [purchase.shipToId, companyId, purchase.id],
  })),
];

const idsOf = (changed: readonly Touched[], kind: 'SO' | 'PO') =>
  changed.filter((document) => document.kind === kind).map((document) => document.id);

/** A head after its lines changed: its sum, its first date, and closed where all that is left is invoiced. */
function headStatement(companyId: number, { kind, id }: Touched): Statement {
  return kind === 'SO'
    ? {
        sql: `UPDATE sales_order o SET o.version = o.version + 1, o.revision = o.revision + 1,
                o.net = (SELECT SUM(l.amount) FROM sales_order_line l WHERE l.company_id = o.company_id AND l.order_id = o.id),
                o.first_ship_date = (SELECT MIN(l.ship_date) FROM sales_order_line l
                  WHERE l.company_id = o.company_id AND l.order_id = o.id AND l.cancelled < l.quantity),
                o.state = IF(EXISTS (SELECT 1 FROM sales_order_line l WHERE l.company_id = o.company_id AND l.order_id = o.id
                  AND l.quantity - l.cancelled > l.invoiced), o.state, 'closed')
               WHERE o.company_id = ? AND o.id = ?`,
        values: [companyId, id],
      }
    : {
        sql: `UPDATE purchase_order p SET p.version = p.version + 1, p.revision = p.revision + 1,
                p.net = (SELECT SUM(l.amount) FROM purchase_order_line l
                  WHERE l.company_id = p.company_id AND l.purchase_order_id = p.id),
                p.first_due_date = (SELECT MIN(l.due_date) FROM purchase_order_line l
                  WHERE l.company_id = p.company_id AND l.purchase_order_id = p.id),
                p.state = IF(EXISTS (SELECT 1 FROM purchase_order_line l WHERE l.company_id = p.company_id
                  AND l.purchase_order_id = p.id AND l.quantity > l.invoiced), p.state, 'closed')
               WHERE p.company_id = ? AND p.id = ?`,
        values: [companyId, id],
      };
}
