/** The people at the demo's parties, by the party's number. */
export const CONTACTS: Readonly<Record<string, readonly { name: string; work: string; phone: string }[]>> = {
  'C-201': [
    { name: 'Puan Rohani', work: 'Purchasing', phone: '013-5550 3101' },
    { name: 'Azman', work: 'Pump house', phone: '013-5550 3102' },
  ],
  'C-202': [{ name: 'Mr Selvam', work: 'Pool manager', phone: '012-5550 3201' }],
  'C-203': [{ name: 'Sister Agnes', work: 'Ward stores', phone: '016-5550 3301' }],
  'C-205': [{ name: 'Hafiz', work: 'Greenhouse 4', phone: '019-5550 3501' }],
  'C-208': [{ name: 'Madam Yeoh', work: 'Production planning', phone: '017-5550 3801' }],
  'V-101': [{ name: 'Cik Farah', work: 'Order desk', phone: '012-5550 4101' }],
  'V-103': [{ name: 'Encik Wahid', work: 'Despatch', phone: '014-5550 4301' }],
};
