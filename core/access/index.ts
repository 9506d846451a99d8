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
