export { attemptsOn } from './attempts';
export { doerOf, requireSession, sessionToken } from './cookie';
export { hashPassword } from './passwords';
export { markOf, sessionsOn } from './sessions';
export { trace } from './trace';
