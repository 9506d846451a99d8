import * as today from '@api/today';
import { reads, type Room } from '../room';
import { today as readToday } from './reads';

/** What the today room has. */
export const room: Room = {
  answers: [reads(today.today, (sql, companyId, { workDate }) => readToday(sql, companyId, workDate))],
};
