export { draftMoved } from './send';
