import * as contract from '@api/going-out';
import { reads, type Room } from '../room';
import { listGoing } from './list';

/** What the room of what goes out has: the act that ships is the stock room's. */
export const room: Room = {
  answers: [
    reads(contract.listGoingOut, (sql, companyId, { query, workDate }) => listGoing(sql, companyId, workDate, query)),
  ],
};
