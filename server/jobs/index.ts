export { verifyingIsDue, startJobs } from './jobs';
