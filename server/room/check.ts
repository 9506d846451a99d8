import { OTHER_PLACES } from '@core/kernel';

/** One thing that must be true of all that is kept. // G5 */
export interface Check {
  what: string;
  /** Rows that differ, each with `subject`, `kept` and `counted`. */
  sql: string;
  /** `counted` is the most that may be kept. */
  most?: true;
}

/** A kept counter against the sum of the documents that make it. */
export function counter(what: string, table: string, name: string, kept: string, counted: string): Check {
  return {
    what,
    sql: `SELECT * FROM (SELECT ${name} AS subject, ${kept} AS kept, COALESCE((${counted}), 0) AS counted FROM ${table} x) d WHERE kept <> counted`,
  };
}

/**
 * What is kept against the most the documents allow: counters that agree with a sum may still be paid twice.
 * What one row tells by itself the database refuses (its constraints); this is for sums over several.
 */
export function bound(what: string, table: string, name: string, kept: string, most: string): Check {
  return {
    what,
    sql: `SELECT * FROM (SELECT ${name} AS subject, (${kept}) AS kept, (${most}) AS counted FROM ${table} x) d WHERE kept > counted`,
    most: true,
  };
}

/** The sum of queries that each give one number or none. */
export const total = (...queries: string[]) =>
  `SELECT ${queries.map((query) => `COALESCE((${query}), 0)`).join(' + ')}`;

/** Places of a currency's amounts, as ISO 4217 says. // P7 */
export const places = (currency: string) =>
  `CASE ${currency} ${[...OTHER_PLACES].map(([code, count]) => `WHEN '${code}' THEN ${count}`).join(' ')} ELSE 2 END`;

/** An account of the ledger against what it stands for. */
export function account(what: string, role: string, counted: string): Check {
  return {
    what,
    sql: `SELECT * FROM (SELECT CONCAT('account ', x.code) AS subject,
      COALESCE((SELECT SUM(e.amount) FROM journal_entry e WHERE e.company_id = x.company_id AND e.account_id = x.id), 0) AS kept,
      COALESCE((${counted}), 0) AS counted
    FROM account x WHERE x.posting_role = '${role}') d WHERE kept <> counted`,
  };
}

/** Numbers without gaps: as many documents as numbers were taken; `which` of them have one of the series. */
export function numbered(kind: string, table: string, which = 'TRUE'): Check {
  return {
    what: `numbers ${kind} taken`,
    sql: `SELECT * FROM (SELECT CONCAT('company ', x.company_id) AS subject, x.next_serial - x.first_serial AS kept,
            (SELECT COUNT(*) FROM ${table} t WHERE t.company_id = x.company_id AND ${which}) AS counted
            FROM number_series x WHERE x.kind = '${kind}') d WHERE kept <> counted`,
  };
}
