import { ref, text, type ListRoom } from './fields';
import { customer, item, nameOf } from './shared-fields';

/** The lists of the counter. // C1 C7 */
export const COUNTER: ListRoom = {
  label: 'Counter',
  lists: [
    {
      name: 'tills',
      label: 'Tills',
      sub: 'where money is taken, and from which place what is sold there goes out',
      fields: [
        { name: 'name', head: 'Till', says: 'The name', needed: true, is: text(40) },
        { name: 'location', head: 'Sells from', says: 'The place', width: 220, needed: true, is: ref('location') },
      ],
      keys: [['name']],
      within: null,
      grows: true,
    },
    {
      name: 'bar-codes',
      label: 'Bar codes',
      sub: 'what a scanner reads on an item, and how many of it that stands for',
      fields: [
        { ...item, needed: true },
        { name: 'code', head: 'Bar code', says: 'The bar code', width: 170, needed: true, is: { kind: 'gtin' } },
        {
          name: 'quantity',
          head: 'Stands for',
          says: 'How many it stands for',
          width: 110,
          is: { kind: 'number', of: 'quantity', above: 'zero', empty: '1' },
        },
      ],
      keys: [['code']],
      within: 'code',
      grows: true,
    },
    {
      name: 'counter-rules',
      label: 'At the counter',
      sub: 'who buys where nobody in particular does, and for how many days goods are taken back',
      fields: [
        { ...nameOf, fixed: true },
        { ...customer, head: 'Nobody in particular' },
        {
          name: 'returnDays',
          head: 'Days taken back',
          says: 'For how many days goods are taken back',
          width: 130,
          is: { kind: 'number', of: 'quantity', above: 'below-zero', empty: '14', below: '1000', whole: true },
        },
      ],
      keys: [['name']],
      within: null,
      grows: false,
      keptBy: 'upkeep',
    },
  ],
};
