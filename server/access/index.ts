export { attemptsOn } from './attempts';
export { isCommonPassword } from './common-passwords';
export { doerOf, ownToken, requireSession, sessionToken, setSession } from './cookie';
export { hashPassword } from './passwords';
export { beginSession, chooseCompany, markOf, readSession, sessionOut, sessionsOn } from './sessions';
export { trace } from './trace';
