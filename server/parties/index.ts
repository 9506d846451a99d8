export { ADDRESS_COLUMNS, addressLine, addressOf, shipTosOf, type AddressColumns } from './addresses';
export { partyNumbered } from './numbered';
export { partyOf, type PartyColumns } from './named';
