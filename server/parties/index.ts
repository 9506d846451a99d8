export { ADDRESS_COLUMNS, addressOf, shipTosOf, type AddressColumns } from './addresses';
