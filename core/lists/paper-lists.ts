import { choice, text, type ListField, type ListRoom } from './fields';
import { email, nameOf, number, phone } from './shared-fields';

const street: ListField = { name: 'street', head: 'Street', says: 'The street', is: text(80) };
const postcode: ListField = { name: 'postcode', head: 'Postcode', says: 'The postcode', width: 84, is: text(12) };
const town: ListField = { name: 'town', head: 'Town', says: 'The town', width: 130, is: text(60) };
// ISO 3166-1 alpha-2.
const country: ListField = { name: 'country', head: 'Country', says: 'The country', width: 70, is: text(2) };
const taxNumber: ListField = {
  name: 'taxNumber',
  head: 'Tax number',
  says: 'The tax number',
  width: 150,
  is: text(30),
};
const language: ListField = {
  name: 'language',
  head: 'Written in',
  says: 'The language',
  width: 110,
  is: choice(['en', 'English'], ['ms', 'Malay']),
};
const ADDRESSED = [street, postcode, town, country, taxNumber];

/** What stands on paper of us and of our parties. */
export const PAPERS: ListRoom = {
  label: 'On paper',
  lists: [
    {
      name: 'letterhead',
      label: 'Our letterhead',
      sub: 'who we are on every document, and where money is to go',
      fields: [
        nameOf,
        ...ADDRESSED,
        { name: 'registration', head: 'Registered as', says: 'The registration', width: 120, is: text(30) },
        phone,
        email,
        { name: 'bank', head: 'Bank', says: 'The bank', width: 130, is: text(60) },
        { name: 'bankAccount', head: 'Account', says: 'The account', width: 170, is: text(40) },
      ],
      keys: [['name']],
      within: null,
      grows: false,
      // Where our money goes is not for everybody to say.
      keptBy: 'upkeep',
    },
    {
      name: 'customer-papers',
      of: 'customer',
      label: 'Customers',
      sub: 'where invoices go, the customer’s tax number, and the language of papers and letters; without a street, to the first address goods go to',
      fields: [number, nameOf, ...ADDRESSED, language],
      keys: [['number']],
      within: 'number',
      grows: false,
    },
    {
      name: 'vendor-papers',
      of: 'vendor',
      label: 'Vendors',
      sub: 'where purchase orders go, the vendor’s tax number, and the language of papers and letters',
      fields: [number, nameOf, ...ADDRESSED, language],
      keys: [['number']],
      within: 'number',
      grows: false,
    },
    {
      name: 'paper-texts',
      label: 'Texts on documents',
      sub: 'what we write at the end of a kind of document, in each language we write in',
      fields: [
        {
          name: 'document',
          head: 'Document',
          says: 'The document',
          width: 170,
          needed: true,
          is: choice(
            ['SO', 'Order confirmation'],
            ['PO', 'Purchase order'],
            ['SH', 'Delivery note'],
            ['CI', 'Invoice'],
            ['CN', 'Credit note'],
          ),
        },
        language,
        { name: 'text', head: 'Text', says: 'The text', needed: true, is: text(500) },
      ],
      keys: [['document', 'language']],
      within: null,
      grows: true,
      keptBy: 'upkeep',
    },
  ],
};
