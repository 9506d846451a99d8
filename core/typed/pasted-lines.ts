import { isDecimalText, isDay, readTypedDecimal, type Day } from '@core/kernel';
import { pastedCells } from './cells';
import { readTypedDay } from './day';

/** A row of an order pasted from a spreadsheet. */
export interface PastedLine {
  /** Counted from 1. */
  row: number;
  item: string;
  quantity: string;
  /** Empty for the item's own unit. */
  unit: string;
  day: Day | null;
  /** Empty where none was given. */
  price: string;
  /** Why it cannot be taken; empty where it can. */
  problem: string;
}

/**
 * Rows of an item, a quantity and, in any order, a unit, a ship date and a price: cells between tabs, semicolons or
 * wide gaps. Empty rows are left out; each row says by itself what is wrong with it. // G4
 */
export function readPastedLines(text: string, workDate: Day): PastedLine[] {
  return pastedCells(text).map(({ cells, row }) => {
    const [item = '', typed = '', ...rest] = cells;
    const quantity = readTypedDecimal(typed, 'quantity');
    const line: PastedLine = { row, item, quantity: quantity ?? typed, unit: '', day: null, price: '', problem: '' };
    if (item === '' || typed === '') return { ...line, problem: 'give an item and a quantity' };
    if (quantity === null || !isDecimalText(quantity, 'quantity'))
      return { ...line, problem: `${typed} is not a quantity` };
    for (const cell of rest.filter((each) => each !== '')) {
      const price = readTypedDecimal(cell, 'price');
      const day = price === null ? readTypedDay(cell, workDate) : null;
      if (price !== null) line.price = price;
      else if (day !== null && isDay(day)) line.day = day;
      else if (line.unit === '' && /^\p{L}/u.test(cell)) line.unit = cell;
      else return { ...line, problem: `${cell} is neither a unit, a date nor a price` };
    }
    return line;
  });
}
