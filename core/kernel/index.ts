export { sameText } from './same-text';
export { assert } from './assert';
export { chanceOf, type Chance } from './chance';
export {
  AMOUNT_BOUND,
  dec,
  decimalText,
  isDecimalText,
  least,
  most,
  readTypedDecimal,
  roundHalfAway,
  roundUpTo,
  share,
  sum,
  ZERO,
  type Dec,
  type DecimalKind,
} from './decimal';
export {
  addDays,
  daysBetween,
  dayText,
  isDay,
  longDayText,
  monthText,
  weekdayOf,
  YEARLESS_DAYS_BACK,
  type Day,
} from './day';
export { itemAt, locationAt, MAIN_LOCATION, numberAt, pointOf, UNDER_WAY } from './point';
export {
  DOCUMENT_KINDS,
  DOCUMENTS,
  documentNumber,
  MOST_LINES,
  MOST_REFERENCE,
  type DocumentKind,
  type DocumentRef,
} from './document';
export {
  amountText,
  currencyPlaces,
  fixedText,
  isMoneyText,
  groupedText,
  OTHER_PLACES,
  documentTotals,
  lineAmount,
  amountAt,
  lineSlice,
  priceText,
  sliceAmount,
  type LineMoney,
} from './money';
export {
  balanceChange,
  bothOf,
  carriedOf,
  known,
  negBoth,
  ownOf,
  plusBoth,
  type Both,
  type Exchange,
  type ExchangeOf,
  type OwedInBoth,
} from './exchange';
export { Calendar, NEVER, type CalendarRow, type DayIndex } from './calendar';
export { boughtBy, orderBy, type LeadTime } from './lead-time';
export { readTypedHours, shiftsOf, type Shift } from './hours';
export { inUnits, isWholeUnit } from './units';
export { groupedBy } from './grouped';
export { countryName } from './country';
export { dayIn, LANGUAGES, unitsIn, type Language } from './language';
