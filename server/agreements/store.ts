import type {
  AgreementGround,
  AgreementState,
  AgreementTerms,
  Basis,
  LimitPolicy,
  Offer,
  OfferedLine,
  OfferingAgreement,
  PriceBreak,
  PriceKind,
  PriceTerm,
  Rebate,
  RebateBasis,
  RebateKind,
  ReleaseGround,
  ReleaseItem,
  Reminder,
  ReminderKind,
  Side,
} from '@core/agreements';
import type { Route } from '@core/catalogue';
import { there } from '../acts';
import type { Sql, Statement } from '../db/database';
import { APPROVED, listPriceIn, plain, shipTosOf } from '../db/mapping';

export interface AgreementHead {
  id: number;
  number: string;
  version: number;
  state: AgreementState;
  side: Side;
  basis: Basis;
  customer_id: number | null;
  vendor_id: number | null;
  currency: string;
  first_day: string;
  last_day: string;
  limit_policy: LimitPolicy;
  tolerance_percent: string;
  priority: number;
  title: string;
  signed_on: string | null;
  sales_organisation_id: number | null;
  probability_percent: string;
  notes: string;
  rebate_kind: RebateKind;
  rebate_by: RebateBasis;
  release_ahead_days: number | null;
  plan_ship_to_id: number | null;
  plan_reference: string;
}

const HEAD_COLUMNS = `id, number, version, state, side, basis, customer_id, vendor_id, currency, first_day, last_day,
  limit_policy, tolerance_percent, priority, title, signed_on, sales_organisation_id, probability_percent, notes,
  rebate_kind, rebate_by, release_ahead_days, plan_ship_to_id, plan_reference`;

/** The agreement's head, locked for this act. */
export async function lockAgreement(sql: Sql, companyId: number, id: number): Promise<AgreementHead> {
  const [row] = await sql.rows<AgreementHead>(
    `SELECT ${HEAD_COLUMNS} FROM agreement WHERE company_id = ? AND id = ? FOR UPDATE`,
    [companyId, id],
  );
  return there(row, 'This agreement');
}

/** The head's terms as they are typed, with its rebate tiers and reminders. */
export async function termsOf(
  sql: Sql,
  companyId: number,
  head: AgreementHead,
): Promise<Omit<AgreementTerms, 'lines'>> {
  return {
    side: head.side,
    basis: head.basis,
    customerId: head.customer_id,
    vendorId: head.vendor_id,
    salesOrganisationId: head.sales_organisation_id,
    title: head.title,
    firstDay: head.first_day,
    lastDay: head.last_day,
    signedOn: head.signed_on,
    limitPolicy: head.limit_policy,
    tolerancePercent: plain(head.tolerance_percent),
    probabilityPercent: plain(head.probability_percent),
    priority: String(head.priority),
    notes: head.notes,
    rebate: await rebateOf(sql, companyId, head),
    reminders: (await remindersOf(sql, companyId, head.id)).map(({ kind, at }) => ({ kind, at })),
    releaseAhead: head.release_ahead_days === null ? '' : String(head.release_ahead_days),
  };
}

/** The rebate of an agreement with its tiers in rising order. */
export async function rebateOf(
  sql: Sql,
  companyId: number,
  head: Pick<AgreementHead, 'id' | 'rebate_kind' | 'rebate_by'>,
): Promise<Rebate> {
  const tiers = await sql.rows<{ from_amount: string; rate: string }>(
    'SELECT from_amount, rate FROM agreement_rebate_tier WHERE company_id = ? AND agreement_id = ? ORDER BY from_amount',
    [companyId, head.id],
  );
  return {
    kind: head.rebate_kind,
    by: head.rebate_by,
    tiers: tiers.map((tier) => ({ from: plain(tier.from_amount), rate: plain(tier.rate) })),
  };
}

export interface KeptReminder extends Reminder {
  firedOn: string | null;
  handledOn: string | null;
}

export async function remindersOf(sql: Sql, companyId: number, agreementId: number): Promise<KeptReminder[]> {
  const rows = await sql.rows<{
    kind: ReminderKind;
    at_value: string;
    fired_on: string | null;
    handled_on: string | null;
  }>(
    `SELECT kind, at_value, fired_on, handled_on FROM agreement_reminder
      WHERE company_id = ? AND agreement_id = ? ORDER BY kind, at_value`,
    [companyId, agreementId],
  );
  return rows.map((row) => ({
    kind: row.kind,
    at: plain(row.at_value),
    firedOn: row.fired_on,
    handledOn: row.handled_on,
  }));
}

export interface PriceColumns {
  price_kind: PriceKind;
  unit_price: string | null;
  discount_percent: string | null;
}

/** The columns of a line's price, read under `l`. */
export const PRICE_COLUMNS = 'l.price_kind, l.unit_price, l.discount_percent';

/** A line's price as core reads it. */
export function priceTermOf(row: PriceColumns, breaks: readonly PriceBreak[]): PriceTerm {
  return { priceKind: row.price_kind, priceValue: plainOr(row.unit_price ?? row.discount_percent), breaks };
}

const plainOr = (value: string | null) => (value === null ? '' : plain(value));

/** The price breaks of the lines of agreements, in rising order. */
export async function breaksOf(
  sql: Sql,
  companyId: number,
  agreementIds: number | readonly number[],
): Promise<Map<number, PriceBreak[]>> {
  const rows = await sql.rows<{
    line_id: number;
    from_quantity: string;
    unit_price: string | null;
    discount_percent: string | null;
  }>(
    `SELECT b.agreement_line_id AS line_id, b.from_quantity, b.unit_price, b.discount_percent
       FROM agreement_line l
       JOIN agreement_break b ON b.company_id = l.company_id AND b.agreement_line_id = l.id
      WHERE l.company_id = ? AND l.agreement_id IN (?) ORDER BY l.id, b.from_quantity`,
    [companyId, agreementIds],
  );
  const byLine = new Map<number, PriceBreak[]>();
  for (const row of rows) {
    const breaks = byLine.get(row.line_id) ?? [];
    breaks.push({ from: plain(row.from_quantity), value: plainOr(row.unit_price ?? row.discount_percent) });
    byLine.set(row.line_id, breaks);
  }
  return byLine;
}

interface ReleaseLineRow extends PriceColumns {
  id: number;
  line_no: number;
  item_id: number | null;
  item_group_id: number | null;
  committed: string;
  committed_value: string;
  released: string;
  released_value: string;
  least_release: string;
  release_multiple: string;
}

/** The columns `offeredLineOf` reads, under `l`. */
const OFFERED_COLUMNS = `l.id, l.line_no, l.item_id, l.item_group_id, l.committed, l.committed_value, l.released,
  l.released_value, ${PRICE_COLUMNS}, l.least_release, l.release_multiple`;

function offeredLineOf(row: ReleaseLineRow, breaks: readonly PriceBreak[]): OfferedLine {
  return {
    id: row.id,
    lineNo: row.line_no,
    itemId: row.item_id,
    groupId: row.item_group_id,
    committed: plain(row.committed),
    committedValue: plain(row.committed_value),
    released: plain(row.released),
    releasedValue: plain(row.released_value),
    leastRelease: plain(row.least_release),
    releaseMultiple: plain(row.release_multiple),
    ...priceTermOf(row, breaks),
  };
}

interface OfferingColumns {
  number: string;
  state: AgreementState;
  basis: Basis;
  first_day: string;
  last_day: string;
  currency: string;
  priority: number;
  limit_policy: LimitPolicy;
  tolerance_percent: string;
}

function offeringOf(id: number, head: OfferingColumns): OfferingAgreement {
  return {
    id,
    number: head.number,
    state: head.state,
    basis: head.basis,
    firstDay: head.first_day,
    lastDay: head.last_day,
    currency: head.currency,
    priority: head.priority,
    limitPolicy: head.limit_policy,
    tolerancePercent: plain(head.tolerance_percent),
  };
}

/** All that a release is decided on, the agreement and its lines locked. */
export async function loadRelease(
  sql: Sql,
  companyId: number,
  agreementId: number,
  askedItemIds: readonly number[],
  day: string,
): Promise<ReleaseGround> {
  const head = await lockAgreement(sql, companyId, agreementId);
  // The head's lock guards its lines: nobody counts on them without it.
  const rows = await sql.rows<ReleaseLineRow>(
    `SELECT ${OFFERED_COLUMNS} FROM agreement_line l WHERE l.company_id = ? AND l.agreement_id = ? ORDER BY l.line_no`,
    [companyId, agreementId],
  );
  const breaks = await breaksOf(sql, companyId, agreementId);
  const itemIds = [...rows.flatMap((row) => (row.item_id === null ? [] : [row.item_id])), ...askedItemIds];
  const items = await releaseItems(sql, companyId, head, itemIds, day);
  const party = await partyOf(sql, companyId, head);
  const shipTos = head.customer_id === null ? [] : await shipTosOf(sql, companyId, head.customer_id);
  return {
    agreement: { ...offeringOf(head.id, head), side: head.side },
    party,
    shipToIds: shipTos.map((each) => each.id),
    lines: rows.map((row) => ({
      ...offeredLineOf(row, breaks.get(row.id) ?? []),
      item: row.item_id === null ? null : (items.get(row.item_id) ?? null),
    })),
    items,
  };
}

async function partyOf(sql: Sql, companyId: number, head: AgreementHead): Promise<ReleaseGround['party']> {
  const [row] = await sql.rows<{ id: number; name: string; reference_required: number }>(
    head.side === 'selling'
      ? 'SELECT id, name, reference_required FROM customer WHERE company_id = ? AND id = ?'
      : 'SELECT id, name, 0 AS reference_required FROM vendor WHERE company_id = ? AND id = ?',
    [companyId, head.customer_id ?? head.vendor_id],
  );
  return { id: row!.id, name: row!.name, referenceRequired: Boolean(row!.reference_required) };
}

/** Items as a release takes them: at the list price, or at what the vendor asks for them. */
async function releaseItems(
  sql: Sql,
  companyId: number,
  { vendor_id: vendorId, currency }: Pick<AgreementHead, 'vendor_id' | 'currency'>,
  itemIds: readonly number[],
  day: string,
): Promise<Map<number, ReleaseItem>> {
  const ids = [...new Set(itemIds)];
  if (ids.length === 0) return new Map();
  const rows = await sql.rows<{
    id: number;
    number: string;
    unit: string;
    item_group_id: number | null;
    route: Route;
    list_price: string;
    vendor_price: string | null;
    tax_code_id: number;
    rate: string;
    approved: number;
  }>(
    `SELECT i.id, i.number, i.unit, i.item_group_id, i.route, ${listPriceIn('?')} AS list_price, iv.unit_price AS vendor_price, i.tax_code_id, t.rate,
            ${APPROVED} AS approved
       FROM item i
       JOIN tax_code t ON t.company_id = i.company_id AND t.id = i.tax_code_id
       LEFT JOIN item_group g ON g.company_id = i.company_id AND g.id = i.item_group_id
       LEFT JOIN item_vendor iv ON iv.company_id = i.company_id AND iv.item_id = i.id AND iv.vendor_id = ?
      WHERE i.company_id = ? AND i.id IN (?)`,
    [currency, currency, day, day, vendorId ?? 0, companyId, ids],
  );
  const instead = await approvedFor(
    sql,
    companyId,
    rows.filter((row) => vendorId !== null && !row.approved).map((row) => row.id),
    day,
  );
  return new Map(
    rows
      .filter((row) => vendorId === null || row.vendor_price !== null)
      .map((row) => [
        row.id,
        {
          id: row.id,
          number: row.number,
          unit: row.unit,
          groupId: row.item_group_id,
          route: row.route,
          listPrice: plain(vendorId === null ? row.list_price : row.vendor_price!),
          taxCodeId: row.tax_code_id,
          taxRate: plain(row.rate),
          approvedInstead: vendorId === null || row.approved ? null : (instead.get(row.id) ?? []).join(' or '),
        },
      ]),
  );
}

/** Who is approved for items on a day and sells them, by item id. // L9 */
async function approvedFor(
  sql: Sql,
  companyId: number,
  itemIds: readonly number[],
  day: string,
): Promise<Map<number, string[]>> {
  if (itemIds.length === 0) return new Map();
  const rows = await sql.rows<{ item_id: number; name: string }>(
    `SELECT iv.item_id, v.name
       FROM item_vendor iv
       JOIN item i ON i.company_id = iv.company_id AND i.id = iv.item_id
       LEFT JOIN item_group g ON g.company_id = i.company_id AND g.id = i.item_group_id
       JOIN vendor v ON v.company_id = iv.company_id AND v.id = iv.vendor_id
      WHERE iv.company_id = ? AND iv.item_id IN (?) AND ${APPROVED} ORDER BY v.name`,
    [companyId, [...itemIds], day, day],
  );
  const byItem = new Map<number, string[]>();
  for (const row of rows) byItem.set(row.item_id, [...(byItem.get(row.item_id) ?? []), row.name]);
  return byItem;
}

/** An offer with the customer or vendor it is with. */
export interface PartyOffer extends Offer {
  customerId: number | null;
  vendorId: number | null;
  title: string;
}

/**
 * The agreement lines that could price items for a customer or from vendors on a day, with those named by id whatever
 * has become of them; their agreements locked, by id. Served by agreement_customer and agreement_vendor. // A13
 */
export async function lockOffers(
  sql: Sql,
  companyId: number,
  asked: { customerId?: number | null; vendorIds?: readonly number[]; lineIds?: readonly number[]; day: string },
): Promise<PartyOffer[]> {
  const heads = await sql.rows<{ id: number }>(
    `SELECT id FROM agreement
      WHERE company_id = ? AND state = 'in-force' AND first_day <= ? AND last_day >= ?
        AND (customer_id = ? OR vendor_id IN (?))
      UNION
     SELECT agreement_id FROM agreement_line WHERE company_id = ? AND id IN (?)`,
    [
      companyId,
      asked.day,
      asked.day,
      asked.customerId ?? 0,
      asked.vendorIds?.length ? asked.vendorIds : [0],
      companyId,
      asked.lineIds?.length ? asked.lineIds : [0],
    ],
  );
  if (heads.length === 0) return [];
  const ids = heads.map((head) => head.id);
  await lockAgreements(sql, companyId, ids);
  const rows = await sql.rows<
    ReleaseLineRow &
      OfferingColumns & { agreement_id: number; customer_id: number | null; vendor_id: number | null; title: string }
  >(
    `SELECT ${OFFERED_COLUMNS}, a.id AS agreement_id, a.number, a.state, a.basis, a.first_day, a.last_day, a.currency,
            a.priority, a.limit_policy, a.tolerance_percent, a.customer_id, a.vendor_id, a.title
       FROM agreement a JOIN agreement_line l ON l.company_id = a.company_id AND l.agreement_id = a.id
      WHERE a.company_id = ? AND a.id IN (?) ORDER BY l.id`,
    [companyId, ids],
  );
  const breaks = await breaksOf(sql, companyId, ids);
  return rows.map((row) => ({
    agreement: offeringOf(row.agreement_id, row),
    line: offeredLineOf(row, breaks.get(row.id) ?? []),
    customerId: row.customer_id,
    vendorId: row.vendor_id,
    title: row.title,
  }));
}

/** Party, items and groups the terms name, as far as they exist in this company. */
export async function loadTermsGround(
  sql: Sql,
  companyId: number,
  terms: Pick<AgreementTerms, 'side' | 'customerId' | 'vendorId'> & {
    lines: readonly { itemId: number | null; groupId: number | null }[];
  },
): Promise<Omit<AgreementGround, 'current'>> {
  const selling = terms.side === 'selling';
  const [party] = await sql.rows<{ id: number; name: string; currency: string; organisation: number | null }>(
    selling
      ? 'SELECT id, name, currency, sales_organisation_id AS organisation FROM customer WHERE company_id = ? AND id = ?'
      : 'SELECT id, name, currency, NULL AS organisation FROM vendor WHERE company_id = ? AND id = ?',
    [companyId, (selling ? terms.customerId : terms.vendorId) ?? 0],
  );
  const named = (pick: (line: { itemId: number | null; groupId: number | null }) => number | null) => [
    0,
    ...terms.lines.flatMap((line) => pick(line) ?? []),
  ];
  const items = await sql.rows<{ id: number; number: string; list_price: string; vendor_price: string | null }>(
    `SELECT i.id, i.number, ${listPriceIn('?')} AS list_price, v.unit_price AS vendor_price FROM item i
       LEFT JOIN item_vendor v ON v.company_id = i.company_id AND v.item_id = i.id AND v.vendor_id = ?
      WHERE i.company_id = ? AND i.id IN (?)`,
    [party?.currency ?? '', party?.currency ?? '', terms.vendorId ?? 0, companyId, named((line) => line.itemId)],
  );
  const groups = await sql.rows<{ id: number; code: string }>(
    'SELECT id, code FROM item_group WHERE company_id = ? AND id IN (?)',
    [companyId, named((line) => line.groupId)],
  );
  return {
    party: party
      ? { id: party.id, name: party.name, currency: party.currency, salesOrganisationId: party.organisation }
      : null,
    items: new Map(
      items.map((item) => {
        const listPrice = selling ? item.list_price : item.vendor_price;
        return [item.id, { number: item.number, listPrice: listPrice === null ? null : plain(listPrice) }];
      }),
    ),
    groups: new Map(groups.map((group) => [group.id, { code: group.code }])),
  };
}

/** A change of an agreement line's counters, in quantity and value. */
export interface CounterChange {
  agreementLineId: number;
  quantity: string;
  value: string;
}

/** What moves one counter of agreement lines and of their agreements' heads. // A4 */
export function counterStatements(
  companyId: number,
  counter: 'released' | 'shipped' | 'invoiced',
  changes: readonly CounterChange[],
): Statement[] {
  const moved = changes.map((change) => ({
    sql: `UPDATE agreement_line l JOIN agreement a ON a.company_id = l.company_id AND a.id = l.agreement_id
          SET l.${counter} = l.${counter} + ?, l.${counter}_value = l.${counter}_value + ?,
              a.${counter}_value = a.${counter}_value + ?
        WHERE l.company_id = ? AND l.id = ?`,
    values: [change.quantity, change.value, change.value, companyId, change.agreementLineId],
  }));
  if (counter !== 'released' || changes.length === 0) return moved;
  const lineIds = changes.map((change) => change.agreementLineId);
  return [
    ...moved,
    {
      sql: `UPDATE agreement a JOIN agreement_line l ON l.company_id = a.company_id AND l.agreement_id = a.id
            SET a.used_up = ${NOTHING_LEFT} WHERE l.company_id = ? AND l.id IN (${lineIds.map(() => '?').join()})`,
      values: [companyId, ...lineIds],
    },
  ];
}

/** True in SQL where no line of `agreement a` has anything left to release. // A4 */
export const NOTHING_LEFT = `NOT EXISTS (SELECT 1 FROM agreement_line ul FORCE INDEX (agreement_line_no)
   WHERE ul.company_id = a.company_id AND ul.agreement_id = a.id
     AND IF(a.basis = 'quantity', ul.released < ul.committed, ul.released_value < ul.committed_value))`;

/** Locks agreements, by id; their refs for the listening screens. None given, none locked. */
export async function lockAgreements(
  sql: Sql,
  companyId: number,
  ids: readonly (number | null)[],
): Promise<{ kind: 'AG'; id: number; number: string }[]> {
  const wanted = [...new Set(ids)].filter((id) => id !== null);
  if (wanted.length === 0) return [];
  const rows = await sql.rows<{ id: number; number: string }>(
    'SELECT id, number FROM agreement WHERE company_id = ? AND id IN (?) ORDER BY id FOR UPDATE',
    [companyId, wanted],
  );
  return rows.map((row) => ({ kind: 'AG' as const, ...row }));
}
