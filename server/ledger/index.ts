export { journalEntries, journalHeads, postJournals, type JournalPlan } from './post';
