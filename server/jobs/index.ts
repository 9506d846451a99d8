export { startJobs, tick, type Jobs } from './jobs';
