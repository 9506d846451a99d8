import { choice, counted, ref, text, type ListField, type ListRoom } from './fields';

const code = (most: number): ListField => ({
  name: 'code',
  head: 'Code',
  says: 'The code',
  width: 110,
  needed: true,
  is: text(most),
});
const name = (most: number): ListField => ({
  name: 'name',
  head: 'Name',
  says: 'The name',
  needed: true,
  is: text(most),
});

/** What a company is made of, besides its goods and its parties. */
export const COMPANY: ListRoom = {
  label: 'Company',
  lists: [
    {
      name: 'tax-codes',
      label: 'Tax codes',
      sub: 'what is added to a price; what was ordered or invoiced keeps the rate it was written with',
      fields: [
        code(10),
        name(60),
        { name: 'rate', head: 'Per cent', says: 'The rate', width: 110, needed: true, is: counted('percent') },
      ],
      keys: [['code']],
      within: null,
      grows: true,
      keptBy: 'upkeep',
    },
    {
      name: 'tax-rates',
      label: 'Rates to come',
      sub: 'the rate of a tax code from a day on: it is taken on that day by itself',
      fields: [
        {
          name: 'tax',
          head: 'Tax code',
          says: 'The tax code',
          width: 130,
          needed: true,
          is: { kind: 'ref', to: 'tax-code' },
        },
        { name: 'day', head: 'From day', says: 'The day', width: 130, needed: true, is: { kind: 'day' } },
        { name: 'rate', head: 'Per cent', says: 'The rate', width: 110, needed: true, is: counted('percent') },
      ],
      keys: [['tax', 'day']],
      within: 'tax',
      grows: true,
      keptBy: 'upkeep',
    },
    {
      name: 'terms',
      label: 'Payment terms',
      sub: 'how many days after an invoice it is due',
      fields: [
        name(60),
        {
          name: 'days',
          head: 'Days',
          says: 'The days',
          width: 110,
          needed: true,
          is: counted('quantity', { whole: true, below: '1000' }),
        },
      ],
      keys: [['name']],
      within: null,
      grows: true,
    },
    {
      name: 'organisations',
      label: 'Sales organisations',
      sub: 'who of us sells to whom, as Insight sums it',
      fields: [code(12), name(60)],
      keys: [['code']],
      within: null,
      grows: true,
    },
    {
      name: 'accounts',
      label: 'Accounts',
      sub: 'what our books call them; what is posted by itself goes to the account that is for it',
      fields: [
        code(10),
        name(80),
        { name: 'role', head: 'Posted there by itself', says: 'What it is for', width: 220, fixed: true, is: text(30) },
        {
          name: 'shares',
          head: 'For item groups',
          says: 'What groups of items post there',
          width: 150,
          onlyNew: true,
          is: choice(['', ''], ['revenue', 'revenue'], ['cost-of-sales', 'cost of sales']),
        },
      ],
      keys: [['code']],
      within: null,
      grows: true,
      inOrder: true,
      keptBy: 'upkeep',
    },
    {
      name: 'group-accounts',
      label: 'Accounts of groups',
      sub: 'where the revenue and the cost of a group of items go, where not to the accounts for all; from the next posting on',
      fields: [
        { name: 'code', head: 'Group', says: 'The group', width: 110, fixed: true, is: text(10) },
        { name: 'name', head: 'Name', says: 'The name', fixed: true, is: text(60) },
        {
          name: 'revenue',
          head: 'Revenue to',
          says: 'The account of its revenue',
          width: 150,
          is: ref('revenue-account'),
        },
        {
          name: 'cost',
          head: 'Cost of sales to',
          says: 'The account of its cost',
          width: 150,
          is: ref('cost-account'),
        },
      ],
      keys: [['code']],
      within: null,
      grows: false,
      keptBy: 'upkeep',
    },
  ],
};
