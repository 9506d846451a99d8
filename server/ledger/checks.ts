import { numbered, type Check } from '../room';

/** What must be true of what the ledger room keeps. // G5 */
export const checks: readonly Check[] = [
  {
    what: 'journal does not balance',
    sql: `SELECT j.number AS subject, 0 AS kept, COALESCE(SUM(e.amount), 0) AS counted FROM journal j
            LEFT JOIN journal_entry e ON e.company_id = j.company_id AND e.journal_id = j.id
           GROUP BY j.company_id, j.id HAVING counted <> 0 OR COUNT(e.id) < 2`,
  },
  // No gaps.
  numbered('JR', 'journal'),
];
