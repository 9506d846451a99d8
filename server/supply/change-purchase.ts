import { dayText, dec, sum, type Day } from '@core/kernel';
import { decideCancelPurchase, decideChangePurchase, type ChangePurchaseEffects, type PlacedLine } from '@core/supply';
import * as contract from '@api/purchasing';
import { defineAct, orNotFound, type Doer, type Touched } from '../acts';
import { counterStatements, loadOffers, type PartyOffer } from '../agreements';
import { locationsOf } from '../catalogue';
import { setStatement, type Columns, type Sql, type Statement } from '../db';
import { purchaseOrderLineTable, type PurchaseOrder, type PurchaseOrderLine } from '../purchasing/tables';
import { agreementsTouched, insertLines, vendorsOf } from './acts';
import { answerStatements, loadForAnswer, touchedByAnswer } from './answer';
import { inStepStatements } from './in-step';
import { boughtItems } from './store';

/** Changes a placed purchase order as far as it has not happened, as a revision with each field as it was and as it is. // S8 */
export const changePurchase = defineAct(contract.changePurchase, {
  right: 'purchases',
  says: 'change placed purchase orders',
  done: 'purchase changed',
  expectedVersion: ({ purchaseId, version }) => ({ kind: 'PO', id: purchaseId, version }),
  async load(tx, { purchaseId, lines: typed }, doer) {
    const { companyId, workDate } = doer;
    const known = await tx.rows<{ vendorId: number; lineId: number | null }>(
      `SELECT DISTINCT p.vendor_id, l.agreement_line_id AS line_id FROM purchase_order p
         JOIN purchase_order_line l ON l.company_id = p.company_id AND l.purchase_order_id = p.id
        WHERE p.company_id = ? AND p.id = ?`,
      [companyId, purchaseId],
    );
    const { vendorId } = orNotFound(known[0], 'This purchase order');
    // Agreements, the orders it is for, the purchase itself: in the order everybody locks them.
    const lineIds = known.flatMap(({ lineId }) => lineId ?? []);
    const buying = await loadOffers(tx, companyId, { vendorIds: [vendorId], lineIds, day: workDate });
    const { head, lines, ties } = await loadPlaced(tx, companyId, purchaseId);
    const [vendor] = await vendorsOf(tx, companyId, [vendorId]);
    const places = await locationsOf(tx, companyId);
    return {
      version: head.version,
      purchase: head,
      vendor: vendor!,
      lines,
      ties,
      shipToIds: head.shipToId === null ? [] : [head.shipToId],
      locationIds: places.map(({ id }) => id),
      locations: new Map(places.map(({ id, name }) => [id, name])),
      items: await boughtItems(
        tx,
        companyId,
        typed.flatMap(({ id, itemId }) => (id === null && itemId !== null ? [itemId] : [])),
        workDate,
      ),
      buying: buying.map((offer) => ({ ...offer, vendorId: offer.vendorId ?? 0 })),
    };
  },
  decide: (ground, input, doer) => decideChangePurchase(ground, input, doer.workDate),
  preview: (effects, ground) => ({
    net: netAfter(effects, ground.lines),
    was: sum(ground.lines.map(({ amount }) => dec(amount))).toFixed(),
    fields: effects.fields,
    effects: wordsOf(effects, ground),
    state: effects.state,
  }),
  async write(tx, effects, { purchase, version, ties, lines, buying }, doer) {
    await tx.batch([
      ...counterStatements(doer.companyId, 'released', effects.released),
      ...effects.lines.map(({ id, ...line }) => setStatement(purchaseOrderLineTable, line, doer.companyId, id)),
    ]);
    const last = Math.max(0, ...lines.map(({ lineNo }) => lineNo));
    await insertLines(
      tx,
      doer,
      effects.added.map((line, at) => ({ ...line, purchaseOrderId: purchase.id, lineNo: last + at + 1 })),
    );
    await tx.batch([
      headAgain(purchase.id, effects, doer),
      ...inStepStatements(doer.companyId, 'purchase', [purchase.id]),
    ]);
    const orders = new Map(ties.map(({ order }) => [order.id, order]));
    return {
      made: [],
      touched: [
        {
          kind: 'PO',
          id: purchase.id,
          number: purchase.number,
          version: version + 1,
          fields: effects.fields,
          reason: effects.reason,
        },
        ...[...orders.values()].map((order): Touched => ({ kind: 'SO', ...order })),
        ...agreementsTouched(buying, effects.released),
      ],
    };
  },
});

/** Cancels what of a purchase order is still to come, with why: the orders it was for wait on the bench again. // S6 S8 */
export const cancelPurchase = defineAct(contract.cancelPurchase, {
  right: 'purchases',
  says: 'cancel purchase orders',
  done: 'purchase cancelled',
  expectedVersion: ({ purchaseId, version }) => ({ kind: 'PO', id: purchaseId, version }),
  load: (tx, { purchaseId }, doer) => loadForAnswer(tx, doer.companyId, purchaseId),
  decide: (ground, input, doer) => decideCancelPurchase(ground, input, doer.workDate),
  preview: ({ touches, state, lines }) => ({ touches, state, stopped: lines.length }),
  async write(tx, effects, ground, { companyId }, { reason }) {
    await tx.batch([
      ...answerStatements(companyId, ground.purchase.id, effects, null),
      {
        sql: 'UPDATE purchase_order SET revision = revision + 1 WHERE company_id = ? AND id = ?',
        values: [companyId, ground.purchase.id],
      },
    ]);
    const fields = effects.lines.map((line) => {
      const now = ground.lines.find(({ id }) => id === line.id)!;
      return { what: `quantity of line ${now.lineNo}`, was: now.quantity, is: line.quantity };
    });
    const [purchase, ...others] = touchedByAnswer(ground);
    return { made: [], touched: [{ ...purchase!, fields, reason: reason.trim() }, ...others] };
  },
});

interface TieOf {
  lineId: number;
  lineNo: number;
  shipDate: Day;
  order: { id: number; number: string };
}

/** A purchase order with its lines, locked after the orders it is for. */
async function loadPlaced(sql: Sql, companyId: number, purchaseId: number) {
  const ofOrders = await sql.rows<{ id: number; number: string; lineId: number; lineNo: number; shipDate: Day }>(
    `SELECT STRAIGHT_JOIN o.id, o.number, pl.id AS line_id, sl.line_no, sl.ship_date
       FROM purchase_order_line pl
       JOIN tie t ON t.company_id = pl.company_id AND t.purchase_line_id = pl.id
       JOIN sales_order_line sl ON sl.company_id = t.company_id AND sl.id = t.order_line_id
       JOIN sales_order o ON o.company_id = sl.company_id AND o.id = sl.order_id
      WHERE pl.company_id = ? AND pl.purchase_order_id = ? ORDER BY sl.ship_date, t.id`,
    [companyId, purchaseId],
  );
  await sql.rows(`SELECT id FROM sales_order WHERE company_id = ? AND id IN (?) ORDER BY id ${sql.forUpdate}`, [
    companyId,
    [...new Set(ofOrders.map(({ id }) => id))],
  ]);
  const [head] = await sql.rows<
    Columns<PurchaseOrder, 'id number state currency shipToId locationId version' | 'vendorId'>
  >(
    `SELECT id, number, state, currency, ship_to_id, location_id, version, vendor_id FROM purchase_order
      WHERE company_id = ? AND id = ? ${sql.forUpdate}`,
    [companyId, purchaseId],
  );
  const found = orNotFound(head, 'This purchase order');
  const lines = await sql.rows<
    Columns<
      PurchaseOrderLine,
      'id lineNo itemId quantity unitPrice amount agreedAmount agreementLineId dueDate received invoiced tied'
    > &
      Pick<PlacedLine, 'item' | 'unit' | 'listPrice' | 'orders' | 'minimum' | 'multiple'>
  >(
    `SELECT l.id, l.line_no, l.item_id, i.number AS item, i.unit, l.quantity, l.unit_price, l.amount, l.agreed_amount,
            l.agreement_line_id, l.due_date, l.received, l.invoiced, l.tied, COALESCE(iv.unit_price, l.unit_price) AS list_price,
            COALESCE(iv.minimum, 0) AS minimum, COALESCE(iv.multiple, 0) AS multiple,
            COALESCE((SELECT GROUP_CONCAT(DISTINCT o.number ORDER BY o.id SEPARATOR ', ') FROM tie t
               JOIN sales_order_line sl ON sl.company_id = t.company_id AND sl.id = t.order_line_id
               JOIN sales_order o ON o.company_id = sl.company_id AND o.id = sl.order_id
              WHERE t.company_id = l.company_id AND t.purchase_line_id = l.id), '') AS orders
       FROM purchase_order_line l
       JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id
       LEFT JOIN item_vendor iv ON iv.company_id = l.company_id AND iv.item_id = l.item_id AND iv.vendor_id = ?
      WHERE l.company_id = ? AND l.purchase_order_id = ? ORDER BY l.line_no`,
    [found.vendorId, companyId, purchaseId],
  );
  const ties = ofOrders.map(({ id, number, lineId, lineNo, shipDate }): TieOf => ({
    lineId,
    lineNo,
    shipDate,
    order: { id, number },
  }));
  return { head: found, lines: lines as PlacedLine[], ties };
}

/** The head of a purchase that was changed: its vendor is to answer anew. */
function headAgain(id: number, { locationId, state }: ChangePurchaseEffects, { companyId }: Doer): Statement {
  return {
    sql: `UPDATE purchase_order p SET p.location_id = ?, p.state = ?, p.answered_on = NULL, p.version = p.version + 1, p.revision = p.revision + 1,
            p.net = (SELECT COALESCE(SUM(l.amount), 0) FROM purchase_order_line l WHERE l.company_id = p.company_id AND l.purchase_order_id = p.id),
            p.first_due_date = (SELECT MIN(l.due_date) FROM purchase_order_line l
              WHERE l.company_id = p.company_id AND l.purchase_order_id = p.id AND l.quantity > 0)
           WHERE p.company_id = ? AND p.id = ?`,
    values: [locationId, state, companyId, id],
  };
}

function netAfter(effects: ChangePurchaseEffects, lines: readonly PlacedLine[]): string {
  const kept = lines.map(({ id, amount }) => effects.lines.find((line) => line.id === id)?.amount ?? amount);
  return sum([...kept, ...effects.added.map(({ amount }) => amount)].map((amount) => dec(amount))).toFixed();
}

/** What a change moves besides its purchase, in sentences. */
function wordsOf(
  effects: ChangePurchaseEffects,
  {
    buying,
    lines,
    ties,
    purchase,
  }: {
    buying: readonly PartyOffer[];
    lines: readonly PlacedLine[];
    ties: readonly TieOf[];
    purchase: { shipToId: number | null };
  },
): string[] {
  const agreed = effects.released.map(({ agreementLineId, quantity }) => {
    const { agreement } = buying.find((offer) => offer.line.id === agreementLineId)!;
    return dec(quantity).gte(0)
      ? `${agreement.number} gives ${dec(quantity).toFixed()} more`
      : `${agreement.number} has ${dec(quantity).abs().toFixed()} back`;
  });
  const changed = effects.lines.map((line) => ({ line, now: lines.find(({ id }) => id === line.id)! }));
  const late = changed.flatMap(({ line, now }) =>
    ties
      .filter(({ lineId, shipDate }) => lineId === line.id && line.dueDate !== now.dueDate && line.dueDate > shipDate)
      .map(
        ({ order, lineNo, shipDate }) =>
          `${order.number} line ${lineNo} ships ${dayText(shipDate, '')}, before it comes`,
      ),
  );
  const loose = changed.flatMap(({ line, now }) => {
    const more = dec(line.quantity).minus(now.tied);
    if (!dec(line.quantity).gt(now.quantity) || more.lte(0) || dec(now.tied).eq(0)) return [];
    const whom = purchase.shipToId === null ? 'come to our stock' : 'are for nobody yet';
    return [`${more.toFixed()} of line ${now.lineNo} ${whom}`];
  });
  return [...agreed, ...late, ...loose];
}
