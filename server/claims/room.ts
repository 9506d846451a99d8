import * as contract from '@api/claims';
import { account, counter, reads, total, type Room } from '../room';
import { countSupport } from './accrue';
import { loseClaim, makeClaim, receiveClaim, settleClaim, withdrawClaim } from './claims';
import { claimable, listClaims, listSupport, openClaim, openSupport } from './reads';
import { saveSupport, setSupport } from './support';

/** What the room of claims on vendors has. */
export const room: Room = {
  acts: [saveSupport, setSupport, countSupport, makeClaim, settleClaim, receiveClaim, loseClaim, withdrawClaim],
  answers: [
    reads(contract.openSupport, (sql, companyId, { params }) => openSupport(sql, companyId, params.id)),
    reads(contract.listSupport, (sql, companyId, { query, workDate }) => listSupport(sql, companyId, query, workDate)),
    reads(contract.openClaim, (sql, companyId, { params }) => openClaim(sql, companyId, params.id)),
    reads(contract.listClaims, (sql, companyId, { query }) => listClaims(sql, companyId, query)),
    reads(contract.claimable, (sql, companyId) => claimable(sql, companyId)),
  ],
  checks: [
    counter(
      'claim',
      '(SELECT * FROM claim WHERE NOT withdrawn)',
      'x.number',
      'x.amount',
      total('SELECT SUM(a.amount) FROM support_accrual a WHERE a.company_id = x.company_id AND a.claim_id = x.id'),
    ),
    counter(
      'claim settled',
      'claim',
      'x.number',
      'x.settled',
      total('SELECT SUM(m.amount) FROM claim_move m WHERE m.company_id = x.company_id AND m.claim_id = x.id'),
    ),
    {
      what: 'support accrued of a line',
      sql: `SELECT CONCAT(s.number, ' for invoice line ', a.invoice_line_id) AS subject, SUM(a.amount) AS kept,
                   ROUND(MIN(a.per_unit) * (il.quantity - COALESCE((SELECT SUM(n.quantity + n.uninvoiced) FROM credit_note_line n
                     WHERE n.company_id = il.company_id AND n.invoice_line_id = il.id), 0)), 2) AS counted
              FROM support_accrual a
              JOIN support_line l ON l.company_id = a.company_id AND l.id = a.support_line_id
              JOIN support s ON s.company_id = l.company_id AND s.id = l.support_id
              JOIN customer_invoice_line il ON il.company_id = a.company_id AND il.id = a.invoice_line_id
             WHERE NOT EXISTS (SELECT 1 FROM support_due d WHERE d.company_id = il.company_id AND d.invoice_id = il.invoice_id)
             GROUP BY a.company_id, a.support_line_id, a.invoice_line_id HAVING kept <> counted`,
    },
    account(
      'claims on vendors',
      'claims-owed',
      total(
        'SELECT SUM(a.amount) FROM support_accrual a WHERE a.company_id = x.company_id',
        'SELECT -SUM(c.settled) FROM claim c WHERE c.company_id = x.company_id',
      ),
    ),
  ],
  findable: [
    {
      kind: 'VS',
      from: 'support d JOIN vendor p ON p.company_id = d.company_id AND p.id = d.vendor_id',
      name: 'p.name',
      also: 'd.name',
    },
    {
      kind: 'CL',
      from: 'claim d JOIN vendor p ON p.company_id = d.company_id AND p.id = d.vendor_id',
      name: 'p.name',
    },
  ],
};
