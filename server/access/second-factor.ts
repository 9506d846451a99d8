import type { Context } from 'koa';
import { refuse } from '@core/refusals';
import { Refusals, type Parts } from '../room';
import { stepOf } from './totp';
import { trace } from './trace';

/** Somebody whose password fitted, with their second factor where they have one. */
export interface Factored {
  id: number;
  totpSecret: Buffer | null;
  totpStep: number | null;
}

/** Asks for the second factor of whoever's password fitted: refuses where no code came, or none that is good now. // U4 */
export async function askSecondFactor(
  parts: Parts,
  ctx: Context,
  person: Factored,
  code: string,
  name: string,
  device: string | null,
): Promise<void> {
  const { database, clock, attempts } = parts;
  const { totpSecret, totpStep, id } = person;
  if (!totpSecret) return;
  if (code.trim() === '') {
    // The password fitted: that try was none. Codes are counted.
    await attempts.succeeded(name, ctx.ip, device);
    throw new Refusals(422, [refuse('code-needed', 'code', {})]);
  }
  const step = stepOf(totpSecret, code, clock.now(), totpStep);
  // Each code once, whoever is faster.
  const taken =
    step !== null &&
    (await database.run('UPDATE person SET totp_step = ? WHERE id = ? AND (totp_step IS NULL OR totp_step < ?)', [
      step,
      id,
      step,
    ])) === 1;
  if (taken) return;
  await trace(parts, ctx, 'refused', { name });
  throw new Refusals(422, [refuse('code-wrong', 'code', {})]);
}
