import * as today from '@api/today';
import { answers, type Room } from '../room';
import { today as readToday } from './reads';

/** What the today room has. */
export const room: Room = {
  answers: [
    answers(today.today, ({ parts, who }) =>
      parts.database.snapshot((sql) => readToday(sql, who!.companyId, who!.workDate, who!.rights)),
    ),
  ],
};
