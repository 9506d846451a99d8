export {
  AgreementColumns,
  EVERYTHING,
  NO_GROUP,
  type AgreementFigures,
  type AgreementsAsked,
  type FulfilmentAsked,
  type GroupSum,
} from './agreement-columns';
export { AMOUNTS, type Amounts } from './exact';
