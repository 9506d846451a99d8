export const VENDORS = [
  { number: 'V-101', name: 'Arus Membrane Supply', phone: '03-5550 1101', terms: '30 days' },
  { number: 'V-102', name: 'Injap Timur Valves', phone: '09-5550 1102', terms: '30 days' },
  { number: 'V-103', name: 'Garam Murni Salt', phone: '04-5550 1103', terms: '14 days', tolerance: '5' },
  { number: 'V-104', name: 'Delima Chemicals', phone: '03-5550 1104', terms: '30 days' },
  { number: 'V-105', name: 'Logam Setia Castings', phone: '05-5550 1105', terms: '45 days' },
  { number: 'V-106', name: 'Utara Freight', phone: '04-5550 1106', terms: '14 days' },
] as const satisfies readonly {
  number: string;
  name: string;
  phone: string;
  terms: string;
  /** How far they may deliver more or less than ordered, in per cent. // L10 */
  tolerance?: string;
}[];

interface CustomerPlan {
  number: string;
  name: string;
  organisation: string;
  phone: string;
  terms: string;
  /** The company's own unless named. */
  currency?: string;
  referenceRequired: boolean;
  /** Held to items with an agreement price. // A14 */
  contractedOnly?: boolean;
  shipTos: readonly { label: string; street: string; town: string; postcode: string; country?: string }[];
}

export const CUSTOMERS: readonly CustomerPlan[] = [
  {
    number: 'C-201',
    name: 'Teratai Bay Resort',
    organisation: 'COAST',
    phone: '09-5550 2201',
    terms: '30 days',
    referenceRequired: true,
    shipTos: [
      { label: 'Jetty Store', street: 'Jalan Pantai 3', town: 'Kuala Besut', postcode: '22300' },
      { label: 'Hill Villas', street: 'Lorong Bukit 12', town: 'Kuala Besut', postcode: '22300' },
    ],
  },
  {
    number: 'C-202',
    name: 'Kolam Ceria Swim Club',
    organisation: 'VALLEY',
    phone: '03-5550 2202',
    terms: '14 days',
    referenceRequired: false,
    shipTos: [{ label: 'Plant room', street: 'Jalan Renang 8', town: 'Shah Alam', postcode: '40100' }],
  },
  {
    number: 'C-203',
    name: 'Nilam Dialysis Centre',
    organisation: 'VALLEY',
    phone: '03-5550 2203',
    terms: '30 days',
    referenceRequired: true,
    shipTos: [
      { label: 'Ward store', street: 'Jalan Nilam 1', town: 'Petaling Jaya', postcode: '46000' },
      { label: 'Second clinic', street: 'Persiaran Delima 5', town: 'Klang', postcode: '41000' },
    ],
  },
  {
    number: 'C-204',
    name: 'Padi Emas Food Works',
    organisation: 'NORTH',
    phone: '04-5550 2204',
    terms: '45 days',
    referenceRequired: false,
    shipTos: [{ label: 'Gate 2', street: 'Kawasan Padi 20', town: 'Alor Setar', postcode: '05150' }],
  },
  {
    number: 'C-205',
    name: 'Rumah Hijau Growers',
    organisation: 'NORTH',
    phone: '05-5550 2205',
    terms: '30 days',
    referenceRequired: false,
    shipTos: [{ label: 'Greenhouse 4', street: 'Batu 9', town: 'Tanah Rata', postcode: '39000' }],
  },
  {
    number: 'C-206',
    name: 'Sinar Laut Ferries',
    organisation: 'NORTH',
    phone: '04-5550 2206',
    terms: '30 days',
    referenceRequired: true,
    shipTos: [{ label: 'Dock workshop', street: 'Pengkalan Kapal', town: 'Butterworth', postcode: '12100' }],
  },
  {
    number: 'C-207',
    name: 'Bukit Jati Golf Links',
    organisation: 'VALLEY',
    phone: '03-5550 2207',
    terms: '30 days',
    referenceRequired: false,
    shipTos: [{ label: 'Pump house', street: 'Jalan Jati 2', town: 'Rawang', postcode: '48000' }],
  },
  {
    number: 'C-208',
    name: 'Kasturi Bottling',
    organisation: 'VALLEY',
    phone: '06-5550 2208',
    terms: '45 days',
    referenceRequired: false,
    shipTos: [{ label: 'Line 1 store', street: 'Taman Kasturi 7', town: 'Seremban', postcode: '70400' }],
  },
  {
    number: 'C-209',
    name: 'Selat Cruise Lines',
    organisation: 'NORTH',
    phone: '04-5550 2209',
    terms: '30 days',
    currency: 'SGD',
    referenceRequired: false,
    contractedOnly: true,
    shipTos: [{ label: 'Ship stores', street: 'Pengkalan Besar 4', town: 'Butterworth', postcode: '12100' }],
  },
];

export const GROUPS = [
  { code: 'MEMB', name: 'Membranes' },
  { code: 'CART', name: 'Filter cartridges' },
  { code: 'VALVE', name: 'Valves' },
  { code: 'PUMP', name: 'Pumps' },
  { code: 'CHEM', name: 'Salt and chemicals' },
  { code: 'SKID', name: 'Skids and vessels' },
  { code: 'PART', name: 'Parts' },
] as const;

export const ORGANISATIONS = [
  { code: 'COAST', name: 'East coast' },
  { code: 'VALLEY', name: 'Klang valley' },
  { code: 'NORTH', name: 'North' },
] as const;
