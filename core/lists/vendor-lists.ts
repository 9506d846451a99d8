import { counted, flag, ref, text, type ListRoom } from './fields';
import { contactFields, email, firstDay, item, lastDay, nameOf, number, phone } from './shared-fields';

/** The lists of vendors. */
export const VENDORS: ListRoom = {
  label: 'Vendors',
  lists: [
    {
      name: 'vendors',
      label: 'Vendors',
      sub: 'how far they may miss a quantity, and how to reach them',
      fields: [
        number,
        nameOf,
        { name: 'tolerance', head: 'May miss by, %', says: 'The tolerance', width: 110, is: counted('percent') },
        email,
        phone,
      ],
      keys: [['number']],
      within: null,
      grows: false,
    },
    {
      name: 'vendor-contacts',
      label: 'People',
      sub: 'who is rung about what was ordered; a vendor is found by them too',
      fields: [
        { name: 'vendor', head: 'Vendor', says: 'The vendor', needed: true, is: ref('vendor') },
        ...contactFields,
      ],
      keys: [['vendor', 'name']],
      within: 'vendor',
      grows: true,
    },
    {
      name: 'vendor-items',
      label: 'What they sell',
      sub: 'their price in their currency, lead time, least quantity and steps; the preferred one is proposed first',
      fields: [
        item,
        { name: 'vendor', head: 'Vendor', says: 'The vendor', needed: true, is: ref('vendor') },
        { name: 'price', head: 'Price', says: 'The price', width: 92, needed: true, is: counted('price') },
        { name: 'currency', head: 'In', says: 'The currency', width: 56, fixed: true, is: text(3) },
        {
          name: 'leadDays',
          head: 'Lead days',
          says: 'The lead time',
          width: 84,
          needed: true,
          is: counted('quantity', { whole: true, below: '1000' }),
        },
        { name: 'minimum', head: 'Least', says: 'The least quantity', width: 90, is: counted('quantity') },
        { name: 'multiple', head: 'Steps of', says: 'The step', width: 90, is: counted('quantity') },
        { name: 'preferred', head: 'Preferred', says: 'Whether it is preferred', width: 90, is: flag },
      ],
      keys: [['item', 'vendor']],
      within: 'item',
      grows: true,
    },
    {
      name: 'approvals',
      label: 'Approvals',
      sub: 'which vendor may sell us an item, or all of a group, and until when',
      fields: [
        { name: 'vendor', head: 'Vendor', says: 'The vendor', needed: true, is: ref('vendor') },
        { name: 'item', head: 'Item', says: 'The item', width: 130, is: ref('item') },
        { name: 'itemGroup', head: 'or item group', says: 'The item group', width: 180, is: ref('item-group') },
        { ...firstDay, needed: true },
        lastDay,
      ],
      keys: [['vendor', 'item', 'itemGroup', 'firstDay']],
      within: 'vendor',
      grows: true,
    },
  ],
};
