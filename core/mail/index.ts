export { decideMessage, isAddress, type Message } from './message';
export { promiseMessage, type MovedPromise, type PromiseMessage } from './moved';
