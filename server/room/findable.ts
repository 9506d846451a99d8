import type { DocumentKind } from '@core/kernel';

/** A kind of document, party or thing that find looks for. */
export interface Findable {
  kind: DocumentKind | 'customer' | 'vendor' | 'item' | 'serial';
  /** Its table as `d`, with what is joined to show it. */
  from: string;
  /** What is shown beside its number. */
  name: string;
  /** What else its words may be in. */
  also?: string;
}
