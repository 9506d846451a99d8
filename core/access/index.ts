export { decideWorkDate } from './work-date';
