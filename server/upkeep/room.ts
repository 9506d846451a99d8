import * as upkeep from '@api/upkeep';
import { reads, type Room } from '../room';
import { keepList, openList } from './lists';
import { findNamed } from './named';

/** What the upkeep room has. */
export const room: Room = {
  acts: [keepList],
  answers: [
    reads(upkeep.openList, (sql, companyId, { params, query }) => openList(sql, companyId, params.list, query)),
    reads(upkeep.findNamed, (sql, companyId, { params, query }) => findNamed(sql, companyId, params.target, query.q)),
  ],
};
