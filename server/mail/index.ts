export { draftMessage, fileOf, listDrafts, listMessages, messageFile, openMessage } from './reads';
export { draftMoved, dropDraft, sendDocument } from './send';
