import { supplyActs as benchActs } from './acts';
import { editPairs } from './pairs';
import { tieActs } from './ties';

export const supplyActs = [...benchActs, ...tieActs, editPairs];
export { listPairs } from './list-pairs';
export { insertReleasedPurchase, tieStatements } from './acts';
export { salesFor, suppliesFor } from './ties';
export { listBench } from './reads';
export { openThread, threadOfDocument } from './thread';
export { inStepStatements } from './in-step';
