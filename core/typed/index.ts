// Apart from the kernel: reading dates weighs more than everything else there, and only pages that are typed in need it.
export { readTypedDay } from './day';
export { readTypedLinePrice, typedLinePriceOf, type TypedLinePrice } from './line-price';
export { readTypedBreaks, readTypedPrice, typedBreaksOf, typedPriceOf } from './price';
export {
  readPastedReleases,
  readTypedReminders,
  readTypedTiers,
  typedRemindersOf,
  typedTiersOf,
  type PastedRelease,
} from './agreement';
export { readPastedLines, type PastedLine } from './pasted-lines';
export { pastedCells, spreadsheetCells, type PastedRow } from './cells';
