export { decideMessage, isAddress } from './message';
export { promiseMessage, type MovedPromise } from './moved';
export { levelOf, reminderMessage, type LateItem, type ReminderLevel } from './reminder';
