import { supplyActs as benchActs } from './acts';
import { tieActs } from './ties';

export const supplyActs = [...benchActs, ...tieActs];
export { insertReleasedPurchase, tiedStatement } from './acts';
export { salesFor, suppliesFor } from './ties';
export { listBench } from './reads';
export { openThread, threadOfDocument } from './thread';
