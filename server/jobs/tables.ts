import { table } from '../db';

export const jobTurnTable = table('job_turn', {
  text: 'job',
  time: 'begunAt?',
});

export const jobResultTable = table('job_result', {
  int: 'id=',
  text: 'job found',
  decimal: 'seconds',
  boolean: 'well',
  time: 'at=',
});
