// Apart from the kernel: reading dates weighs more than everything else there, and only pages that are typed in need it.
export { readTypedDay } from './day';
export { readTypedRange, type DayRange } from './day-range';
export { readTypedLinePrice, typedLinePriceOf } from './line-price';
export { readTypedBreaks, readTypedPrice, typedBreaksOf, typedPriceOf } from './price';
export { readPastedReleases, readTypedReminders, readTypedTiers, typedRemindersOf, typedTiersOf } from './agreement';
export { readPastedLines, type PastedLine } from './pasted-lines';
export { pastedCells, spreadsheetCells } from './cells';
