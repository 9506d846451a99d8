import type * as z from 'zod';
import type { SerialPlace } from '@core/serial';
import type { listSerials, openSerial } from '@api/serial';

export type Piece = z.infer<typeof listSerials.out>['rows'][number];
export type PieceSheet = z.infer<typeof openSerial.out>;

export const PLACE_NAMES: Readonly<Record<SerialPlace, string>> = {
  ours: 'with us',
  customer: 'at a customer',
  used: 'in a product',
  out: 'not with us any more',
};

/** Where a piece is, in few words. */
export function whereIs({ place, location, line, work, within }: Piece): string {
  switch (place) {
    case 'ours':
      return location;
    case 'customer':
      return line?.party ?? '';
    case 'used':
      return within ? `in ${within.number}` : `in ${work?.number ?? 'production'}`;
    case 'out':
      return 'not with us any more';
  }
}

/** For whom it is or went out, in few words; empty for nobody. */
export function forWhom({ place, line }: Piece): string {
  if (!line || (place === 'ours' && !line.held)) return '';
  return `${line.order.number} line ${line.lineNo}, ${line.party}`;
}

const WHAT: Readonly<Record<PieceSheet['life'][number]['what'], string>> = {
  received: 'received',
  made: 'made',
  found: 'brought into stock',
  'moved-in': 'carried to',
  'moved-out': 'carried from',
  returned: 'came back from',
  shipped: 'shipped to',
  used: 'used',
  missing: 'written off',
  'taken-back': 'taken back',
};

/** What happened to a piece, as a sentence begins. */
export function happened({ what, location, party }: PieceSheet['life'][number]): string {
  switch (what) {
    case 'shipped':
    case 'returned':
      return `${WHAT[what]} ${party || 'a customer'}`;
    case 'received':
    case 'made':
      return `${WHAT[what]} at ${location}${party ? `, for ${party}` : ''}`;
    case 'moved-in':
    case 'moved-out':
      return `${WHAT[what]} ${location}`;
    default:
      return `${WHAT[what]} at ${location}`;
  }
}
