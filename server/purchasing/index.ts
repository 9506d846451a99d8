export { listPurchases, openPurchase } from './reads';
