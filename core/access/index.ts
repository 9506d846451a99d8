export {
  decideChangePerson,
  decideInvite,
  decideKeepRole,
  decideMakeToken,
  MOST_INVITED_DAYS,
  type PeopleGround,
  type PersonNow,
  type RoleNow,
} from './people';
export { LEAST_PASSWORD, passwordRefusals } from './password';
export { decideWorkDate } from './work-date';
export {
  decideApprove,
  decideReturn,
  decideSecondPerson,
  SECOND_KINDS,
  wantedOf,
  type AskedGround,
  type AskedState,
  type SecondKind,
  type SecondNeed,
} from './second';
