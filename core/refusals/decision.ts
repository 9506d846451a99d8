import type { Refusal } from './sentences';

/**
 * The answer of every decide function: what will be written, or all that stands against it at once; with what it would
 * do but for that, where a preview shows it while it is typed. // G3
 */
export type Decision<Effects> =
  { ok: true; effects: Effects; warnings: Refusal[] } | { ok: false; refusals: Refusal[]; effects?: Effects };

/** Effects where nothing was refused, else every refusal. */
export function decided<Effects>(
  refusals: Refusal[],
  effects: () => Effects,
  warnings: Refusal[] = [],
): Decision<Effects> {
  return refusals.length > 0 ? { ok: false, refusals } : { ok: true, effects: effects(), warnings };
}
