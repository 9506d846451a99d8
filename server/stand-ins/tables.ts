import { table } from '../db';

/** What the card terminal's stand-in remembers: it is outside, and of no company. */
export const terminalChargeTable = table('terminal_charge', {
  int: 'asked=',
  choice: 'state:taken|refused|given-back',
  text: 'reference ofReference?',
  decimal: 'amount',
});
