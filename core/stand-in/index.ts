export { marketPrices } from './market';
export { habitOf, invoicedPrice, vendorAnswer, vendorDelivery, type OrderedLine } from './vendor';
