import * as contract from '@api/promotions';
import { reads, total, counter, type Room } from '../room';
import { savePromotion, setPromotion } from './acts';
import { listPromotions, openPromotion, promotionChoices } from './reads';

/** What the room of promotions has. */
export const room: Room = {
  acts: [savePromotion, setPromotion],
  answers: [
    reads(contract.openPromotion, (sql, companyId, { params }) => openPromotion(sql, companyId, params.id)),
    reads(contract.listPromotions, (sql, companyId, { query, workDate }) =>
      listPromotions(sql, companyId, query, workDate),
    ),
    reads(contract.promotionChoices, (sql, companyId) => promotionChoices(sql, companyId)),
  ],
  checks: [
    counter(
      'promotion used',
      'promotion',
      'x.number',
      'x.used',
      total(
        `SELECT SUM(ROUND(l.promotion_unit * (l.quantity - l.cancelled), 2)) FROM sales_order_line l
           JOIN promotion_line p ON p.company_id = l.company_id AND p.id = l.promotion_line_id
          WHERE p.company_id = x.company_id AND p.promotion_id = x.id`,
      ),
    ),
    {
      what: 'promotion given beyond its budget',
      sql: 'SELECT number AS subject, used AS kept, budget AS counted FROM promotion WHERE used > budget',
    },
    {
      what: 'promotion given to somebody it is not for, or beyond its days',
      sql: `SELECT CONCAT(o.number, ' line ', l.line_no) AS subject, p.number AS kept, '' AS counted
              FROM sales_order_line l
              JOIN promotion_line pl ON pl.company_id = l.company_id AND pl.id = l.promotion_line_id
              JOIN promotion p ON p.company_id = pl.company_id AND p.id = pl.promotion_id
              JOIN sales_order o ON o.company_id = l.company_id AND o.id = l.order_id
             WHERE p.customer_id <> o.customer_id OR pl.kind = 'free' AND l.amount <> 0`,
    },
  ],
  findable: [{ kind: 'PM', from: 'promotion d', name: 'd.name' }],
};
