export {
  AgreementColumns,
  EVERYTHING,
  NO_GROUP,
  type AgreementFigures,
  type AgreementsAsked,
  type CurrencySum,
  type FulfilmentAsked,
  type GroupSum,
} from './agreement-columns';
export { AMOUNTS, type Amounts } from './exact';
