export { journalEntries, journalHeads, postJournals, type JournalPlan } from './post';
export { openTrail } from './reads';
export { stockEntries } from './stock-entries';
