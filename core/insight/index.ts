export {
  AgreementColumns,
  AMOUNTS,
  EVERYTHING,
  NO_GROUP,
  type AgreementFigures,
  type Amounts,
  type CurrencySum,
  type FulfilmentAsked,
  type GroupSum,
} from './agreement-columns';
