import type { DocumentKind } from '@core/kernel';

const PATHS: Record<DocumentKind | 'customer' | 'vendor' | 'item', string> = {
  AG: '/agreements',
  SO: '/orders',
  PO: '/purchases',
  RC: '/receipts',
  SH: '/shipments',
  CI: '/billing/customer',
  VI: '/billing/vendor',
  CN: '/credit-notes',
  PP: '/prepayments',
  PY: '/payments',
  JR: '/journals',
  PR: '/planned',
  AS: '/planned',
  PL: '/planned',
  customer: '/customers',
  vendor: '/vendors',
  item: '/items',
};

/** The address of a document, party or item: what every bead and number leads to. */
export function pathOf(document: { kind: DocumentKind | 'customer' | 'vendor' | 'item'; id: number }): string {
  return `${PATHS[document.kind]}/${document.id}`;
}
