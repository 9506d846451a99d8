import {
  wholeLimitText,
  type AgreementGround,
  type AgreementTerms,
  type PriceBreak,
  type PriceKind,
  type PriceTerm,
  type Rebate,
  type Reminder,
} from '@core/agreements';
import { orNotFound } from '../../acts';
import type { Sql, Columns } from '../../db';
import { listPriceIn } from '../../catalogue';
import { countingUnits } from '../releasing/whole';
import type { Agreement, AgreementReminder } from '../tables';
export type AgreementHead = Columns<
  Agreement,
  'id number version state side basis customerId vendorId currency firstDay lastDay limitPolicy tolerancePercent wholeLimit wholeUnit priority title signedOn salesOrganisationId probabilityPercent restPlan freeGoodsCount notes rebateKind rebateBy releaseAheadDays planShipToId planReference'
>;

const HEAD_COLUMNS = `id, number, version, state, side, basis, customer_id, vendor_id, currency, first_day, last_day,
  limit_policy, tolerance_percent, whole_limit, whole_unit, priority, title, signed_on, sales_organisation_id, probability_percent, rest_plan, free_goods_count, notes,
  rebate_kind, rebate_by, release_ahead_days, plan_ship_to_id, plan_reference`;

/** The agreement's head, locked for this act. */
export async function loadAgreement(sql: Sql, companyId: number, id: number): Promise<AgreementHead> {
  const [row] = await sql.rows<AgreementHead>(
    `SELECT ${HEAD_COLUMNS} FROM agreement WHERE company_id = ? AND id = ? ${sql.forUpdate}`,
    [companyId, id],
  );
  return orNotFound(row, 'This agreement');
}

/** The heads of agreements, by their ids; none of them locked. */
export async function headsOf(
  sql: Sql,
  companyId: number,
  ids: readonly number[],
): Promise<Map<number, AgreementHead>> {
  const rows = await sql.rows<AgreementHead>(
    `SELECT ${HEAD_COLUMNS} FROM agreement WHERE company_id = ? AND id IN (?)`,
    [companyId, ids],
  );
  return new Map(rows.map((row) => [row.id, row]));
}

/** The head's terms as they are typed, with its rebate tiers and reminders. */
export async function termsOf(
  sql: Sql,
  companyId: number,
  head: AgreementHead,
): Promise<Omit<AgreementTerms, 'lines'>> {
  return (await termsOfAll(sql, companyId, [head])).get(head.id)!;
}

/** The same of several agreements, in two reads however many. */
export async function termsOfAll(
  sql: Sql,
  companyId: number,
  heads: readonly AgreementHead[],
): Promise<Map<number, Omit<AgreementTerms, 'lines'>>> {
  const rebates = await rebatesOf(sql, companyId, heads);
  const reminders = await remindersOfAll(
    sql,
    companyId,
    heads.map(({ id }) => id),
  );
  return new Map(
    heads.map((head) => [
      head.id,
      {
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
        wholeLimit: wholeLimitText({ limit: head.wholeLimit, unit: head.wholeUnit }),
        probabilityPercent: head.probabilityPercent,
        restPlan: head.restPlan,
        freeGoodsCount: head.freeGoodsCount,
        priority: String(head.priority),
        notes: head.notes,
        rebate: rebates.get(head.id)!,
        reminders: (reminders.get(head.id) ?? []).map(({ kind, at }) => ({ kind, at })),
        releaseAhead: head.releaseAheadDays === null ? '' : String(head.releaseAheadDays),
      },
    ]),
  );
}

type RebateHead = Pick<AgreementHead, 'id' | 'rebateKind' | 'rebateBy'>;

/** The rebate of an agreement with its tiers in rising order. */
export async function rebateOf(sql: Sql, companyId: number, head: RebateHead): Promise<Rebate> {
  return (await rebatesOf(sql, companyId, [head])).get(head.id)!;
}

async function rebatesOf(sql: Sql, companyId: number, heads: readonly RebateHead[]): Promise<Map<number, Rebate>> {
  const rows = await sql.rows<{ agreementId: number; fromAmount: string; rate: string }>(
    `SELECT agreement_id, from_amount, rate FROM agreement_rebate_tier
      WHERE company_id = ? AND agreement_id IN (?) ORDER BY agreement_id, from_amount`,
    [companyId, heads.map(({ id }) => id)],
  );
  const tiers = new Map<number, { from: string; rate: string }[]>(heads.map(({ id }) => [id, []]));
  for (const { agreementId, fromAmount, rate } of rows) tiers.get(agreementId)!.push({ from: fromAmount, rate });
  return new Map(
    heads.map(({ id, rebateKind, rebateBy }) => [id, { kind: rebateKind, by: rebateBy, tiers: tiers.get(id)! }]),
  );
}

export interface KeptReminder extends Reminder {
  firedOn: string | null;
  handledOn: string | null;
}

/** The reminders of an agreement; those that fired say when, and when somebody saw to them. */
export async function remindersOf(sql: Sql, companyId: number, agreementId: number): Promise<KeptReminder[]> {
  return (await remindersOfAll(sql, companyId, [agreementId])).get(agreementId) ?? [];
}

/** The same of several agreements; none of those without. */
export async function remindersOfAll(
  sql: Sql,
  companyId: number,
  agreementIds: readonly number[],
): Promise<Map<number, KeptReminder[]>> {
  const rows = await sql.rows<Columns<AgreementReminder, 'agreementId kind atValue firedOn handledOn'>>(
    `SELECT agreement_id, kind, at_value, fired_on, handled_on FROM agreement_reminder
      WHERE company_id = ? AND agreement_id IN (?) ORDER BY agreement_id, kind, at_value`,
    [companyId, agreementIds],
  );
  const found = new Map<number, KeptReminder[]>();
  for (const { agreementId, kind, atValue, firedOn, handledOn } of rows) {
    const reminders = found.get(agreementId) ?? [];
    if (reminders.length === 0) found.set(agreementId, reminders);
    reminders.push({ kind, at: atValue, firedOn, handledOn });
  }
  return found;
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

/** Party, items and groups the terms name, as far as they exist in this company. */
export async function loadTermsGround(
  sql: Sql,
  companyId: number,
  terms: Pick<AgreementTerms, 'side' | 'customerId' | 'vendorId'> & {
    lines: readonly { itemId: number | null; groupId: number | null }[];
  },
): Promise<Omit<AgreementGround, 'current'>> {
  const selling = terms.side === 'selling';
  const [party] = await sql.rows<{
    id: number;
    name: string;
    currency: string;
    organisation: number | null;
    outOfUse: boolean;
  }>(
    selling
      ? 'SELECT id, name, currency, sales_organisation_id AS organisation, out_of_use FROM customer WHERE company_id = ? AND id = ?'
      : 'SELECT id, name, currency, NULL AS organisation, out_of_use FROM vendor WHERE company_id = ? AND id = ?',
    [companyId, (selling ? terms.customerId : terms.vendorId) ?? 0],
  );
  const named = (pick: (line: { itemId: number | null; groupId: number | null }) => number | null) =>
    terms.lines.flatMap((line) => pick(line) ?? []);
  const items = await sql.rows<{
    id: number;
    number: string;
    listPrice: string;
    vendorPrice: string | null;
  }>(
    `SELECT i.id, i.number, ${listPriceIn('?')} AS list_price, v.unit_price AS vendor_price FROM item i
       LEFT JOIN item_vendor v ON v.company_id = i.company_id AND v.item_id = i.id AND v.vendor_id = ?
      WHERE i.company_id = ? AND i.id IN (?)`,
    [party?.currency ?? '', party?.currency ?? '', terms.vendorId ?? 0, companyId, named((line) => line.itemId)],
  );
  const units = await countingUnits(
    sql,
    companyId,
    named((line) => line.itemId),
  );
  const groups = await sql.rows<{ id: number; code: string }>(
    'SELECT id, code FROM item_group WHERE company_id = ? AND id IN (?)',
    [companyId, named((line) => line.groupId)],
  );
  return {
    party: party
      ? {
          id: party.id,
          name: party.name,
          currency: party.currency,
          salesOrganisationId: party.organisation,
          outOfUse: party.outOfUse,
        }
      : null,
    items: new Map(
      items.map((item) => {
        const listPrice = selling ? item.listPrice : item.vendorPrice;
        return [item.id, { number: item.number, listPrice, units: units.get(item.id) ?? new Map() }];
      }),
    ),
    groups: new Map(groups.map((group) => [group.id, { code: group.code }])),
  };
}

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
