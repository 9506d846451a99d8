import { buyingFor, partSupplies, suppliesOf } from './cancelled-supply';
import type { OrderEffects, OrderLineNow } from '@core/orders';
import { decideCancel, decideConfirm, decideSave, keepingPlanned } from '@core/orders';
import { routeIsMade } from '@core/catalogue';
import { pointOf } from '@core/kernel';
import { holdingAtOnce } from '@core/stock';
import * as contract from '@api/orders';
import { defineAct, takeNumbers, type Doer } from '../acts';
import { counterStatements, loadAgreements, loadOffers } from '../agreements';
import { setStatement, type Tx, type Columns } from '../db';
import { locationsOf, optionsOf } from '../catalogue';
import { shipTosOf } from '../parties';
import { orderPricing } from '../pricing';
import { heldStatement, loadFree } from '../on-hand';
import { loadGivenBack, loadToMake, partsOfOne, withWork, writeGivenBack, writeWork } from '../workshop';
import { customerOf, linesShown, offersOfOrder, touchedBy } from './offers';
import { changed, lettingGo, setState } from './state';
import { standingOf } from './standing';
import {
  agreementsOf,
  firstShipDate,
  insertLines,
  insertOrder,
  lineColumns,
  linesNow,
  loadOrder,
  netOf,
  writeOptions,
  orderItems,
  permitStatements,
  pricedItems,
  type OrderHead,
  plannedLines,
  withFreeItems,
} from './store';
import type { Customer } from '../parties/tables';
import { salesOrderLineTable } from './tables';

const saveOrder = defineAct(contract.saveOrder, {
  right: 'orders',
  says: 'save sales orders',
  done: 'order saved',
  expectedVersion: ({ id, version }) => (id === null ? null : { kind: 'SO', id, version: version ?? 0 }),
  async load(tx, input, doer) {
    const { companyId } = doer;
    // Agreements are locked first: those its lines are priced by now, and those that could price them.
    const customerId = input.id === null ? input.customerId : await customerOf(tx, companyId, input.id);
    const offers =
      input.id === null
        ? await loadOffers(tx, companyId, { customerId, lineIds: [], day: doer.workDate })
        : await offersOfOrder(tx, companyId, input.id, doer.workDate);
    const typedIds = input.lines.flatMap((line) => line.itemId ?? []);
    // What waits for none of each other goes to the database at once, the order locked first.
    const [head, lines, [customer], shipTos, locations, planned, parts, standing] = await Promise.all([
      input.id === null ? null : loadOrder(tx, companyId, input.id),
      input.id === null ? [] : linesNow(tx, companyId, input.id),
      tx.rows<Columns<Customer, 'id name currency contractedOnly outOfUse'>>(
        'SELECT id, name, currency, contracted_only, out_of_use FROM customer WHERE company_id = ? AND id = ?',
        [companyId, customerId ?? 0],
      ),
      shipTosOf(tx, companyId, customerId ?? 0),
      locationsOf(tx, companyId),
      input.id === null ? [] : plannedLines(tx, companyId, input.id),
      partsOfOne(
        tx,
        companyId,
        doer.workDate,
        input.lines.flatMap(({ itemId, route }) => (itemId !== null && routeIsMade(route) ? [itemId] : [])),
      ),
      customerId === null ? null : standingOf(tx, companyId, customerId, input.id, 'typed'),
    ]);
    const itemIds = [...typedIds, ...lines.map((line) => line.itemId)];
    const [items, pricing] = await Promise.all([
      pricedItems(tx, companyId, customer?.id ?? null, itemIds),
      orderPricing(tx, doer, customer?.id ?? null, head?.orderDate ?? doer.workDate),
    ]);
    return {
      head,
      current: head && { number: head.number, state: head.state, shipToId: head.shipToId, lines },
      customer: customer ? { ...customer } : null,
      shipToIds: shipTos.map((each) => each.id),
      locationIds: locations.map((each) => each.id),
      items: await withFreeItems(tx, companyId, customer?.id ?? null, items, pricing),
      offers,
      pricing,
      planned,
      parts,
      standing,
    };
  },
  decide: (ground, input, doer) =>
    keepingPlanned(decideSave(ground, input, doer.workDate), ground.planned, (effects) => effects.lines),
  preview: (effects, { offers }) => ({
    net: netOf(effects.lines),
    lines: linesShown(effects.lines, offers),
  }),
  async write(tx, effects, { head, current, customer, offers }, doer) {
    const touched = touchedBy(offers, effects.released);
    if (!head) {
      const counters = counterStatements(doer.companyId, 'released', effects.released);
      const number = (await takeNumbers(tx, doer.companyId, { SO: 1 }, counters))('SO');
      const order = {
        customerId: customer!.id,
        agreementId: null,
        shipToId: effects.shipToId,
        customerReference: effects.customerReference,
        orderDate: doer.workDate,
        currency: customer!.currency,
      };
      const id = await insertOrder(tx, doer, number, order, effects.lines);
      return { made: [{ kind: 'SO', id, number, version: 1 }], touched };
    }
    await tx.batch(counterStatements(doer.companyId, 'released', effects.released));
    await changeLines(tx, doer, head, current!.lines, effects);
    return {
      made: [],
      touched: [{ kind: 'SO', id: head.id, number: head.number, version: head.version + 1 }, ...touched],
    };
  },
});

async function changeLines(
  tx: Tx,
  doer: Doer,
  head: OrderHead,
  lines: readonly Pick<OrderLineNow, 'id' | 'optionIds'>[],
  effects: OrderEffects,
) {
  if (effects.removedLineIds.length > 0) {
    await tx.run('DELETE FROM sales_order_line WHERE company_id = ? AND id IN (?)', [
      doer.companyId,
      effects.removedLineIds,
    ]);
  }
  await tx.batch(
    effects.lines.flatMap((line) =>
      line.id === null ? [] : [setStatement(salesOrderLineTable, lineColumns(line), doer.companyId, line.id)],
    ),
  );
  const kept = effects.lines.flatMap(({ id, optionIds }) => (id === null ? [] : [{ id, optionIds }]));
  const had = lines.filter(({ optionIds }) => optionIds.length > 0).map(({ id }) => id);
  if (had.length > 0) {
    await tx.run('DELETE FROM sales_line_option WHERE company_id = ? AND order_line_id IN (?)', [doer.companyId, had]);
  }
  await writeOptions(tx, doer, kept);
  const [last] = await tx.rows<{ lineNo: number | null }>(
    'SELECT MAX(line_no) AS line_no FROM sales_order_line WHERE company_id = ? AND order_id = ?',
    [doer.companyId, head.id],
  );
  const added = effects.lines.filter((line) => line.id === null);
  await insertLines(tx, doer, head.id, added, (last?.lineNo ?? 0) + 1);
  await tx.run(
    `UPDATE sales_order SET ship_to_id = ?, customer_reference = ?, first_ship_date = ?, net = ?, version = version + 1
      WHERE company_id = ? AND id = ?`,
    [
      effects.shipToId,
      effects.customerReference,
      firstShipDate(effects.lines),
      netOf(effects.lines),
      doer.companyId,
      head.id,
    ],
  );
}

const confirmOrder = defineAct(contract.confirmOrder, {
  right: 'orders',
  says: 'confirm sales orders',
  done: 'confirmed',
  expectedVersion: ({ id, version }) => ({ kind: 'SO', id, version }),
  async load(tx, input, doer) {
    const [head, lines] = await Promise.all([
      loadOrder(tx, doer.companyId, input.id),
      linesNow(tx, doer.companyId, input.id),
    ]);
    const [items, options, customer] = await Promise.all([
      orderItems(
        tx,
        doer.companyId,
        head.customerId,
        lines.map((line) => line.itemId),
      ),
      optionsOf(
        tx,
        doer.companyId,
        null,
        lines.filter(({ route }) => routeIsMade(route)).map(({ itemId }) => itemId),
      ),
      standingOf(tx, doer.companyId, head.customerId, head.id, 'done'),
    ]);
    const always = lines.filter((line) => line.route === 'stock' && items.get(line.itemId)!.reserving === 'always');
    const made = lines.map((line, at) => ({
      ...line,
      open: line.quantity,
      held: '0',
      field: `lines.${at}.route`,
    }));
    return {
      head,
      customer,
      lines: lines.map((line) => ({
        ...line,
        reason: line.sold.reason,
        item: { ...items.get(line.itemId)!, options: options.get(line.itemId) ?? [] },
      })),
      // The stock of items that are held at once: locked after the order.
      free: await loadFree(
        tx,
        doer.companyId,
        always.map((line) => pointOf(line.itemId, line.locationId)),
      ),
      toMake: await loadToMake(tx, doer.companyId, doer.workDate, head.number, made),
    };
  },
  decide: ({ head, customer, lines, free, toMake }, input, doer) =>
    withWork(
      holdingAtOnce(
        decideConfirm({ order: head, customer, lines }, doer.workDate, {
          mayPassCredit: doer.rights.includes('credit'),
          creditReason: input.creditReason ?? '',
        }),
        lines.map((line) => ({ ...line, open: line.quantity, reserving: line.item.reserving })),
        free,
      ),
      toMake,
    ),
  preview: ({ state, work }) => ({ state, work: work.filter(({ parent }) => parent === null).length }),
  async write(tx, { state, held, permits, creditReason, work }, { head, lines, toMake }, doer) {
    await setState(tx, doer, head, state);
    await tx.batch([
      ...permitStatements(
        doer.companyId,
        permits.map((permitId, index) => ({ lineId: lines[index]!.id, permitId })),
      ),
      ...(creditReason === ''
        ? []
        : [
            {
              sql: 'UPDATE sales_order SET credit_reason = ? WHERE company_id = ? AND id = ?',
              values: [creditReason, doer.companyId, head.id],
            },
          ]),
      ...held.flatMap((each) => [
        heldStatement(doer.companyId, each.itemId, each.locationId, each.quantity),
        {
          sql: 'UPDATE sales_order_line SET reserved = ? WHERE company_id = ? AND id = ?',
          values: [each.quantity, doer.companyId, each.lineId],
        },
      ]),
    ]);
    await tx.run(
      "UPDATE sales_order_line SET on_bench = TRUE WHERE company_id = ? AND order_id = ? AND route IN ('drop', 'special') AND tied < quantity - cancelled",
      [doer.companyId, head.id],
    );
    // What is made for its lines is begun with it. // W1 W2
    const made = await writeWork(tx, doer, work, toMake.planned);
    return { made, touched: [changed(head)] };
  },
});

const cancelOrder = defineAct(contract.cancelOrder, {
  right: 'orders',
  says: 'cancel sales orders',
  done: 'cancelled',
  expectedVersion: ({ id, version }) => ({ kind: 'SO', id, version }),
  async load(tx, input, doer) {
    const { companyId } = doer;
    const agreements = await loadAgreements(tx, companyId, [
      ...new Set([...(await agreementsOf(tx, companyId, input.id)), ...(await buyingFor(tx, companyId, input.id))]),
    ]);
    const head = await loadOrder(tx, companyId, input.id);
    const lines = await linesNow(tx, companyId, head.id);
    return {
      head,
      agreements,
      lines,
      supplies: await suppliesOf(tx, companyId, head.id),
      planned: await plannedLines(tx, companyId, head.id, 'planned'),
      work: await loadGivenBack(
        tx,
        companyId,
        lines.map(({ id }) => id),
      ),
      moved: lines.some((line) => line.shipped !== '0'),
    };
  },
  decide: (ground, input) =>
    keepingPlanned(decideCancel({ ...ground, order: ground.head }, input), ground.planned, () => []),
  also: ({ supplies }) => (supplies.length > 0 ? [{ right: 'purchases', says: 'change what was bought' }] : []),
  preview: (effects) => ({ state: effects.state }),
  async write(tx, effects, { head, agreements, work }, doer, { reason }) {
    const parted = await partSupplies(tx, effects.supplies, `${head.number} is cancelled`, doer);
    await writeGivenBack(tx, doer, work);
    await tx.batch([
      ...counterStatements(doer.companyId, 'released', effects.released),
      ...effects.lineIds.map((id) => lettingGo(doer.companyId, id)),
      // What was closed short of it before is not to be opened again. // S8
      {
        sql: 'UPDATE line_closing SET undone = TRUE WHERE company_id = ? AND order_line_id IN (?)',
        values: [doer.companyId, effects.lineIds],
      },
    ]);
    await setState(tx, doer, head, effects.state);
    await tx.run(
      'UPDATE sales_order_line SET reserved = 0, cancelled = quantity, on_bench = FALSE WHERE company_id = ? AND id IN (?)',
      [doer.companyId, effects.lineIds],
    );
    return {
      made: [],
      touched: [{ ...changed(head), reason: reason?.trim() ?? '' }, ...agreements, ...work.touched, ...parted],
    };
  },
});

export const orderActs = [saveOrder, confirmOrder, cancelOrder];
