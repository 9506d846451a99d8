import * as stock from '@api/stock';
import { reads, type Room } from '../room';
import { stockActs } from './acts';
import { listCarriages } from './carriages';
import { checks } from './checks';
import { listCounts, openCount } from './count-reads';
import { listStock } from './list';
import { alsoWaiting, openReceipt, openShipment } from './reads';

/** What the stock room has. */
export const room: Room = {
  acts: [...stockActs],
  answers: [
    reads(stock.alsoWaiting, (sql, companyId, { params }) => alsoWaiting(sql, companyId, params.id)),
    reads(stock.listStock, (sql, companyId, { query }) => listStock(sql, companyId, query)),
    reads(stock.listCarriages, (sql, companyId, { query }) => listCarriages(sql, companyId, query)),
    reads(stock.listCounts, (sql, companyId, { query }) => listCounts(sql, companyId, query)),
    reads(stock.openCount, (sql, companyId, { params }) => openCount(sql, companyId, params.id)),
    reads(stock.openReceipt, (sql, companyId, { params }) => openReceipt(sql, companyId, params.id)),
    reads(stock.openShipment, (sql, companyId, { params }) => openShipment(sql, companyId, params.id)),
  ],
  checks,
  findable: [
    {
      kind: 'RC',
      from: 'receipt d JOIN vendor p ON p.company_id = d.company_id AND p.id = d.vendor_id',
      name: 'p.name',
    },
    {
      kind: 'CT',
      from: 'count_sheet d JOIN location p ON p.company_id = d.company_id AND p.id = d.location_id',
      name: 'p.name',
    },
    {
      kind: 'SH',
      from: 'shipment d JOIN customer p ON p.company_id = d.company_id AND p.id = d.customer_id',
      name: 'p.name',
    },
  ],
};
