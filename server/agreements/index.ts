export { agreementActs } from './acts';
export { callsOf, openProgress, planOf } from './plan';
export { accrualJournals, rebatesOf, writeAccruals } from './rebates';
export { agreementFilter, agreementRows, agreementsNaming, cursorOf, JOIN_PARTY, listAgreements } from './list';
export { findOffers, openAgreement } from './reads';
export { feedOf, fireReminders, remindersDue, renewFeed, type FeedEntry } from './reminders';
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
export { rebateOf, remindersOf, termsOf } from './store';
export { writeTerms } from './write-terms';
