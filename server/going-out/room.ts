import * as contract from '@api/going-out';
import { reads, type Room } from '../room';
import { listGoingOut } from './list';

/** What the room of what goes out has: the act that ships is the stock room's. */
export const room: Room = {
  answers: [
    reads(contract.listGoingOut, (sql, companyId, { query, workDate }) =>
      listGoingOut(sql, companyId, workDate, query),
    ),
  ],
};
