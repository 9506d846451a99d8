import { counted, day, flag, positive, ref, text, type ListField } from './fields';

// Fields that several lists have.

export const item: ListField = {
  name: 'item',
  head: 'Item',
  says: 'The item',
  width: 110,
  needed: true,
  is: ref('item'),
};
export const customer: ListField = { name: 'customer', head: 'Customer', says: 'The customer', is: ref('customer') };
export const group: ListField = {
  name: 'group',
  head: 'Price group',
  says: 'The price group',
  width: 140,
  is: ref('price-group'),
};
export const firstDay: ListField = { name: 'firstDay', head: 'From day', says: 'The first day', width: 110, is: day };
export const lastDay: ListField = { name: 'lastDay', head: 'To day', says: 'The last day', width: 110, is: day };
export const number: ListField = {
  name: 'number',
  head: 'Number',
  says: 'The number',
  width: 90,
  fixed: true,
  is: text(24),
};
export const nameOf: ListField = { name: 'name', head: 'Name', says: 'The name', fixed: true, is: text(120) };
/** The number and name of a thing where it is made: with them it is known everywhere else. */
export const ownNumber = (most: number): ListField => ({
  name: 'number',
  head: 'Number',
  says: 'The number',
  width: 96,
  needed: true,
  is: text(most),
});
export const ownName: ListField = {
  name: 'name',
  head: 'Name',
  says: 'The name',
  width: 230,
  needed: true,
  is: text(120),
};
/** Put out of use, it is chosen for nothing new; what has it keeps it. // U2 */
export const outOfUse: ListField = {
  name: 'outOfUse',
  head: 'Out of use',
  says: 'Whether it is out of use',
  width: 92,
  is: flag,
};
export const terms: ListField = {
  name: 'terms',
  head: 'Pays',
  says: 'When is paid',
  width: 110,
  orFirst: true,
  is: ref('terms'),
};
export const ownCurrency: ListField = {
  name: 'currency',
  head: 'Currency',
  says: 'The currency',
  width: 84,
  needed: true,
  onlyNew: true,
  is: ref('iso-currency'),
};
export const email: ListField = {
  name: 'email',
  head: 'Mail address',
  says: 'The mail address',
  width: 220,
  is: text(120),
};
export const phone: ListField = { name: 'phone', head: 'Phone', says: 'The phone number', width: 120, is: text(40) };

/** A person at a party. */
export const contactFields: readonly ListField[] = [
  { name: 'name', head: 'Name', says: 'The name', width: 180, needed: true, is: text(80) },
  { name: 'work', head: 'What they do', says: 'What they do', width: 160, is: text(60) },
  phone,
  email,
];

export const wholeNumber = { is: positive('quantity', { whole: true, below: '10000' }) } as const;
export const minutes = counted('percent');
