export { attemptsOn } from './attempts';
export { commonPasswords } from './common-passwords';
export { doerOf, ownToken, requireSession, sessionToken, setSession } from './cookie';
export { hashPassword } from './passwords';
export { beginSession, chooseCompany, markOf, readSession, sessionOut, sessionsOn } from './sessions';
export { hashOf } from './token-hash';
export { trace } from './trace';
