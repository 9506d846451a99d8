export { fittingOffers } from './fitting';
export { lapsedHolds, letHoldGo } from './hold';
export { takeOffer } from './take';
