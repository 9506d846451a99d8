import { choice, flag, ref, text, type ListRoom } from './fields';
import { customer, email, firstDay, group, item, lastDay, nameOf, number, phone } from './shared-fields';

/** The lists of customers. */
export const CUSTOMERS: ListRoom = {
  label: 'Customers',
  lists: [
    {
      name: 'customers',
      label: 'Customers',
      sub: 'what they may owe, which prices are theirs, and what their orders need',
      fields: [
        number,
        nameOf,
        {
          name: 'creditLimit',
          head: 'Credit limit',
          says: 'The credit limit',
          width: 100,
          is: { kind: 'number', of: 'price', above: 'below-zero' },
        },
        group,
        { name: 'delivered', head: 'Freight in prices', says: 'Whether freight is in prices', width: 116, is: flag },
        {
          name: 'priceOf',
          head: 'Price of',
          says: 'The day of the price',
          width: 110,
          is: choice(['order', 'the order date'], ['ship', 'the ship date']),
        },
        { name: 'referenceRequired', head: 'Reference', says: 'Whether a reference is needed', width: 84, is: flag },
        {
          name: 'contractedOnly',
          head: 'Only agreed',
          says: 'Whether only agreed items are sold',
          width: 92,
          is: flag,
        },
      ],
      keys: [['number']],
      within: null,
      grows: false,
    },
    {
      name: 'customer-addresses',
      label: 'Mail and phone',
      sub: 'where a customer gets their documents, and the number they are found by',
      fields: [number, nameOf, email, phone],
      keys: [['number']],
      within: null,
      grows: false,
    },
    {
      name: 'ship-tos',
      label: 'Freight zones',
      sub: 'which freight zone an address lies in; none for collected or free',
      fields: [
        { ...customer, fixed: true, is: text(120) },
        { name: 'label', head: 'Address', says: 'The address', fixed: true, is: text(60) },
        { name: 'town', head: 'Town', says: 'The town', fixed: true, is: text(60) },
        { name: 'zone', head: 'Zone', says: 'The zone', width: 160, is: text(20) },
      ],
      keys: [['customer', 'label']],
      within: null,
      grows: false,
    },
    {
      name: 'permits',
      label: 'Permits',
      sub: 'what a customer may be sold, and until when',
      fields: [
        { ...customer, needed: true },
        { name: 'permitType', head: 'Permit', says: 'The permit', width: 180, needed: true, is: ref('permit-type') },
        { name: 'number', head: 'Number', says: 'The number', width: 150, needed: true, is: text(40) },
        { ...firstDay, needed: true },
        { ...lastDay, needed: true },
      ],
      keys: [['customer', 'permitType', 'number']],
      within: 'customer',
      grows: true,
    },
    {
      name: 'permit-types',
      label: 'Kinds of permit',
      sub: 'what an item may ask of who buys it',
      fields: [{ name: 'name', head: 'Name', says: 'The name', needed: true, is: text(60) }],
      keys: [['name']],
      within: null,
      grows: true,
    },
    {
      name: 'their-numbers',
      label: 'Their item numbers',
      sub: 'what a customer calls an item; found in order lines like our own',
      fields: [
        { ...customer, needed: true },
        item,
        { name: 'number', head: 'Their number', says: 'Their number', width: 200, needed: true, is: text(40) },
      ],
      keys: [
        ['customer', 'item'],
        ['customer', 'number'],
      ],
      within: 'customer',
      grows: true,
    },
  ],
};
