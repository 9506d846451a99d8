import * as purchasing from '@api/purchasing';
import { reads, type Room } from '../room';
import { checks } from './checks';
import { listPurchases, openPurchase } from './reads';

/** What the purchasing room has. */
export const room: Room = {
  answers: [
    reads(purchasing.listPurchases, (sql, companyId, { query, workDate }) =>
      listPurchases(sql, companyId, query, workDate),
    ),
    reads(purchasing.openPurchase, (sql, companyId, { params }) => openPurchase(sql, companyId, params.id)),
  ],
  checks,
  findable: [
    {
      kind: 'PO',
      from: 'purchase_order d JOIN vendor p ON p.company_id = d.company_id AND p.id = d.vendor_id',
      name: 'p.name',
      also: 'd.opened_as',
    },
  ],
};
