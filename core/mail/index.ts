export { decideMessage, isAddress } from './message';
export { promiseMessage, type MovedPromise } from './moved';
