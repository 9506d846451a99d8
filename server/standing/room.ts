import * as contract from '@api/standing';
import { reads, type Room } from '../room';
import { standingCover } from './cover';
import { makeStanding, skipStanding } from './make';
import { listStanding, openStanding } from './reads';
import { pasteStanding, saveStanding, setStanding } from './save';

/** What the room of standing orders has. */
export const room: Room = {
  acts: [saveStanding, setStanding, pasteStanding, makeStanding, skipStanding],
  answers: [
    reads(contract.openStanding, (sql, companyId, { params, workDate }) =>
      openStanding(sql, companyId, workDate, params.id),
    ),
    reads(contract.standingCover, (sql, companyId, { workDate }) => standingCover(sql, companyId, workDate)),
    reads(contract.listStanding, (sql, companyId, { query }) => listStanding(sql, companyId, query)),
  ],
  checks: [
    {
      what: 'order of a date of a standing order',
      sql: `SELECT CONCAT(s.number, ' ', d.day) AS subject, o.customer_id AS kept, s.customer_id AS counted
              FROM standing_date d
              JOIN standing_order s ON s.company_id = d.company_id AND s.id = d.standing_order_id
              JOIN sales_order o ON o.company_id = d.company_id AND o.id = d.order_id
             WHERE o.customer_id <> s.customer_id`,
    },
    {
      what: 'standing order that says nothing',
      sql: `SELECT s.number AS subject, 0 AS kept, 1 AS counted FROM standing_order s
             WHERE NOT EXISTS (SELECT 1 FROM standing_term t JOIN standing_line l ON l.company_id = t.company_id AND l.term_id = t.id
               WHERE t.company_id = s.company_id AND t.standing_order_id = s.id)`,
    },
  ],
  findable: [
    {
      kind: 'ST',
      from: 'standing_order d JOIN customer p ON p.company_id = d.company_id AND p.id = d.customer_id',
      name: 'p.name',
      also: 'd.customer_reference',
    },
  ],
};
