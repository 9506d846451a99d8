import * as lists from '@api/lists';
import { reads, type Room } from '../room';
import { keepList, openList } from './lists';
import { findNamed } from './named';

/** What the lists room has. */
export const room: Room = {
  acts: [keepList],
  answers: [
    reads(lists.openList, (sql, companyId, { params, query }) => openList(sql, companyId, params.list, query)),
    reads(lists.findNamed, (sql, companyId, { params, query }) => findNamed(sql, companyId, params.target, query.q)),
  ],
};
