/** The kinds of document, by the prefix of their numbers: how each is called, and where its page is. */
export const DOCUMENTS = {
  AG: { name: 'agreement', path: '/agreements' },
  SO: { name: 'sales order', path: '/orders' },
  PO: { name: 'purchase order', path: '/purchases' },
  RC: { name: 'receipt', path: '/receipts' },
  SH: { name: 'shipment', path: '/shipments' },
  CI: { name: 'customer invoice', path: '/billing/customer' },
  VI: { name: 'vendor invoice', path: '/billing/vendor' },
  CN: { name: 'credit note', path: '/credit-notes' },
  PP: { name: 'prepayment', path: '/prepayments' },
  PY: { name: 'payment', path: '/payments' },
  JR: { name: 'journal', path: '/journals' },
  PR: { name: 'production order', path: '/workshop' },
  AS: { name: 'assembly order', path: '/workshop' },
  PL: { name: 'planned purchase', path: '/planned' },
  WR: { name: 'work report', path: '/work-reports' },
  CT: { name: 'count', path: '/counts' },
  SL: { name: 'slip', path: '/slips' },
  DR: { name: 'drawer', path: '/drawers' },
  ST: { name: 'standing order', path: '/standing-orders' },
  PM: { name: 'promotion', path: '/promotions' },
  VS: { name: 'support by a vendor', path: '/support' },
  CL: { name: 'claim on a vendor', path: '/claims' },
  CS: { name: 'commission statement', path: '/commission' },
} as const;

export type DocumentKind = keyof typeof DOCUMENTS;

export const DOCUMENT_KINDS = Object.keys(DOCUMENTS) as [DocumentKind, ...DocumentKind[]];

/** Lines a document that somebody makes holds at most, and letters of a customer's reference on it. */
export const MOST_LINES = 500;
export const MOST_REFERENCE = 60;

/** Points at one document: its kind, its id, the number people say. */
export interface DocumentRef {
  kind: DocumentKind;
  id: number;
  number: string;
}

/** `SO` and 1042 make `SO-1042`, or what the company writes before it; below a thousand it is padded to four digits. */
export function documentNumber(kind: DocumentKind, serial: number, prefix = `${kind}-`): string {
  return `${prefix}${String(serial).padStart(4, '0')}`;
}
