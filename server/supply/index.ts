export { insertReleasedPurchase, supplyActs } from './acts';
export { listBench } from './reads';
export { openThread, threadOfDocument } from './thread';
