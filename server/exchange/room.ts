import type { Room } from '../room';
import { bringInAgreements } from './agreements';
import { exchangeFiles } from './files';
import { bringInOrders } from './orders';

/** What the exchange room has. */
export const room: Room = {
  acts: [bringInAgreements, bringInOrders],
  files: exchangeFiles,
};
