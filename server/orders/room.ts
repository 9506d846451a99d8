import * as orders from '@api/orders';
import * as desk from '@api/desk';
import { itemsNamed } from '../catalogue';
import { reads, type Room } from '../room';
import { orderActs } from './acts';
import { orderSupplies } from './cancelled-supply';
import { closeShort, openAgain } from './closing';
import { changeOrder } from './change';
import { customerTold } from './told';
import { checks } from './checks';
import { peopleOf, shareCommission } from './commission';
import { basketOf, customerDesk, shelf } from './desk';
import { orderFromPurchase } from './from-purchase';
import { listOrders, openOrder } from './reads';
import { releaseAgreement, releasePlanned } from './release';

/** What the orders room has. */
export const room: Room = {
  acts: [
    ...orderActs,
    releaseAgreement,
    releasePlanned,
    orderFromPurchase,
    shareCommission,
    customerTold,
    changeOrder,
    closeShort,
    openAgain,
  ],
  answers: [
    reads(orders.listOrders, (sql, companyId, { query, workDate }) => listOrders(sql, companyId, query, workDate)),
    reads(orders.openOrder, (sql, companyId, { params }) => openOrder(sql, companyId, params.id)),
    reads(orders.orderSupplies, (sql, companyId, { params }) => orderSupplies(sql, companyId, params.id)),
    reads(orders.salesPeople, async (sql, companyId) => ({ rows: await peopleOf(sql, companyId) })),
    reads(desk.customerDesk, (sql, companyId, { params }) => customerDesk(sql, companyId, params.id)),
    reads(desk.usualBasket, (sql, companyId, { params, query, workDate }) =>
      basketOf(sql, companyId, 'customer', params.id, query.days, workDate),
    ),
    reads(desk.vendorBasket, (sql, companyId, { params, query, workDate }) =>
      basketOf(sql, companyId, 'vendor', params.id, query.days, workDate),
    ),
    reads(desk.shelf, (sql, companyId, { query }) => shelf(sql, companyId, query)),
    reads(desk.matchItems, (sql, companyId, { query }) =>
      itemsNamed(sql, companyId, query.numbers.split('\n'), query.customerId ?? 0),
    ),
  ],
  checks,
  findable: [
    {
      kind: 'SO',
      from: 'sales_order d JOIN customer p ON p.company_id = d.company_id AND p.id = d.customer_id',
      name: 'p.name',
      also: 'd.customer_reference',
    },
  ],
};
