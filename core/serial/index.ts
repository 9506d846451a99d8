export { numbersCounted, type CountedNumber } from './counted';
export type { MovedWith, SerialNeed } from './needs';
export { countIn, decidePattern, NUMBER_LENGTH, numberBy } from './pattern';
export { decideCorrect, decideKeep, decidePart, type CorrectGround, type KeepGround, type PartGround } from './keep';
export {
  heldSerials,
  NOTHING_KEPT,
  SERIAL_PLACES,
  together,
  type KeptByNumber,
  type MovedBefore,
  type Serial,
  type SerialGround,
  type SerialPlace,
} from './serial';
export { numbered, numbersShown, type SerialAfter, type SerialEffects, type SerialMove, type SerialRef } from './move';
