import { dec, sum } from '@core/kernel';
import type {
  AgreementEffects,
  AgreementState,
  LimitPolicy,
  PriceBreak,
  PriceKind,
  PriceTerm,
  ReleaseGround,
} from '@core/agreements';
import type { Route } from '@core/catalogue';
import type { Doer } from '../acts';
import { there } from '../acts';
import type { Sql, Statement, Tx } from '../db/database';
import { plain, shipTosOf } from '../db/mapping';

export interface AgreementHead {
  id: number;
  number: string;
  version: number;
  state: AgreementState;
  customer_id: number;
  currency: string;
  first_day: string;
  last_day: string;
  limit_policy: LimitPolicy;
  tolerance_percent: string;
}

/** The agreement's head, locked for this act. */
export async function lockAgreement(sql: Sql, companyId: number, id: number): Promise<AgreementHead> {
  const [row] = await sql.rows<AgreementHead>(
    `SELECT id, number, version, state, customer_id, currency, first_day, last_day, limit_policy, tolerance_percent
       FROM agreement WHERE company_id = ? AND id = ? FOR UPDATE`,
    [companyId, id],
  );
  return there(row, 'This agreement');
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

/** The price breaks of an agreement's lines, in rising order. */
export async function breaksOf(sql: Sql, companyId: number, agreementId: number): Promise<Map<number, PriceBreak[]>> {
  const rows = await sql.rows<{
    line_id: number;
    from_quantity: string;
    unit_price: string | null;
    discount_percent: string | null;
  }>(
    `SELECT b.agreement_line_id AS line_id, b.from_quantity, b.unit_price, b.discount_percent
       FROM agreement_line l
       JOIN agreement_break b ON b.company_id = l.company_id AND b.agreement_line_id = l.id
      WHERE l.company_id = ? AND l.agreement_id = ? ORDER BY l.id, b.from_quantity`,
    [companyId, agreementId],
  );
  const byLine = new Map<number, PriceBreak[]>();
  for (const row of rows) {
    const breaks = byLine.get(row.line_id) ?? [];
    breaks.push({ from: plain(row.from_quantity), value: plainOr(row.unit_price ?? row.discount_percent) });
    byLine.set(row.line_id, breaks);
  }
  return byLine;
}

/** All that a release is decided on, the agreement and its lines locked. */
export async function loadRelease(sql: Sql, companyId: number, agreementId: number): Promise<ReleaseGround> {
  const head = await lockAgreement(sql, companyId, agreementId);
  const lines = await sql.rows<
    PriceColumns & {
      id: number;
      line_no: number;
      committed: string;
      released: string;
      least_release: string;
      release_multiple: string;
      item_id: number;
      number: string;
      unit: string;
      route: Route;
      list_price: string;
      tax_code_id: number;
      rate: string;
    }
  >(
    // The head's lock guards its lines: nobody counts on them without it.
    `SELECT l.id, l.line_no, l.committed, l.released, ${PRICE_COLUMNS}, l.least_release, l.release_multiple, l.item_id,
            i.number, i.unit, i.route, i.list_price, i.tax_code_id, t.rate
       FROM agreement_line l
       JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id
       JOIN tax_code t ON t.company_id = i.company_id AND t.id = i.tax_code_id
      WHERE l.company_id = ? AND l.agreement_id = ? ORDER BY l.line_no`,
    [companyId, agreementId],
  );
  const breaks = await breaksOf(sql, companyId, agreementId);
  const [customer] = await sql.rows<{ id: number; name: string; reference_required: number }>(
    'SELECT id, name, reference_required FROM customer WHERE company_id = ? AND id = ?',
    [companyId, head.customer_id],
  );
  const shipTos = await shipTosOf(sql, companyId, head.customer_id);
  return {
    agreement: {
      id: head.id,
      number: head.number,
      state: head.state,
      firstDay: head.first_day,
      lastDay: head.last_day,
      limitPolicy: head.limit_policy,
      tolerancePercent: head.tolerance_percent,
      currency: head.currency,
    },
    customer: {
      id: customer!.id,
      name: customer!.name,
      referenceRequired: Boolean(customer!.reference_required),
    },
    shipToIds: shipTos.map((each) => each.id),
    lines: lines.map((line) => ({
      id: line.id,
      lineNo: line.line_no,
      committed: plain(line.committed),
      released: plain(line.released),
      ...priceTermOf(line, breaks.get(line.id) ?? []),
      leastRelease: plain(line.least_release),
      releaseMultiple: plain(line.release_multiple),
      item: {
        id: line.item_id,
        number: line.number,
        unit: line.unit,
        route: line.route,
        listPrice: plain(line.list_price),
        taxCodeId: line.tax_code_id,
        taxRate: plain(line.rate),
      },
    })),
  };
}

/** Customer and items the terms name, as far as they exist in this company. */
export async function loadTermsGround(
  sql: Sql,
  companyId: number,
  customerId: number | null,
  itemIds: readonly number[],
) {
  const [customer] = await sql.rows<{ id: number; currency: string }>(
    'SELECT id, currency FROM customer WHERE company_id = ? AND id = ?',
    [companyId, customerId ?? 0],
  );
  const items =
    itemIds.length === 0
      ? []
      : await sql.rows<{ id: number; number: string; list_price: string }>(
          'SELECT id, number, list_price FROM item WHERE company_id = ? AND id IN (?)',
          [companyId, itemIds],
        );
  return {
    customer: customer ?? null,
    items: new Map(items.map((item) => [item.id, { number: item.number, listPrice: plain(item.list_price) }])),
  };
}

/** Writes the head and lines of a new (`current` null) or draft agreement; its id. */
export async function writeTerms(
  tx: Tx,
  effects: AgreementEffects,
  current: { id: number } | null,
  number: string,
  doer: Doer,
): Promise<number> {
  const committedValue = sum(effects.lines.map((line) => dec(line.value)));
  const head = {
    customer_id: effects.customerId,
    title: effects.title.trim(),
    probability_percent: effects.probabilityPercent,
    priority: effects.priority,
    notes: effects.notes,
    currency: effects.currency,
    first_day: effects.firstDay,
    last_day: effects.lastDay,
    signed_on: effects.signedOn,
    limit_policy: effects.limitPolicy,
    tolerance_percent: effects.tolerancePercent,
    committed_value: committedValue.toFixed(),
  };
  let id: number;
  if (current) {
    id = current.id;
    const columns = Object.keys(head);
    await tx.run(
      `UPDATE agreement SET ${columns.map((column) => `${column} = ?`).join(', ')}, version = version + 1
        WHERE company_id = ? AND id = ?`,
      [...Object.values(head), doer.companyId, id],
    );
    // Only a draft gets here: nothing points at its lines yet.
    await tx.run('DELETE FROM agreement_line WHERE company_id = ? AND agreement_id = ?', [doer.companyId, id]);
  } else {
    [id] = (await tx.insert('agreement', [{ company_id: doer.companyId, number, ...head }])) as [number];
  }
  const lineIds = await tx.insert(
    'agreement_line',
    effects.lines.map((line, index) => ({
      company_id: doer.companyId,
      agreement_id: id,
      line_no: index + 1,
      item_id: line.itemId,
      committed: line.committed,
      committed_value: line.value,
      price_kind: line.priceKind,
      unit_price: line.priceKind === 'fixed' ? line.priceValue : null,
      discount_percent: line.priceKind === 'discount' ? line.priceValue : null,
      least_release: line.leastRelease,
      release_multiple: line.releaseMultiple,
      notes: line.notes.trim(),
    })),
  );
  await tx.insertPlain(
    'agreement_break',
    effects.lines.flatMap((line, index) =>
      line.breaks.map((each) => ({
        company_id: doer.companyId,
        agreement_line_id: lineIds[index]!,
        from_quantity: each.from,
        unit_price: line.priceKind === 'fixed' ? each.value : null,
        discount_percent: line.priceKind === 'discount' ? each.value : null,
      })),
    ),
  );
  return id;
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
  return changes.map((change) => ({
    sql: `UPDATE agreement_line l JOIN agreement a ON a.company_id = l.company_id AND a.id = l.agreement_id
          SET l.${counter} = l.${counter} + ?, l.${counter}_value = l.${counter}_value + ?,
              a.${counter}_value = a.${counter}_value + ?
        WHERE l.company_id = ? AND l.id = ?`,
    values: [change.quantity, change.value, change.value, companyId, change.agreementLineId],
  }));
}

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
