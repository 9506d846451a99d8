export { ADDRESS_COLUMNS, addressOf, shipTosOf, type AddressColumns } from './addresses';
export { findCustomers, findVendors, openCustomer, openVendor } from './reads';
