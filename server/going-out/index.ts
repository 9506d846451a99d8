export { listGoing } from './list';
export { lookForShort } from './short';
