export { startJobs } from './jobs';
