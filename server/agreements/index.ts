export { agreementActs } from './acts';
export { listAgreements, openAgreement } from './reads';
export { counterStatements, loadRelease, lockAgreements, type CounterChange } from './store';
