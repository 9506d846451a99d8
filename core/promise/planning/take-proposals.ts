import type { Day } from '../../kernel';
import { decided, refuse, type Decision, type Refusal } from '../../refusals';
import {
  decideAnswer,
  decidePurchase,
  type AnswerEffects,
  type AnswerGround,
  type PurchaseEffects,
  type PurchaseGround,
} from '@core/supply';
import type { PlanningRun, Proposal } from './planning';
import type { GroundRows } from '../ground/rows';
import { decideProposals, type AskedProposal, type ProposalEffects } from './proposal-effects';

/** A planning run, and all that taking of it stands on. */
export interface TakeGround extends Omit<PurchaseGround, 'vendor' | 'shipToIds'> {
  run: { workDate: Day };
  proposals: readonly Proposal[];
  /** What was taken of the run already, by the place of the proposal. */
  taken: Readonly<Record<string, { number: string }>>;
  rows: GroundRows;
  /** The run made anew on these rows. */
  now: PlanningRun;
  /** When the planned orders that are asked to move begin. */
  starts: ReadonlyMap<number, Day>;
  purchases: readonly AnswerGround[];
  vendors: readonly NonNullable<PurchaseGround['vendor']>[];
}

export interface TakeProposalsEffects extends ProposalEffects {
  bought: { vendorId: number; effects: PurchaseEffects; fields: string[] }[];
  answers: { purchaseId: number; effects: AnswerEffects; fields: string[] }[];
}

/**
 * Takes proposals of a planning run by their places: what is bought as purchase orders that somebody may place, with
 * their prices; purchases that move wait for their vendors' answer. What somebody took meanwhile, or what the run would
 * not propose any more, is refused. // T8 T11
 */
export function decideTakeProposals(
  { run, proposals, taken, rows, now, starts, purchases, vendors, ...ground }: TakeGround,
  places: readonly number[],
  workDate: Day,
  mayPurchase: boolean,
): Decision<TakeProposalsEffects> {
  const refusals: Refusal[] = [];
  const asked: AskedProposal[] = [];
  places.forEach((at, index) => {
    const proposal = proposals[at];
    const field = `at.${index}`;
    if (!proposal) refusals.push(refuse('unknown', field, { what: 'This proposal' }));
    else if (taken[at]) refusals.push(refuse('proposal-taken', field, { number: taken[at].number }));
    else asked.push({ field, proposal });
  });
  if (run.workDate !== workDate) refusals.push(refuse('plan-moved', '', {}));
  if (refusals.length > 0) return { ok: false, refusals };
  const decision = decideProposals(rows, now, asked, starts);
  if (!decision.ok) return { ok: false, refusals: decision.refusals };
  const { effects } = decision;
  if (effects.purchases.length + effects.changed.length > 0 && !mayPurchase) {
    refusals.push(refuse('no-right', '', { act: 'place and change purchase orders' }));
  }
  const warnings: Refusal[] = [];
  const bought = effects.purchases.map(({ vendorId, locationId, lines }) => {
    const vendor = vendors.find((each) => each.id === vendorId) ?? null;
    const fields = lines.map((line) => line.field);
    const placed = decidePurchase(
      { ...ground, vendor, shipToIds: [] },
      { shipToId: null, locationId, lines },
      workDate,
    );
    if (placed.ok) warnings.push(...placed.warnings.map((warning) => atLine(warning, fields)));
    else refusals.push(...placed.refusals.map((refusal) => atLine(refusal, fields)));
    return { vendorId, effects: placed.ok ? placed.effects : null!, fields };
  });
  const answers = effects.changed.map(({ purchaseId, lines }) => {
    const purchase = purchases.find((each) => each.purchase.id === purchaseId)!;
    const fields = lines.map((line) => line.field);
    const typed = lines.map(({ lineId, dueDate, stops }) => ({ purchaseLineId: lineId, dueDate, stops }));
    const changed = decideAnswer(purchase, { lines: typed }, workDate);
    if (!changed.ok) refusals.push(...changed.refusals.map((refusal) => atLine(refusal, fields)));
    return { purchaseId, effects: changed.ok ? changed.effects : null!, fields };
  });
  return decided(refusals, () => ({ ...effects, bought, answers }), warnings);
}

/** A refusal of a line of a purchase order, at the proposal it came from. */
function atLine(refusal: Refusal, fields: readonly string[]): Refusal {
  const line = /^lines\.(\d+)/.exec(refusal.field);
  return line ? { ...refusal, field: fields[Number(line[1])]! } : refusal;
}
