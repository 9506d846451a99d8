import { supplyActs as benchActs } from './acts';
import { answerPurchase } from './answer';
import { editPairs } from './pairs';
import { tieActs } from './ties';

export const supplyActs = [...benchActs, ...tieActs, editPairs, answerPurchase];
export { answerPurchase, answerStatements, loadForAnswer, touchedByAnswer } from './answer';
export { boughtItems } from './store';
export { listPairs } from './list-pairs';
export { agreementsTouched, insertPurchases, insertReleasedPurchase, tieStatements, vendorsOf } from './acts';
export { salesFor, suppliesFor } from './ties';
export { listBench } from './reads';
export { openThread, threadOfDocument, threadsOfOrder } from './thread';
export { inStepStatements } from './in-step';
