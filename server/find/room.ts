import * as find from '@api/find';
import { answers, type Room } from '../room';
import { findIn } from './reads';

/** What the find room has. */
export const room: Room = {
  answers: [
    answers(find.find, ({ parts, who, query }) =>
      parts.database.snapshot((sql) => findIn(sql, who!.companyId, query.q, parts.findable)),
    ),
  ],
};
