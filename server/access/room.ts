import * as contract from '@api/access';
import { answers, reads, type Room } from '../room';
import { accessActs } from './acts';
import { askedActs, openAsked } from './asked';
import { accessAnswers } from './answers';
import { ownAnswers } from './own';
import { peopleActs } from './people';
import { openPeople } from './people-reads';
import { openUpkeep } from './upkeep';

/** What the access room has. */
export const room: Room = {
  acts: [...accessActs, ...askedActs, ...peopleActs],
  answers: [
    ...accessAnswers,
    ...ownAnswers,
    reads(contract.openPeople, (sql, companyId) => openPeople(sql, companyId)),
    answers(contract.openAsked, ({ parts, who }) => parts.database.snapshot((sql) => openAsked(sql, who!))),
    answers(contract.openUpkeep, ({ parts, who }) =>
      parts.database.snapshot((sql) => openUpkeep(sql, who!.companyId, parts.clock.now(), who!.workDate)),
    ),
  ],
  after: {
    moveWorkDate: ({ sessions, jobs }) => {
      sessions.forget();
      jobs.poke();
    },
    changePerson: ({ sessions }) => sessions.forget(),
    keepRole: ({ sessions }) => sessions.forget(),
    endToken: ({ sessions }) => sessions.forget(),
  },
};
