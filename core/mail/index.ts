export { decideMessage, isAddress, type Message } from './message';
