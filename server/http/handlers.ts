import type { Context } from 'koa';
import type * as z from 'zod';
import { refuse } from '@core/refusals';
import * as access from '@api/access';
import * as agreements from '@api/agreements';
import * as billing from '@api/billing';
import * as catalogue from '@api/catalogue';
import * as desk from '@api/desk';
import * as find from '@api/find';
import * as insight from '@api/insight';
import type { Endpoint } from '@api/kit';
import * as ledger from '@api/ledger';
import * as mail from '@api/mail';
import * as orders from '@api/orders';
import * as parties from '@api/parties';
import * as promise from '@api/promise';
import * as purchasing from '@api/purchasing';
import * as stock from '@api/stock';
import * as supply from '@api/supply';
import * as today from '@api/today';
import * as upkeep from '@api/upkeep';
import {
  beginSession,
  chooseCompany,
  endSession,
  passwordFits,
  readSession,
  sessionOut,
  type SignedIn,
} from '../access';
import { findOffers, listAgreements, openAgreement, openProgress, renewFeed } from '../agreements';
import { listInvoices, openCreditNote, openInvoice, openPrepayment, openToInvoice } from '../billing';
import { findItems, itemGroups, itemsNamed, locationsOf, openItem } from '../catalogue';
import type { Sql } from '../db';
import { findCustomers, findVendors, openCustomer, openVendor } from '../parties';
import { find as findAll } from '../find';
import { agreementsByPace, fulfilment } from '../insight';
import { openTrail, stockEntries } from '../ledger';
import { draftMessage, listDrafts, listMessages, openMessage } from '../mail';
import { basketOf, customerDesk, listOrders, openOrder, peopleOf, shelf } from '../orders';
import {
  checkPromise,
  listPlanned,
  openAvailability,
  openLoad,
  openPlanned,
  openPromiseGround,
  openPegging,
  openPlanning,
  openRepromise,
} from '../promise';
import { listPurchases, openPurchase } from '../purchasing';
import { alsoWaiting, openReceipt, openShipment } from '../stock';
import { listBench, listPairs, openThread, salesFor, suppliesFor, threadOfDocument, threadsOfOrder } from '../supply';
import { today as readToday } from '../today';
import { findNamed, openList } from '../upkeep';
import type { Parts } from './parts';
import { Refusals } from './problem';
import { COOKIE, setCookie, signedInOf } from './session';

/** What a handler of an endpoint gets: its checked input, who asks, and the parts. */
export interface Asked<E extends Endpoint> {
  ctx: Context;
  parts: Parts;
  params: z.infer<E['params']>;
  query: z.infer<E['query']>;
  body: z.infer<E['body']>;
  /** Null only for endpoints open to everybody. */
  who: SignedIn | null;
}

export interface Handler {
  endpoint: Endpoint;
  handle(asked: Asked<Endpoint>): Promise<unknown>;
}

function on<E extends Endpoint>(endpoint: E, handle: (asked: Asked<E>) => Promise<z.infer<E['out']>>): Handler {
  return { endpoint, handle: handle as Handler['handle'] };
}

/** A read of the signed-in person's company, at one moment. */
function reads<E extends Endpoint>(
  endpoint: E,
  handle: (
    sql: Sql,
    companyId: number,
    asked: { params: z.infer<E['params']>; query: z.infer<E['query']>; workDate: string },
  ) => Promise<z.infer<E['out']>>,
): Handler {
  return on(endpoint, ({ parts, who, params, query }) =>
    parts.database.snapshot((sql) => handle(sql, who!.companyId, { params, query, workDate: who!.workDate })),
  );
}

const signIn = on(access.signIn, async ({ ctx, parts, body }) => {
  const { database, attempts, clock } = parts;
  const name = body.signIn.trim().toLowerCase();
  const minutes = await attempts.minutesToWait(name, ctx.ip);
  if (minutes > 0) {
    throw new Refusals(429, [refuse('too-many-attempts', 'password', { minutes: String(minutes) })]);
  }
  const [person] = await database.rows<{ id: number; passwordHash: string }>(
    'SELECT id, password_hash FROM person WHERE sign_in = ? AND active = TRUE',
    [name],
  );
  const fits = await passwordFits(person?.passwordHash, body.password);
  const token = fits ? await beginSession(database, person!.id, clock) : null;
  if (!token) {
    await attempts.failed(name, ctx.ip);
    throw new Refusals(422, [refuse('wrong-sign-in', 'password', {})]);
  }
  await attempts.succeeded(name);
  setCookie(ctx, parts, token);
  const signedIn = await readSession(database, token, clock);
  return sessionOut(database, signedIn!);
});

const signOut = on(access.signOut, async ({ ctx, parts }) => {
  await endSession(parts.database, ctx.cookies.get(COOKIE) ?? '');
  parts.sessions.forget();
  setCookie(ctx, parts, null);
  return {};
});

const session = on(access.session, async ({ ctx, parts }) => {
  const signedIn = await signedInOf(ctx, parts);
  return { session: signedIn && (await sessionOut(parts.database, signedIn)) };
});

const company = on(access.chooseCompany, async ({ ctx, parts, body, who }) => {
  const token = ctx.cookies.get(COOKIE)!;
  if (!(await chooseCompany(parts.database, token, who!.personId, body.companyId))) {
    throw new Refusals(403, [refuse('no-right', 'companyId', { act: 'work in this company' })]);
  }
  parts.sessions.forget();
  const signedIn = await parts.sessions.of(token);
  return sessionOut(parts.database, signedIn!);
});

const renewCalendar = on(agreements.renewCalendar, async ({ parts, who }) => ({
  path: `/api/calendar/${await renewFeed(parts.database, who!.companyId, who!.personId)}.ics`,
}));

/** Every endpoint of the contract with what answers it. */
export const HANDLERS: readonly Handler[] = [
  signIn,
  signOut,
  session,
  company,
  on(agreements.listAgreements, ({ parts, who, query }) =>
    query.sort === 'pace'
      ? agreementsByPace(parts.database, parts.agreementSums, who!.companyId, query, who!.workDate)
      : listAgreements(parts.database, who!.companyId, query, who!.workDate),
  ),
  on(agreements.findOffers, ({ parts, who, body }) =>
    parts.database.snapshot((sql) => findOffers(sql, who!.companyId, body, who!.workDate)),
  ),
  reads(agreements.itemGroups, (sql, companyId) => itemGroups(sql, companyId)),
  reads(agreements.openAgreement, (sql, companyId, { params }) => openAgreement(sql, companyId, params.id)),
  reads(agreements.openProgress, (sql, companyId, { params, workDate }) =>
    openProgress(sql, companyId, params.id, workDate),
  ),
  reads(orders.listOrders, (sql, companyId, { query }) => listOrders(sql, companyId, query)),
  reads(orders.openOrder, (sql, companyId, { params }) => openOrder(sql, companyId, params.id)),
  reads(desk.customerDesk, (sql, companyId, { params }) => customerDesk(sql, companyId, params.id)),
  reads(desk.usualBasket, (sql, companyId, { params, query, workDate }) =>
    basketOf(sql, companyId, 'customer', params.id, query.days, workDate),
  ),
  reads(desk.vendorBasket, (sql, companyId, { params, query, workDate }) =>
    basketOf(sql, companyId, 'vendor', params.id, query.days, workDate),
  ),
  reads(desk.shelf, (sql, companyId, { query }) => shelf(sql, companyId, query)),
  reads(supply.listBench, (sql, companyId, { query, workDate }) => listBench(sql, companyId, workDate, query)),
  reads(supply.openThread, (sql, companyId, { params }) => openThread(sql, companyId, params.id)),
  reads(supply.listPairs, (sql, companyId, { query }) => listPairs(sql, companyId, query)),
  reads(supply.findSupplies, async (sql, companyId, { params }) => ({
    rows: await suppliesFor(sql, companyId, params.id),
  })),
  reads(supply.findSales, async (sql, companyId, { params }) => ({ rows: await salesFor(sql, companyId, params.id) })),
  reads(orders.salesPeople, async (sql, companyId) => ({ rows: await peopleOf(sql, companyId) })),
  reads(supply.threadsOfOrder, async (sql, companyId, { params }) => ({
    threads: await threadsOfOrder(sql, companyId, params.id),
  })),
  reads(supply.threadOfDocument, async (sql, companyId, { params }) => ({
    thread: await threadOfDocument(sql, companyId, params),
  })),
  reads(purchasing.listPurchases, (sql, companyId, { query }) => listPurchases(sql, companyId, query)),
  reads(purchasing.openPurchase, (sql, companyId, { params }) => openPurchase(sql, companyId, params.id)),
  reads(stock.alsoWaiting, (sql, companyId, { params }) => alsoWaiting(sql, companyId, params.id)),
  reads(stock.openReceipt, (sql, companyId, { params }) => openReceipt(sql, companyId, params.id)),
  reads(stock.openShipment, (sql, companyId, { params }) => openShipment(sql, companyId, params.id)),
  reads(billing.listInvoices, (sql, companyId, { query }) => listInvoices(sql, companyId, query)),
  reads(billing.openCustomerInvoice, (sql, companyId, { params }) =>
    openInvoice(sql, companyId, 'customer', params.id),
  ),
  reads(billing.openVendorInvoice, (sql, companyId, { params }) => openInvoice(sql, companyId, 'vendor', params.id)),
  reads(billing.openToInvoice, (sql, companyId, { params }) => openToInvoice(sql, companyId, params.id)),
  reads(billing.openCreditNote, (sql, companyId, { params }) => openCreditNote(sql, companyId, params.id)),
  reads(billing.openPrepayment, (sql, companyId, { params }) => openPrepayment(sql, companyId, params.id)),
  on(mail.draftMessage, ({ parts, who, params }) =>
    draftMessage(parts.database, who!.companyId, who!.personId, params),
  ),
  reads(mail.listMessages, (sql, companyId, { query }) => listMessages(sql, companyId, query)),
  reads(mail.listDrafts, (sql, companyId, { query }) => listDrafts(sql, companyId, query)),
  reads(mail.openMessage, (sql, companyId, { params }) => openMessage(sql, companyId, params.id)),
  reads(parties.findCustomers, (sql, companyId, { query }) => findCustomers(sql, companyId, query.q)),
  reads(parties.findVendors, (sql, companyId, { query }) => findVendors(sql, companyId, query.q)),
  reads(parties.openCustomer, (sql, companyId, { params }) => openCustomer(sql, companyId, params.id)),
  reads(parties.openVendor, (sql, companyId, { params }) => openVendor(sql, companyId, params.id)),
  reads(desk.matchItems, (sql, companyId, { query }) =>
    itemsNamed(sql, companyId, query.numbers.split('\n'), query.customerId ?? 0),
  ),
  reads(catalogue.locations, async (sql, companyId) => ({ rows: await locationsOf(sql, companyId) })),
  reads(catalogue.findItems, (sql, companyId, { query }) => findItems(sql, companyId, query.q, query.customerId)),
  reads(catalogue.openItem, (sql, companyId, { params }) => openItem(sql, companyId, params.id)),
  reads(ledger.openTrail, (sql, companyId, { params }) => openTrail(sql, companyId, params.kind, params.id)),
  reads(ledger.stockEntries, (sql, companyId, { params, query }) => stockEntries(sql, companyId, params.id, query)),
  on(insight.fulfilment, ({ parts, who, query }) =>
    fulfilment(parts.database, parts.agreementSums, who!.companyId, query, who!.workDate),
  ),
  renewCalendar,
  reads(today.today, (sql, companyId, { workDate }) => readToday(sql, companyId, workDate)),
  reads(promise.openAvailability, (sql, companyId, { params, query, workDate }) =>
    openAvailability(sql, companyId, workDate, params.id, query.line),
  ),
  reads(promise.openPromiseGround, (sql, companyId, { params, workDate }) =>
    openPromiseGround(sql, companyId, workDate, params.id),
  ),
  reads(promise.checkPromise, (sql, companyId, { params, workDate }) =>
    checkPromise(sql, companyId, workDate, params.id),
  ),
  reads(promise.openRepromise, (sql, companyId) => openRepromise(sql, companyId)),
  reads(promise.openPlanning, (sql, companyId, { query }) => openPlanning(sql, companyId, query.rows)),
  reads(promise.openPegging, (sql, companyId, { params, workDate }) => openPegging(sql, companyId, workDate, params)),
  reads(promise.listPlanned, (sql, companyId, { query }) => listPlanned(sql, companyId, query)),
  reads(promise.openPlanned, (sql, companyId, { params }) => openPlanned(sql, companyId, params.id)),
  reads(promise.openLoad, (sql, companyId, { query, workDate }) => openLoad(sql, companyId, workDate, query.days)),
  reads(upkeep.openList, (sql, companyId, { params, query }) => openList(sql, companyId, params.list, query)),
  reads(upkeep.findNamed, (sql, companyId, { params, query }) => findNamed(sql, companyId, params.target, query.q)),
  reads(find.find, (sql, companyId, { query }) => findAll(sql, companyId, query.q)),
];
