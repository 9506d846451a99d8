import * as formats from '@api/formats';
import { reads, type Room } from '../room';
import { bringInAgreements } from './agreements';
import { formatFiles } from './files';
import { keepLogo } from './keep-logo';
import { ourLetterhead } from './letterhead';
import { bringInOrders } from './orders';

/** What the formats room has. */
export const room: Room = {
  acts: [bringInAgreements, bringInOrders, keepLogo],
  answers: [reads(formats.openLetterhead, (sql, companyId) => ourLetterhead(sql, companyId))],
  files: formatFiles,
};
