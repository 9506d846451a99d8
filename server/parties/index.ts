export { findCustomers, findVendors, openCustomer, openVendor } from './reads';
