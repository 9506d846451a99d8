export { agreementActs } from './acts';
export { listAgreements, openAgreement } from './reads';
export { addToCounter, loadRelease, lockAgreements, type CounterChange } from './store';
