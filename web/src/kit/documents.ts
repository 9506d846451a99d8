import { DOCUMENTS, type DocumentKind } from '@core/kernel';

const PARTIES = { customer: '/customers', vendor: '/vendors', item: '/items', serial: '/serials' } as const;

type Kind = DocumentKind | keyof typeof PARTIES;

/** The address of a document, party, item or serial number: what every bead and number leads to. */
export function pathOf({ kind, id }: { kind: Kind; id: number }): string {
  return `${kind in PARTIES ? PARTIES[kind as keyof typeof PARTIES] : DOCUMENTS[kind as DocumentKind].path}/${id}`;
}

/** What a document, party, item or serial number is called: `sales order`. */
export function kindName(kind: Kind): string {
  if (kind === 'serial') return 'serial number';
  return kind in PARTIES ? kind : DOCUMENTS[kind as DocumentKind].name;
}
