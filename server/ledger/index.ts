export { seal } from './seal';
export { journalEntries, journalHeads, postJournals, type JournalPlan } from './post';
