export { documentsOfOrders, documentsOfPurchase, type RelatedDocument } from './related';
