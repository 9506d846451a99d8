export { agreementActs } from './acts';
export { openProgress } from './plan';
export { listAgreements, openAgreement } from './reads';
export { counterStatements, loadRelease, lockAgreements, type CounterChange } from './store';
