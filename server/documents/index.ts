export { documentsOfAgreement, documentsOfOrder, documentsOfPurchase } from './related';
