import { DOCUMENTS, type DocumentKind } from '@core/kernel';

const PARTIES = { customer: '/customers', vendor: '/vendors', item: '/items' } as const;

type Kind = DocumentKind | keyof typeof PARTIES;

/** The address of a document, party or item: what every bead and number leads to. */
export function pathOf({ kind, id }: { kind: Kind; id: number }): string {
  return `${kind in PARTIES ? PARTIES[kind as keyof typeof PARTIES] : DOCUMENTS[kind as DocumentKind].path}/${id}`;
}

/** What a document, party or item is called: `sales order`. */
export function kindName(kind: Kind): string {
  return kind in PARTIES ? kind : DOCUMENTS[kind as DocumentKind].name;
}
