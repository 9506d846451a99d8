export { answers, reads, Refusals, type Answer, type Request } from './answer';
export { account, bound, counter, numbered, places, total, type Check } from './check';
export { addDays } from './days';
export { askedOf, checked } from './input';
export type { FileAnswer } from './file';
export type { Attempts, Events, Jobs, Listening, Parts, Runs, Sessions, SignedIn } from './parts';
export type { Findable } from './findable';
export type { Room } from './room';
