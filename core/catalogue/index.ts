export { ROUTE_NAMES, routeFits, routeIsBought, routeIsMade, ROUTES, type Route, type RoutedItem } from './route';
export {
  chosenOf,
  optionRefusals,
  optionsName,
  optionsPrice,
  replacedBy,
  withOptions,
  type ItemOption,
  type OptionGroup,
} from './options';
export { readGs1, readGtin, withCheckDigit, type Gs1Told } from './gs1';
export { decideTaxRates, type RateToCome, type TaxRateEffects } from './tax-rates';
