import * as lists from '@api/lists';
import { answers, reads, type Room } from '../room';
import { keepList, openList } from './lists';
import { findNamed } from './named';
import { dropView, keepView, listViews } from './views';

/** What the lists room has. */
export const room: Room = {
  acts: [keepList, keepView, dropView],
  answers: [
    reads(lists.openList, (sql, companyId, { params, query }) => openList(sql, companyId, params.list, query)),
    reads(lists.findNamed, (sql, companyId, { params, query }) => findNamed(sql, companyId, params.target, query.q)),
    answers(lists.listViews, ({ parts, who, params }) =>
      parts.database.snapshot((sql) => listViews(sql, who!.companyId, params.list, who!.personId)),
    ),
  ],
};
