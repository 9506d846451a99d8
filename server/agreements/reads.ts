import type * as z from 'zod';
import { agreedPrice, type AgreementState, type LimitPolicy } from '@core/agreements';
import { dec } from '@core/kernel';
import type * as contract from '@api/agreements';
import { there } from '../acts';
import type { Bound, Sql } from '../db/database';
import { likeOf, pageById, plain, shipTosOf } from '../db/mapping';
import { documentsOfOrders } from '../documents';
import { callsOf } from './plan';
import { breaksOf, PRICE_COLUMNS, priceTermOf, type PriceColumns } from './store';

type Row = z.infer<typeof contract.AgreementRow>;
type Sheet = z.infer<typeof contract.AgreementSheet>;

interface HeadRow {
  id: number;
  number: string;
  state: AgreementState;
  title: string;
  customer_id: number;
  customer_number: string;
  customer_name: string;
  currency: string;
  first_day: string;
  last_day: string;
  committed_value: string;
  released_value: string;
  shipped_value: string;
  invoiced_value: string;
}

const HEAD = `SELECT a.id, a.number, a.state, a.title, a.customer_id, c.number AS customer_number, c.name AS customer_name,
    a.currency, a.first_day, a.last_day, a.committed_value, a.released_value, a.shipped_value, a.invoiced_value`;
const FROM = 'FROM agreement a JOIN customer c ON c.company_id = a.company_id AND c.id = a.customer_id';

/** Agreements newest first; `q` looks in number, title, and the customer's number and name. */
export function listAgreements(
  sql: Sql,
  companyId: number,
  query: { q?: string; cursor?: string; state?: AgreementState },
) {
  const where = ['a.company_id = ?', 'a.id < ?'];
  const values: Bound[] = [];
  if (query.state) {
    where.push('a.state = ?');
    values.push(query.state);
  }
  if (query.q?.trim()) {
    where.push('(a.number LIKE ? OR a.title LIKE ? OR c.name LIKE ? OR c.number LIKE ?)');
    values.push(...Array<string>(4).fill(likeOf(query.q)));
  }
  return pageById<HeadRow, Row>(
    (before, most) =>
      sql.rows(`${HEAD} ${FROM} WHERE ${where.join(' AND ')} ORDER BY a.id DESC LIMIT ?`, [
        companyId,
        before,
        ...values,
        most,
      ]),
    query.cursor,
    rowOf,
  );
}

function rowOf(row: HeadRow): Row {
  return {
    id: row.id,
    number: row.number,
    state: row.state,
    title: row.title,
    customer: { id: row.customer_id, number: row.customer_number, name: row.customer_name },
    currency: row.currency,
    firstDay: row.first_day,
    lastDay: row.last_day,
    values: {
      committed: plain(row.committed_value),
      released: plain(row.released_value),
      shipped: plain(row.shipped_value),
      invoiced: plain(row.invoiced_value),
    },
  };
}

/** One agreement with its lines, counters and every document that came from it. */
export async function openAgreement(sql: Sql, companyId: number, id: number): Promise<Sheet> {
  const [head] = await sql.rows<
    HeadRow & {
      version: number;
      signed_on: string | null;
      limit_policy: LimitPolicy;
      tolerance_percent: string;
      probability_percent: string;
      priority: number;
      notes: string;
      ended_on: string | null;
      renewed_as: number | null;
      renewed_number: string | null;
      reference_required: number;
    }
  >(
    `${HEAD}, a.version, a.signed_on, a.limit_policy, a.tolerance_percent, a.probability_percent, a.priority, a.notes, a.ended_on, a.renewed_as,
       (SELECT n.number FROM agreement n WHERE n.company_id = a.company_id AND n.id = a.renewed_as) AS renewed_number,
       c.reference_required
     ${FROM} WHERE a.company_id = ? AND a.id = ?`,
    [companyId, id],
  );
  const found = there(head, 'This agreement');
  const [lines, shipTos, documents] = await Promise.all([
    linesOf(sql, companyId, id),
    shipTosOf(sql, companyId, found.customer_id),
    documentsOfOrders(sql, companyId, 'o.agreement_id = ?', id),
  ]);
  return {
    ...rowOf(found),
    version: found.version,
    signedOn: found.signed_on,
    limitPolicy: found.limit_policy,
    tolerancePercent: plain(found.tolerance_percent),
    probabilityPercent: plain(found.probability_percent),
    priority: found.priority,
    notes: found.notes,
    endedOn: found.ended_on,
    renewedAs: found.renewed_as === null ? null : { kind: 'AG', id: found.renewed_as, number: found.renewed_number! },
    referenceRequired: Boolean(found.reference_required),
    shipTos,
    lines,
    documents,
  };
}

async function linesOf(sql: Sql, companyId: number, id: number): Promise<Sheet['lines']> {
  const [rows, breaks, calls] = await Promise.all([
    sql.rows<
      PriceColumns & {
        id: number;
        line_no: number;
        item_id: number;
        number: string;
        name: string;
        unit: string;
        list_price: string;
        least_release: string;
        release_multiple: string;
        notes: string;
        committed: string;
        committed_value: string;
        released: string;
        shipped: string;
        invoiced: string;
        released_value: string;
      }
    >(
      `SELECT l.id, l.line_no, l.item_id, i.number, i.name, i.unit, i.list_price, ${PRICE_COLUMNS},
              l.least_release, l.release_multiple, l.notes, l.committed, l.committed_value,
              l.released, l.shipped, l.invoiced, l.released_value
         FROM agreement_line l JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id
        WHERE l.company_id = ? AND l.agreement_id = ? ORDER BY l.line_no`,
      [companyId, id],
    ),
    breaksOf(sql, companyId, id),
    callsOf(sql, companyId, id),
  ]);
  return rows.map((row) => {
    const term = priceTermOf(row, breaks.get(row.id) ?? []);
    return {
      id: row.id,
      lineNo: row.line_no,
      item: { id: row.item_id, number: row.number, name: row.name, unit: row.unit },
      listPrice: plain(row.list_price),
      priceKind: term.priceKind,
      priceValue: term.priceValue,
      breaks: [...term.breaks],
      unitPrice: agreedPrice({ ...term, breaks: [] }, dec(row.committed), plain(row.list_price)).toFixed(),
      leastRelease: plain(row.least_release),
      releaseMultiple: plain(row.release_multiple),
      notes: row.notes,
      committed: plain(row.committed),
      committedValue: plain(row.committed_value),
      released: plain(row.released),
      shipped: plain(row.shipped),
      invoiced: plain(row.invoiced),
      releasedValue: plain(row.released_value),
      calls: calls.get(row.id) ?? [],
    };
  });
}
