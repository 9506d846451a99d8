/** The kinds of document, by the prefix of their numbers. */
export const DOCUMENT_KINDS = [
  'AG',
  'SO',
  'PO',
  'RC',
  'SH',
  'CI',
  'VI',
  'CN',
  'PP',
  'PY',
  'JR',
  'PR',
  'AS',
  'PL',
] as const;
export type DocumentKind = (typeof DOCUMENT_KINDS)[number];

export const DOCUMENT_NAMES: Record<DocumentKind, string> = {
  AG: 'agreement',
  SO: 'sales order',
  PO: 'purchase order',
  RC: 'receipt',
  SH: 'shipment',
  CI: 'customer invoice',
  VI: 'vendor invoice',
  CN: 'credit note',
  PP: 'prepayment',
  PY: 'payment',
  JR: 'journal',
  PR: 'production order',
  AS: 'assembly order',
  PL: 'planned purchase',
};

/** Points at one document: its kind, its id, the number people say. */
export interface DocumentRef {
  kind: DocumentKind;
  id: number;
  number: string;
}

/** `SO` and 1042 make `SO-1042`; below a thousand it is padded to four digits. */
export function documentNumber(kind: DocumentKind, serial: number): string {
  return `${kind}-${String(serial).padStart(4, '0')}`;
}
