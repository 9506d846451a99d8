import { dec } from '@core/kernel';
import { refuse, type Decision, type Refusal } from '@core/refusals';

/** A line that something is planned for, and the first of what is planned. */
export interface PlannedFor {
  id: number;
  itemId: number;
  quantity: string;
  number: string;
}

/** A decision, refused where it would change or end lines that something is planned for. // T8 */
export function keepingPlanned<Effects>(
  decision: Decision<Effects>,
  planned: readonly PlannedFor[],
  /** The lines as they would be; those that are not among them would be gone. */
  linesOf: (
    effects: Effects,
  ) => readonly { id: number | null; itemId: number; quantity: string; optionIds?: readonly number[] }[],
): Decision<Effects> {
  if (!decision.ok) return decision;
  const lines = linesOf(decision.effects);
  const refusals = planned.flatMap((line): Refusal[] => {
    const at = lines.findIndex(({ id }) => id === line.id);
    const now = lines[at];
    // What is planned is the item as it usually is.
    const asPlanned = now?.itemId === line.itemId && (now.optionIds ?? []).length === 0;
    if (asPlanned && dec(now.quantity).eq(line.quantity)) return [];
    return [refuse('line-planned', at < 0 ? '' : `lines.${at}.quantity`, { number: line.number })];
  });
  return refusals.length > 0 ? { ok: false, refusals } : decision;
}
