import type { AgreementSheet } from '../src/agreements/service';

type Line = AgreementSheet['lines'][number];

/** A line for 100 membranes at 740, of which 40 are released and 20 shipped and invoiced. */
export function agreementLine(change: Partial<Line> = {}): Line {
  return {
    id: 11,
    lineNo: 1,
    item: { id: 2, number: 'RO-4040', name: 'Membrane', unit: 'piece' },
    group: null,
    listPrice: '815',
    priceKind: 'fixed',
    priceValue: '740',
    breaks: [],
    unitPrice: '740',
    leastRelease: '0',
    releaseMultiple: '0',
    notes: '',
    committed: '100',
    committedValue: '74000',
    released: '40',
    releasedValue: '29600',
    shipped: '20',
    shippedValue: '14800',
    invoiced: '20',
    invoicedValue: '14800',
    calls: [],
    ...change,
  };
}

/** An agreement in force through 2027 by quantity, with one line. */
export function agreementSheet(change: Partial<AgreementSheet> = {}): AgreementSheet {
  return {
    id: 8,
    number: 'AG-0008',
    state: 'in-force',
    side: 'selling',
    basis: 'quantity',
    title: 'Membranes',
    party: { id: 3, number: 'C-201', name: 'Teratai Bay Resort' },
    currency: 'MYR',
    firstDay: '2027-01-01',
    lastDay: '2027-12-31',
    values: { committed: '74000', released: '29600', shipped: '14800', invoiced: '14800' },
    usedUp: false,
    version: 4,
    signedOn: null,
    limitPolicy: 'refuse',
    tolerancePercent: '0',
    wholeLimit: '',
    wholeLeft: '',
    probabilityPercent: '100',
    restPlan: 'spread',
    freeGoodsCount: false,
    priority: 5,
    notes: '',
    endedOn: null,
    renewedAs: null,
    salesOrganisation: null,
    rebate: { kind: 'none', by: 'value', tiers: [] },
    rebateNow: null,
    reminders: [],
    releaseAhead: '',
    planShipToId: null,
    planReference: '',
    prepayments: [],
    shortfall: null,
    revisions: [],
    referenceRequired: false,
    shipTos: [
      { id: 5, label: 'Stores', street: '1 Beach Road', town: 'Kuala Besut', postcode: '22300', country: 'MY' },
      { id: 6, label: 'Hill Villas', street: '4 Hill Road', town: 'Jerteh', postcode: '22000', country: 'MY' },
    ],
    lines: [agreementLine()],
    documents: [],
    ...change,
  };
}
