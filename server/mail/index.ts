export { draftMessage, fileOf, listMessages, messageFile, openMessage } from './reads';
export { sendDocument } from './send';
