import { refuse } from '@core/refusals';
import type { Tx } from '../db';
import type { Act, Doer, Touched } from './act';
import { Refused } from './refused';

/**
 * Does an act within another's transaction, as a part of it: what stands against it stands against the whole, and nothing
 * of either is done. For acts that leave nothing to be written; what would wait for a second person is refused here.
 */
export async function doWithin(
  tx: Tx,
  act: Act,
  input: unknown,
  doer: Doer,
): Promise<{ made: Touched[]; touched: Touched[] }> {
  const loaded = await act.asked(input).within(tx, doer);
  const decision = loaded.decide();
  if (!decision.ok) throw new Refused(decision.refusals);
  if (decision.effects.waitsFor)
    throw new Refused([refuse('waits-for-second', '', { what: decision.effects.waitsFor })]);
  const { made, touched } = await decision.effects.write(tx);
  return { made: made as Touched[], touched: [...touched] };
}
