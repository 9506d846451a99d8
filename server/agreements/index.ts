export { callsOf, planOf } from './plan';
export { accrualJournals, rebatesOf, writeAccruals } from './rebates';
export { agreementFilter, agreementRows, agreementsNaming, cursorOf, JOIN_PARTY, listAgreements } from './list';
export { openAgreement } from './reads';
export { fireReminders, remindersDue } from './reminders';
export {
  counterStatements,
  loadRelease,
  loadAgreement,
  loadAgreements,
  loadOffers,
  type CounterChange,
  type PartyOffer,
} from './store';
export { termLinesOf } from './term-lines';
export { remindersOf, termsOf } from './store';
export { writeTerms } from './write-terms';
