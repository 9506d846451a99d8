export { ADDRESS_COLUMNS, addressLine, addressOf, shipTosOf, type AddressColumns } from './addresses';
