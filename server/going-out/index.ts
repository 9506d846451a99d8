export { lookForShort } from './short';
