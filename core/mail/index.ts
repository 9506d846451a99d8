export { LETTER_WORDS } from './letter-words';
export { decideMessage, isAddress } from './message';
export { promiseMessage, type MovedPromise } from './moved';
export { decideReminders, type LateInvoice } from './reminder';
