import type * as z from 'zod';
import {
  agreedPrice,
  leftOn,
  rankOffers,
  tierAt,
  type LimitPolicy,
  type RebateBasis,
  type RebateKind,
  type RestPlan,
  leftOnWhole,
  wholeLimitText,
} from '@core/agreements';
import { dec, isDecimalText } from '@core/kernel';
import { priceWithout } from '@core/orders';
import type * as contract from '@api/agreements';
import { orNotFound, type Doer } from '../acts';
import type { Sql, Columns } from '../db';
import { CUSTOMER_CURRENCY, listPriceIn } from '../catalogue';
import { shipTosOf } from '../parties';
import { orderPricing, pricingOf } from '../pricing';
import { documentsOfAgreement } from '../documents';
import { HEAD_COLUMNS, JOIN_PARTY, rowOf, type HeadRow } from './list';
import { callsOf } from './releasing/plan';
import { breaksOf, PRICE_COLUMNS, priceTermOf, rebateOf, remindersOf, type PriceColumns } from './terms/store';
import type { Prepayment } from '../billing/tables';
import type { AgreementRevision } from './tables';
import { loadOffers } from './releasing/release-store';
import { wholeLimitsOf } from './releasing/whole';

type Sheet = z.infer<typeof contract.AgreementSheet>;

interface SheetRow extends HeadRow {
  version: number;
  signedOn: string | null;
  limitPolicy: LimitPolicy;
  tolerancePercent: string;
  wholeLimit: string;
  wholeUnit: string;
  probabilityPercent: string;
  restPlan: RestPlan;
  freeGoodsCount: boolean;
  priority: number;
  notes: string;
  endedOn: string | null;
  renewedAs: number | null;
  renewedNumber: string | null;
  referenceRequired: boolean | null;
  customerId: number | null;
  vendorId: number | null;
  organisationId: number | null;
  organisationCode: string | null;
  organisationName: string | null;
  rebateKind: RebateKind;
  rebateBy: RebateBasis;
  rebateValue: string;
  rebateQuantity: string;
  rebateAccrued: string;
  rebateSettled: string;
  releaseAheadDays: number | null;
  planShipToId: number | null;
  planReference: string;
}

/** One agreement with its lines, counters and every document that came from it. */
export async function openAgreement(sql: Sql, companyId: number, id: number): Promise<Sheet> {
  const [head] = await sql.rows<SheetRow>(
    `SELECT ${HEAD_COLUMNS}, a.version, a.signed_on, a.limit_policy, a.tolerance_percent, a.whole_limit, a.whole_unit, a.probability_percent, a.rest_plan, a.free_goods_count, a.priority, a.notes, a.ended_on,
       a.renewed_as, (SELECT n.number FROM agreement n WHERE n.company_id = a.company_id AND n.id = a.renewed_as) AS renewed_number,
       a.customer_id, a.vendor_id, c.reference_required, so.id AS organisation_id, so.code AS organisation_code,
       so.name AS organisation_name, a.rebate_kind, a.rebate_by, a.rebate_value, a.rebate_quantity, a.rebate_accrued,
       a.rebate_settled, a.release_ahead_days, a.plan_ship_to_id, a.plan_reference
     FROM agreement a ${JOIN_PARTY} LEFT JOIN sales_organisation so ON so.company_id = a.company_id AND so.id = a.sales_organisation_id
     WHERE a.company_id = ? AND a.id = ?`,
    [companyId, id],
  );
  const found = orNotFound(head, 'This agreement');
  const [lines, shipTos, documents, rebate, reminders, prepayments, shortfall, revisions] = await Promise.all([
    linesOf(sql, companyId, id, found.vendorId),
    found.customerId === null ? [] : shipTosOf(sql, companyId, found.customerId),
    documentsOfAgreement(sql, companyId, id, found.side),
    rebateOf(sql, companyId, found),
    remindersOf(sql, companyId, id),
    prepaymentsOf(sql, companyId, id),
    shortfallOf(sql, companyId, id),
    revisionsOf(sql, companyId, id),
  ]);
  return {
    ...rowOf(found),
    version: found.version,
    signedOn: found.signedOn,
    limitPolicy: found.limitPolicy,
    tolerancePercent: found.tolerancePercent,
    wholeLimit: wholeLimitText({ limit: found.wholeLimit, unit: found.wholeUnit }),
    wholeLeft: await wholeLeftOf(sql, companyId, id, found.tolerancePercent),
    probabilityPercent: found.probabilityPercent,
    restPlan: found.restPlan,
    freeGoodsCount: found.freeGoodsCount,
    priority: found.priority,
    notes: found.notes,
    endedOn: found.endedOn,
    renewedAs: found.renewedAs === null ? null : { kind: 'AG', id: found.renewedAs, number: found.renewedNumber! },
    salesOrganisation:
      found.organisationId === null
        ? null
        : { id: found.organisationId, number: found.organisationCode!, name: found.organisationName! },
    rebate: { ...rebate, tiers: [...rebate.tiers] },
    rebateNow: rebateNowOf(found, rebate),
    reminders,
    releaseAhead: found.releaseAheadDays === null ? '' : String(found.releaseAheadDays),
    planShipToId: found.planShipToId,
    planReference: found.planReference,
    prepayments,
    shortfall,
    revisions,
    referenceRequired: found.referenceRequired ?? false,
    shipTos,
    lines,
    documents,
  };
}

function rebateNowOf(row: SheetRow, rebate: Awaited<ReturnType<typeof rebateOf>>): Sheet['rebateNow'] {
  if (rebate.kind === 'none' && dec(row.rebateAccrued).eq(row.rebateSettled)) return null;
  const { reached, coming } = tierAt(rebate, dec(rebate.by === 'value' ? row.rebateValue : row.rebateQuantity));
  return {
    value: row.rebateValue,
    quantity: row.rebateQuantity,
    accrued: row.rebateAccrued,
    settled: row.rebateSettled,
    rate: reached?.rate ?? null,
    coming: coming && { from: coming.from, rate: coming.rate, missing: coming.missing.toFixed() },
  };
}

async function prepaymentsOf(sql: Sql, companyId: number, agreementId: number): Promise<Sheet['prepayments']> {
  const rows = await sql.rows<
    Columns<Prepayment, 'id number takenOn amount'> & { leftOver: string; lineNo: number | null }
  >(
    `SELECT p.id, p.number, p.taken_on, p.amount, p.amount - p.drawn - p.returned - p.carried AS left_over, l.line_no
       FROM prepayment p
       LEFT JOIN agreement_line l ON l.company_id = p.company_id AND l.id = p.agreement_line_id
      WHERE p.company_id = ? AND p.agreement_id = ? ORDER BY p.id`,
    [companyId, agreementId],
  );
  return rows.map((row) => ({
    document: { kind: 'PP', id: row.id, number: row.number },
    takenOn: row.takenOn,
    amount: row.amount,
    left: row.leftOver,
    lineNo: row.lineNo,
  }));
}

async function shortfallOf(sql: Sql, companyId: number, agreementId: number): Promise<Sheet['shortfall']> {
  const [row] = await sql.rows<{ id: number; state: 'draft' | 'posted' | 'dropped'; net: string }>(
    `SELECT d.id, d.state, SUM(l.net) AS net FROM shortfall_draft d
       JOIN shortfall_line l ON l.company_id = d.company_id AND l.shortfall_draft_id = d.id
      WHERE d.company_id = ? AND d.agreement_id = ? GROUP BY d.id`,
    [companyId, agreementId],
  );
  return row ? { ...row } : null;
}

async function revisionsOf(sql: Sql, companyId: number, agreementId: number): Promise<Sheet['revisions']> {
  const rows = await sql.rows<
    Columns<AgreementRevision, 'revision revisedOn reason repriced changes'> & { name: string }
  >(
    `SELECT r.revision, p.name, r.revised_on, r.reason, r.repriced, r.changes
       FROM agreement_revision r JOIN person p ON p.id = r.person_id
      WHERE r.company_id = ? AND r.agreement_id = ? ORDER BY r.revision DESC`,
    [companyId, agreementId],
  );
  return rows.map((row) => ({
    revision: row.revision,
    person: row.name,
    revisedOn: row.revisedOn,
    reason: row.reason,
    repriced: row.repriced,
    changes: JSON.parse(row.changes) as Sheet['revisions'][number]['changes'],
  }));
}

/** The currency of the agreement whose line is `l`. */
const OF_AGREEMENT =
  '(SELECT la.currency FROM agreement la WHERE la.company_id = l.company_id AND la.id = l.agreement_id)';

async function linesOf(sql: Sql, companyId: number, id: number, vendorId: number | null): Promise<Sheet['lines']> {
  const [rows, breaks, calls] = await Promise.all([
    sql.rows<
      PriceColumns & {
        id: number;
        lineNo: number;
        itemId: number | null;
        number: string | null;
        name: string | null;
        unit: string | null;
        groupId: number | null;
        groupCode: string | null;
        groupName: string | null;
        listPrice: string | null;
        vendorPrice: string | null;
        leastRelease: string;
        releaseMultiple: string;
        notes: string;
        committed: string;
        committedValue: string;
        released: string;
        releasedValue: string;
        shipped: string;
        shippedValue: string;
        invoiced: string;
        invoicedValue: string;
      }
    >(
      `SELECT l.id, l.line_no, l.item_id, i.number, i.name, i.unit, g.id AS group_id, g.code AS group_code, g.name AS group_name,
              IF(i.id IS NULL, NULL, ${listPriceIn(OF_AGREEMENT)}) AS list_price, v.unit_price AS vendor_price, ${PRICE_COLUMNS}, l.least_release, l.release_multiple, l.notes,
              l.committed, l.committed_value, l.released, l.released_value, l.shipped, l.shipped_value, l.invoiced, l.invoiced_value
         FROM agreement_line l
         LEFT JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id
         LEFT JOIN item_group g ON g.company_id = l.company_id AND g.id = l.item_group_id
         LEFT JOIN item_vendor v ON v.company_id = l.company_id AND v.item_id = l.item_id AND v.vendor_id = ?
        WHERE l.company_id = ? AND l.agreement_id = ? ORDER BY l.line_no`,
      [vendorId ?? 0, companyId, id],
    ),
    breaksOf(sql, companyId, id),
    callsOf(sql, companyId, id),
  ]);
  return rows.map((row) => {
    const term = priceTermOf(row, breaks.get(row.id) ?? []);
    const listPrice = (vendorId === null ? row.listPrice : row.vendorPrice) ?? '0';
    return {
      id: row.id,
      lineNo: row.lineNo,
      item: row.itemId === null ? null : { id: row.itemId, number: row.number!, name: row.name!, unit: row.unit! },
      group: row.groupId === null ? null : { id: row.groupId, code: row.groupCode!, name: row.groupName! },
      listPrice,
      priceKind: term.priceKind,
      priceValue: term.priceValue,
      breaks: [...term.breaks],
      unitPrice: agreedPrice({ ...term, breaks: [] }, dec(row.committed), listPrice).toFixed(),
      leastRelease: row.leastRelease,
      releaseMultiple: row.releaseMultiple,
      notes: row.notes,
      committed: row.committed,
      committedValue: row.committedValue,
      released: row.released,
      releasedValue: row.releasedValue,
      shipped: row.shipped,
      shippedValue: row.shippedValue,
      invoiced: row.invoiced,
      invoicedValue: row.invoicedValue,
      calls: calls.get(row.id) ?? [],
    };
  });
}

/**
 * For each line, the agreements that could price its item for a customer or from a vendor, best first: by what they
 * come to from what it would cost without them, as an order of today would. // A13 R1
 */
export async function findOffers(
  sql: Sql,
  doer: Pick<Doer, 'companyId' | 'personId' | 'workDate'>,
  asked: z.infer<typeof contract.findOffers.body>,
): Promise<z.infer<typeof contract.findOffers.out>> {
  const { companyId, workDate } = doer;
  const ids = asked.lines.map((line) => line.itemId);
  const items = await sql.rows<{
    id: number;
    unit: string;
    itemGroupId: number | null;
    listPrice: string;
    vendorPrice: string | null;
  }>(
    `SELECT i.id, i.unit, i.item_group_id, ${listPriceIn(CUSTOMER_CURRENCY)} AS list_price, v.unit_price AS vendor_price FROM item i
       LEFT JOIN item_vendor v ON v.company_id = i.company_id AND v.item_id = i.id AND v.vendor_id = ?
      WHERE i.company_id = ? AND i.id IN (?)`,
    [asked.customerId ?? 0, asked.customerId ?? 0, asked.vendorId ?? 0, companyId, ids],
  );
  const byId = new Map(items.map((item) => [item.id, item]));
  const [party] = await sql.rows<{ currency: string }>(
    `SELECT currency FROM ${asked.vendorId ? 'vendor' : 'customer'} WHERE company_id = ? AND id = ?`,
    [companyId, asked.vendorId ?? asked.customerId ?? 0],
  );
  const { currency } = orNotFound(party, 'This party');
  const offers = await loadOffers(sql, companyId, {
    customerId: asked.customerId ?? null,
    vendorIds: asked.vendorId ? [asked.vendorId] : [],
    day: workDate,
  });
  const pricing = await pricingOf(sql, companyId, asked.customerId ?? null, ids);
  const { search, orderDate, byShipDate } = await orderPricing(sql, doer, asked.customerId ?? null, workDate);
  const titles = new Map(offers.map((offer) => [offer.line.id, offer.title]));
  return {
    lines: asked.lines.map(({ itemId, shipDate, quantity: typed }) => {
      const item = orNotFound(byId.get(itemId), 'This item');
      const { unit, itemGroupId: groupId } = item;
      const quantity = dec(isDecimalText(typed, 'quantity') ? typed : '1');
      const day = (byShipDate && shipDate) || orderDate;
      const without = { unit, listPrice: item.listPrice, pricing: pricing.get(itemId)! };
      const listPrice = asked.vendorId
        ? (item.vendorPrice ?? '0')
        : priceWithout(without, { unit, ownUnit: unit, quantity, day, currency }, search).listPrice;
      const ranked = rankOffers(offers, { itemId, groupId, quantity, listPrice, day: workDate, currency });
      return {
        listPrice,
        offers: ranked.map((offer) => ({
          agreementLineId: offer.line.id,
          agreement: { kind: 'AG' as const, id: offer.agreement.id, number: offer.agreement.number },
          basis: offer.agreement.basis,
          title: titles.get(offer.line.id)!,
          lastDay: offer.agreement.lastDay,
          priceKind: offer.line.priceKind,
          priceValue: offer.line.priceValue,
          breaks: [...offer.line.breaks],
          left: leftOn(offer).toFixed(),
          unitPrice: agreedPrice(offer.line, quantity, listPrice).toFixed(),
        })),
      };
    }),
  };
}

/** What is left under the limit on the whole of an agreement, with the tolerance; empty where it has none. // A5 */
async function wholeLeftOf(sql: Sql, companyId: number, id: number, tolerancePercent: string): Promise<string> {
  const whole = (await wholeLimitsOf(sql, companyId, [id])).get(id);
  if (!whole) return '';
  const left = leftOnWhole(whole, tolerancePercent);
  return left.gt(0) ? left.toFixed() : '0';
}
