import type { Room } from '../room';
import { bringInAgreements } from './agreements';
import { formatFiles } from './files';
import { bringInOrders } from './orders';

/** What the formats room has. */
export const room: Room = {
  acts: [bringInAgreements, bringInOrders],
  files: formatFiles,
};
