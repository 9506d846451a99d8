export { documentsOfAgreement, documentsOfOrder, documentsOfPurchase, type RelatedDocument } from './related';
