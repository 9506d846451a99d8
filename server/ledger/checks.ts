import { numbered, type Check } from '../room';
import { byParty, entryCurrencies, foreignPostings, postings } from './postings';

/** What must be true of what the ledger room keeps. // G5 */
export const checks: readonly Check[] = [
  // One that is its own source may have no entries: of goods that are worth nothing.
  {
    what: 'journal does not balance',
    sql: `SELECT j.number AS subject, 0 AS kept, COALESCE(SUM(e.amount), 0) AS counted FROM journal j
            LEFT JOIN journal_entry e ON e.company_id = j.company_id AND e.journal_id = j.id
           GROUP BY j.company_id, j.id HAVING counted <> 0 OR COUNT(e.id) < 2 AND COALESCE((SELECT MAX(ABS(s.cost)) FROM stock_entry s
                  WHERE s.company_id = j.company_id AND s.document_kind = 'JR' AND s.document_id = j.id), 1) <> 0`,
  },
  {
    what: 'posted into a closed month',
    sql: `SELECT j.number AS subject, j.posted_on AS kept, p.closed_through AS counted FROM journal j
            JOIN period p ON p.company_id = j.company_id
           WHERE j.posted_on <= p.closed_through AND j.created_at > p.closed_at`,
  },
  postings,
  foreignPostings,
  entryCurrencies,
  byParty('customer'),
  byParty('vendor'),
  // No gaps.
  numbered('JR', 'journal'),
];
