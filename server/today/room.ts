import { setTimeout } from 'node:timers/promises';
import * as today from '@api/today';
import { lookForShort } from '../going-out';
import { answers, type Room } from '../room';
import { today as readToday } from './reads';

/** So long a look for what is short is waited for; then Today tells what was known before. */
const MOST_WAITED_MS = 1500;

/** What the today room has. */
export const room: Room = {
  answers: [
    answers(today.today, async ({ parts, who }) => {
      const { companyId, workDate, rights } = who!;
      // What is short is known from the moment it is; a look at all of it, once a day, nobody waits for.
      const looked = lookForShort(parts.database, parts.clock, companyId, workDate).catch((error: unknown) =>
        parts.log.warn({ err: error }, 'what is short could not be looked for; trying again'),
      );
      await Promise.race([looked, setTimeout(MOST_WAITED_MS, undefined, { ref: false })]);
      return parts.database.snapshot((sql) => readToday(sql, companyId, workDate, rights));
    }),
  ],
};
