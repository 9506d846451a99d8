export { groundRows, oneShift } from './ground/testing';
