export { accessActs } from './acts';
export { attemptsOn, type Attempts } from './attempts';
export { hashPassword, passwordFits } from './passwords';
export {
  beginSession,
  chooseCompany,
  endSession,
  readSession,
  sessionOut,
  sessionsOn,
  type SessionOut,
  type Sessions,
  type SignedIn,
} from './sessions';
