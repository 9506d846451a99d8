export { attemptsOn } from './attempts';
export { doerOf, requireSession } from './cookie';
export { hashPassword } from './passwords';
export { sessionsOn } from './sessions';
