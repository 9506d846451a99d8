import { table } from '../db';

export const jobResultTable = table('job_result', {
  int: 'id=',
  text: 'job found',
  decimal: 'seconds',
  boolean: 'well',
  time: 'at=',
});
