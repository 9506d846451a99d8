export { answerPurchase, answerStatements, loadForAnswer, touchedByAnswer } from './answer';
export { boughtItems } from './store';
export { listPairs } from './list-pairs';
export { agreementsTouched, insertPurchases, insertReleasedPurchase, tieStatements, vendorsOf } from './acts';
export { listBench } from './reads';
export { threadsOfOrder } from './thread';
export { inStepStatements } from './in-step';
export { cancelPurchase } from './change-purchase';
export { purchaseToStock, untie } from './ties';
