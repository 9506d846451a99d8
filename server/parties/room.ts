import * as parties from '@api/parties';
import { reads, type Room } from '../room';
import { findCustomers, findVendors, openCustomer, openVendor, peopleOf } from './reads';

/** What the parties room has. */
export const room: Room = {
  answers: [
    reads(parties.findCustomers, (sql, companyId, { query }) => findCustomers(sql, companyId, query.q)),
    reads(parties.findVendors, (sql, companyId, { query }) => findVendors(sql, companyId, query.q)),
    reads(parties.openCustomer, (sql, companyId, { params }) => openCustomer(sql, companyId, params.id)),
    reads(parties.openVendor, (sql, companyId, { params }) => openVendor(sql, companyId, params.id)),
  ],
  findable: [
    { kind: 'customer', from: 'customer d', name: 'd.name', also: `CONCAT(d.phone, ' ', ${peopleOf('customer')})` },
    { kind: 'vendor', from: 'vendor d', name: 'd.name', also: `CONCAT(d.phone, ' ', ${peopleOf('vendor')})` },
  ],
};
