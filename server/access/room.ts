import * as contract from '@api/access';
import { reads, type Room } from '../room';
import { accessActs } from './acts';
import { accessAnswers } from './answers';
import { openUpkeep } from './upkeep';

/** What the access room has. */
export const room: Room = {
  acts: [...accessActs],
  answers: [...accessAnswers, reads(contract.openUpkeep, (sql, companyId) => openUpkeep(sql, companyId))],
  after: {
    moveWorkDate: ({ sessions, jobs }) => {
      sessions.forget();
      jobs.poke();
    },
  },
};
