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
  ReleaseGround,
  ReleaseItem,
  Reminder,
} from '@core/agreements';
import { there } from '../acts';
import type { Sql, Statement, Columns } from '../db';
import { APPROVED, listPriceIn } from '../catalogue';
import { shipTosOf } from '../parties';
import type { Agreement, AgreementReminder } from './tables';
import type { Item } from '../catalogue/tables';

export type AgreementHead = Columns<
  Agreement,
  'id number version state side basis customerId vendorId currency firstDay lastDay limitPolicy tolerancePercent priority title signedOn salesOrganisationId probabilityPercent notes rebateKind rebateBy releaseAheadDays planShipToId planReference'
>;

const HEAD_COLUMNS = `id, number, version, state, side, basis, customer_id, vendor_id, currency, first_day, last_day,
  limit_policy, tolerance_percent, priority, title, signed_on, sales_organisation_id, probability_percent, notes,
  rebate_kind, rebate_by, release_ahead_days, plan_ship_to_id, plan_reference`;

/** The agreement's head, locked for this act. */
export async function loadAgreement(sql: Sql, companyId: number, id: number): Promise<AgreementHead> {
  const [row] = await sql.rows<AgreementHead>(
    `SELECT ${HEAD_COLUMNS} FROM agreement WHERE company_id = ? AND id = ? ${sql.forUpdate}`,
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
    customerId: head.customerId,
    vendorId: head.vendorId,
    salesOrganisationId: head.salesOrganisationId,
    title: head.title,
    firstDay: head.firstDay,
    lastDay: head.lastDay,
    signedOn: head.signedOn,
    limitPolicy: head.limitPolicy,
    tolerancePercent: head.tolerancePercent,
    probabilityPercent: head.probabilityPercent,
    priority: String(head.priority),
    notes: head.notes,
    rebate: await rebateOf(sql, companyId, head),
    reminders: (await remindersOf(sql, companyId, head.id)).map(({ kind, at }) => ({ kind, at })),
    releaseAhead: head.releaseAheadDays === null ? '' : String(head.releaseAheadDays),
  };
}

/** The rebate of an agreement with its tiers in rising order. */
export async function rebateOf(
  sql: Sql,
  companyId: number,
  head: Pick<AgreementHead, 'id' | 'rebateKind' | 'rebateBy'>,
): Promise<Rebate> {
  const tiers = await sql.rows<{ fromAmount: string; rate: string }>(
    'SELECT from_amount, rate FROM agreement_rebate_tier WHERE company_id = ? AND agreement_id = ? ORDER BY from_amount',
    [companyId, head.id],
  );
  return {
    kind: head.rebateKind,
    by: head.rebateBy,
    tiers: tiers.map((tier) => ({ from: tier.fromAmount, rate: tier.rate })),
  };
}

export interface KeptReminder extends Reminder {
  firedOn: string | null;
  handledOn: string | null;
}

export async function remindersOf(sql: Sql, companyId: number, agreementId: number): Promise<KeptReminder[]> {
  const rows = await sql.rows<Columns<AgreementReminder, 'kind atValue firedOn handledOn'>>(
    `SELECT kind, at_value, fired_on, handled_on FROM agreement_reminder
      WHERE company_id = ? AND agreement_id = ? ORDER BY kind, at_value`,
    [companyId, agreementId],
  );
  return rows.map((row) => ({
    kind: row.kind,
    at: row.atValue,
    firedOn: row.firedOn,
    handledOn: row.handledOn,
  }));
}

export interface PriceColumns {
  priceKind: PriceKind;
  unitPrice: string | null;
  discountPercent: string | null;
}

/** The columns of a line's price, read under `l`. */
export const PRICE_COLUMNS = 'l.price_kind, l.unit_price, l.discount_percent';

/** A line's price as core reads it. */
export function priceTermOf(row: PriceColumns, breaks: readonly PriceBreak[]): PriceTerm {
  return { priceKind: row.priceKind, priceValue: row.unitPrice ?? row.discountPercent ?? '', breaks };
}

/** The price breaks of the lines of agreements, in rising order. */
export async function breaksOf(
  sql: Sql,
  companyId: number,
  agreementIds: number | readonly number[],
): Promise<Map<number, PriceBreak[]>> {
  const rows = await sql.rows<{
    lineId: number;
    fromQuantity: string;
    unitPrice: string | null;
    discountPercent: string | null;
  }>(
    `SELECT b.agreement_line_id AS line_id, b.from_quantity, b.unit_price, b.discount_percent
       FROM agreement_line l
       JOIN agreement_break b ON b.company_id = l.company_id AND b.agreement_line_id = l.id
      WHERE l.company_id = ? AND l.agreement_id IN (?) ORDER BY l.id, b.from_quantity`,
    [companyId, agreementIds],
  );
  const byLine = new Map<number, PriceBreak[]>();
  for (const row of rows) {
    const breaks = byLine.get(row.lineId) ?? [];
    breaks.push({ from: row.fromQuantity, value: row.unitPrice ?? row.discountPercent ?? '' });
    byLine.set(row.lineId, breaks);
  }
  return byLine;
}

interface ReleaseLineRow extends PriceColumns {
  id: number;
  lineNo: number;
  itemId: number | null;
  itemGroupId: number | null;
  committed: string;
  committedValue: string;
  released: string;
  releasedValue: string;
  leastRelease: string;
  releaseMultiple: string;
}

/** The columns `offeredLineOf` reads, under `l`. */
const OFFERED_COLUMNS = `l.id, l.line_no, l.item_id, l.item_group_id, l.committed, l.committed_value, l.released,
  l.released_value, ${PRICE_COLUMNS}, l.least_release, l.release_multiple`;

function offeredLineOf(row: ReleaseLineRow, breaks: readonly PriceBreak[]): OfferedLine {
  return {
    id: row.id,
    lineNo: row.lineNo,
    itemId: row.itemId,
    groupId: row.itemGroupId,
    committed: row.committed,
    committedValue: row.committedValue,
    released: row.released,
    releasedValue: row.releasedValue,
    leastRelease: row.leastRelease,
    releaseMultiple: row.releaseMultiple,
    ...priceTermOf(row, breaks),
  };
}

interface OfferingColumns {
  number: string;
  state: AgreementState;
  basis: Basis;
  firstDay: string;
  lastDay: string;
  currency: string;
  priority: number;
  limitPolicy: LimitPolicy;
  tolerancePercent: string;
}

function offeringOf(id: number, head: OfferingColumns): OfferingAgreement {
  return {
    id,
    ...head,
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
  const head = await loadAgreement(sql, companyId, agreementId);
  // The head's lock guards its lines: nobody counts on them without it.
  const rows = await sql.rows<ReleaseLineRow>(
    `SELECT ${OFFERED_COLUMNS} FROM agreement_line l WHERE l.company_id = ? AND l.agreement_id = ? ORDER BY l.line_no`,
    [companyId, agreementId],
  );
  const breaks = await breaksOf(sql, companyId, agreementId);
  const itemIds = [...rows.flatMap((row) => (row.itemId === null ? [] : [row.itemId])), ...askedItemIds];
  const items = await releaseItems(sql, companyId, head, itemIds, day);
  const party = await partyOf(sql, companyId, head);
  const shipTos = head.customerId === null ? [] : await shipTosOf(sql, companyId, head.customerId);
  return {
    agreement: { ...offeringOf(head.id, head), side: head.side },
    party,
    shipToIds: shipTos.map((each) => each.id),
    lines: rows.map((row) => ({
      ...offeredLineOf(row, breaks.get(row.id) ?? []),
      item: row.itemId === null ? null : (items.get(row.itemId) ?? null),
    })),
    items,
  };
}

async function partyOf(sql: Sql, companyId: number, head: AgreementHead): Promise<ReleaseGround['party']> {
  const [row] = await sql.rows<{ id: number; name: string; referenceRequired: boolean }>(
    head.side === 'selling'
      ? 'SELECT id, name, reference_required FROM customer WHERE company_id = ? AND id = ?'
      : 'SELECT id, name, 0 AS reference_required FROM vendor WHERE company_id = ? AND id = ?',
    [companyId, head.customerId ?? head.vendorId],
  );
  return { id: row!.id, name: row!.name, referenceRequired: row!.referenceRequired };
}

/** Items as a release takes them: at the list price, or at what the vendor asks for them. */
async function releaseItems(
  sql: Sql,
  companyId: number,
  { vendorId: vendorId, currency }: Pick<AgreementHead, 'vendorId' | 'currency'>,
  itemIds: readonly number[],
  day: string,
): Promise<Map<number, ReleaseItem>> {
  const ids = [...new Set(itemIds)];
  if (ids.length === 0) return new Map();
  const rows = await sql.rows<
    Columns<Item, 'id number unit itemGroupId route taxCodeId'> & {
      listPrice: string;
      vendorPrice: string | null;
      rate: string;
      approved: number;
    }
  >(
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
      .filter((row) => vendorId === null || row.vendorPrice !== null)
      .map((row) => [
        row.id,
        {
          id: row.id,
          number: row.number,
          unit: row.unit,
          groupId: row.itemGroupId,
          route: row.route,
          listPrice: vendorId === null ? row.listPrice : row.vendorPrice!,
          taxCodeId: row.taxCodeId,
          taxRate: row.rate,
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
  const rows = await sql.rows<{ itemId: number; name: string }>(
    `SELECT iv.item_id, v.name
       FROM item_vendor iv
       JOIN item i ON i.company_id = iv.company_id AND i.id = iv.item_id
       LEFT JOIN item_group g ON g.company_id = i.company_id AND g.id = i.item_group_id
       JOIN vendor v ON v.company_id = iv.company_id AND v.id = iv.vendor_id
      WHERE iv.company_id = ? AND iv.item_id IN (?) AND ${APPROVED} ORDER BY v.name`,
    [companyId, [...itemIds], day, day],
  );
  const byItem = new Map<number, string[]>();
  for (const row of rows) byItem.set(row.itemId, [...(byItem.get(row.itemId) ?? []), row.name]);
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
export async function loadOffers(
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
    [companyId, asked.day, asked.day, asked.customerId ?? 0, asked.vendorIds ?? [], companyId, asked.lineIds ?? []],
  );
  if (heads.length === 0) return [];
  const ids = heads.map((head) => head.id);
  await loadAgreements(sql, companyId, ids);
  const rows = await sql.rows<
    ReleaseLineRow &
      OfferingColumns & { agreementId: number; customerId: number | null; vendorId: number | null; title: string }
  >(
    `SELECT ${OFFERED_COLUMNS}, a.id AS agreement_id, a.number, a.state, a.basis, a.first_day, a.last_day, a.currency,
            a.priority, a.limit_policy, a.tolerance_percent, a.customer_id, a.vendor_id, a.title
       FROM agreement a JOIN agreement_line l ON l.company_id = a.company_id AND l.agreement_id = a.id
      WHERE a.company_id = ? AND a.id IN (?) ORDER BY l.id`,
    [companyId, ids],
  );
  const breaks = await breaksOf(sql, companyId, ids);
  return rows.map((row) => ({
    agreement: offeringOf(row.agreementId, row),
    line: offeredLineOf(row, breaks.get(row.id) ?? []),
    customerId: row.customerId,
    vendorId: row.vendorId,
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
  const named = (pick: (line: { itemId: number | null; groupId: number | null }) => number | null) =>
    terms.lines.flatMap((line) => pick(line) ?? []);
  const items = await sql.rows<{ id: number; number: string; listPrice: string; vendorPrice: string | null }>(
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
        const listPrice = selling ? item.listPrice : item.vendorPrice;
        return [item.id, { number: item.number, listPrice }];
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
export async function loadAgreements(
  sql: Sql,
  companyId: number,
  ids: readonly (number | null)[],
): Promise<{ kind: 'AG'; id: number; number: string }[]> {
  const wanted = [...new Set(ids)].filter((id) => id !== null);
  if (wanted.length === 0) return [];
  const rows = await sql.rows<{ id: number; number: string }>(
    `SELECT id, number FROM agreement WHERE company_id = ? AND id IN (?) ORDER BY id ${sql.forUpdate}`,
    [companyId, wanted],
  );
  return rows.map((row) => ({ kind: 'AG' as const, ...row }));
}
