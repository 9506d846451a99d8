export { marketPrices, type MarketPrice } from './market';
export { habitOf, invoicedPrice, vendorAnswer, vendorDelivery, type Habit, type OrderedLine } from './vendor';
