import type { Room } from '../room';
import { accessActs } from './acts';
import { accessAnswers } from './answers';

/** What the access room has. */
export const room: Room = {
  acts: [...accessActs],
  answers: accessAnswers,
  after: {
    moveWorkDate: ({ sessions, jobs }) => {
      sessions.forget();
      jobs.poke();
    },
  },
};
