export { findCustomers, openCustomer, openVendor } from './reads';
