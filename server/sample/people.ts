/** Who can sign in to the demo. Demo passwords are no secret; outside the demo none exists. */
export const PEOPLE = [
  { signIn: 'salmah', name: 'Salmah', password: 'jetty-lantern', role: 'Order administrator' },
  { signIn: 'devan', name: 'Devan', password: 'harbour-crate', role: 'Buyer' },
  { signIn: 'joko', name: 'Joko', password: 'pallet-rain', role: 'Stock keeper' },
  { signIn: 'farida', name: 'Farida', password: 'ledger-lime', role: 'Accounts clerk' },
  { signIn: 'meilin', name: 'Mei Lin', password: 'sluice-plan', role: 'Planner' },
  { signIn: 'suresh', name: 'Suresh', password: 'arc-heron', role: 'Workshop' },
  { signIn: 'rashid', name: 'Rashid', password: 'tide-chart', role: 'Sales manager' },
] as const;

/** Who works at Muara Bening alone. */
export const CHANDRA = {
  signIn: 'chandra',
  name: 'Chandra',
  password: 'weld-harbour',
  role: 'Order administrator at Muara Bening',
} as const;

/** Who sells, and earns commission by it. */
export const SELLERS = [
  { signIn: 'aida', name: 'Aida', password: 'spring-gauge', role: 'Sales person' },
  { signIn: 'tomas', name: 'Tomás', password: 'delta-wren', role: 'Sales person' },
] as const;

/** Who stands at the counter. */
export const HAFIZ = {
  signIn: 'hafiz',
  name: 'Hafiz',
  password: 'brass-tap',
  role: 'Counter clerk',
} as const;
