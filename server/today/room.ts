import * as today from '@api/today';
import { lookForShort } from '../going-out';
import { answers, type Room } from '../room';
import { today as readToday } from './reads';

/** What the today room has. */
export const room: Room = {
  answers: [
    answers(today.today, async ({ parts, who }) => {
      const { companyId, workDate, rights } = who!;
      // What is short is known from the moment it is.
      await lookForShort(parts.database, parts.clock, companyId, workDate);
      return parts.database.snapshot((sql) => readToday(sql, companyId, workDate, rights));
    }),
  ],
};
