export { supplyActs } from './acts';
export { listBench } from './reads';
export { openThread } from './thread';
