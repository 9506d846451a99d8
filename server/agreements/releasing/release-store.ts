import type {
  AgreementState,
  Basis,
  LimitPolicy,
  Offer,
  OfferedLine,
  OfferingAgreement,
  PriceBreak,
  ReleaseGround,
  ReleaseItem,
  WholeLimit,
} from '@core/agreements';
import type { Sql, Columns } from '../../db';
import { APPROVED, listPriceIn } from '../../catalogue';
import { shipTosOf } from '../../parties';
import type { Item } from '../../catalogue/tables';
import { wholeLimitsOf } from './whole';
import {
  type AgreementHead,
  loadAgreement,
  type PriceColumns,
  PRICE_COLUMNS,
  priceTermOf,
  breaksOf,
  loadAgreements,
} from '../terms/store';

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
  freeGoodsCount?: boolean;
  limitPolicy: LimitPolicy;
  tolerancePercent: string;
}

function offeringOf(id: number, head: OfferingColumns, wholes: ReadonlyMap<number, WholeLimit>): OfferingAgreement {
  return {
    id,
    ...head,
    whole: wholes.get(id) ?? null,
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
    agreement: { ...offeringOf(head.id, head, await wholeLimitsOf(sql, companyId, [head.id])), side: head.side },
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
  const [row] = await sql.rows<{ id: number; name: string; referenceRequired: boolean | null }>(
    head.side === 'selling'
      ? 'SELECT id, name, reference_required FROM customer WHERE company_id = ? AND id = ?'
      : 'SELECT id, name, NULL AS reference_required FROM vendor WHERE company_id = ? AND id = ?',
    [companyId, head.customerId ?? head.vendorId],
  );
  return { id: row!.id, name: row!.name, referenceRequired: row!.referenceRequired ?? false };
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
  // One trip: they are read once the agreements are locked.
  const [, rows, breaks, wholes] = await Promise.all([
    loadAgreements(sql, companyId, ids),
    sql.rows<
      ReleaseLineRow &
        OfferingColumns & { agreementId: number; customerId: number | null; vendorId: number | null; title: string }
    >(
      `SELECT ${OFFERED_COLUMNS}, a.id AS agreement_id, a.number, a.state, a.basis, a.first_day, a.last_day, a.currency,
              a.priority, a.limit_policy, a.tolerance_percent, a.free_goods_count, a.customer_id, a.vendor_id, a.title
         FROM agreement a JOIN agreement_line l ON l.company_id = a.company_id AND l.agreement_id = a.id
        WHERE a.company_id = ? AND a.id IN (?) ORDER BY l.id`,
      [companyId, ids],
    ),
    breaksOf(sql, companyId, ids),
    wholeLimitsOf(sql, companyId, ids),
  ]);
  return rows.map((row) => ({
    agreement: offeringOf(row.agreementId, row, wholes),
    line: offeredLineOf(row, breaks.get(row.id) ?? []),
    customerId: row.customerId,
    vendorId: row.vendorId,
    title: row.title,
  }));
}
