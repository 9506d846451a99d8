// What other rooms use of this one.
export { Session } from './session';
