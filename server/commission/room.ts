import * as contract from '@api/commission';
import { account, answers, counter, total, type Room } from '../room';
import { countCommission, makeStatement, payStatement, takeBackStatement } from './acts';
import { LEFT_MARGIN, LEFT_NET, PAID, RECKONED_OF } from './lines';
import { commissionOf, openStatement } from './reads';

/** What the room of commission has. */
export const room: Room = {
  acts: [countCommission, makeStatement, payStatement, takeBackStatement],
  answers: [
    answers(contract.commissionOf, ({ parts, who, query }) =>
      parts.database.snapshot((sql) => commissionOf(sql, who!, query.person)),
    ),
    answers(contract.openStatement, ({ parts, who, params }) =>
      parts.database.snapshot((sql) => openStatement(sql, who!, params.id)),
    ),
  ],
  checks: [
    counter(
      'commission statement',
      "(SELECT * FROM commission_statement WHERE state <> 'withdrawn')",
      'x.number',
      'x.amount',
      total(
        'SELECT SUM(e.amount) FROM commission_earning e WHERE e.company_id = x.company_id AND e.statement_id = x.id',
      ),
    ),
    {
      // Where one person has all of it, what they earned is what the line comes to by its terms.
      what: 'commission earned of a line',
      sql: `SELECT CONCAT(i.number, ' line ', il.id) AS subject, SUM(e.amount) AS kept,
                   ROUND(IF(e.base = 'net', ${LEFT_NET}, ${LEFT_MARGIN}) * e.per_cent / 100 * IF(e.earned_at = 'payment', ROUND(${PAID}, 8), 1), 2) AS counted
              FROM commission_earning e
              JOIN customer_invoice_line il ON il.company_id = e.company_id AND il.id = e.invoice_line_id
              JOIN customer_invoice i ON i.company_id = il.company_id AND i.id = il.invoice_id
              ${RECKONED_OF}
              JOIN order_commission s ON s.company_id = ol.company_id AND s.order_id = ol.order_id AND s.person_id = e.person_id AND s.per_cent = 100
             WHERE NOT EXISTS (SELECT 1 FROM commission_due d WHERE d.company_id = i.company_id AND d.invoice_id = i.id)
             GROUP BY e.company_id, il.id, e.person_id HAVING kept <> counted`,
    },
    account(
      'commission owed',
      'commission-owed',
      total("SELECT -SUM(s.amount) FROM commission_statement s WHERE s.company_id = x.company_id AND s.state = 'made'"),
    ),
  ],
};
