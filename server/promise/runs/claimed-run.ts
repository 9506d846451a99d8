import type { Day } from '@core/kernel';
import type { PlanningRun, Proposal } from '@core/promise';

/** A run as it was claimed. */
export interface Run {
  companyId: number;
  id: number;
  workDate: Day;
  kind: 'again' | 'plan';
  until: Day | null;
  itemIds: number[];
}

/** Hears how many lines or items of how many are done. */
export type Report = (done: number, total: number) => void;

/** A planning run as it is kept: the proposals to be begun first, and how many there were. */
export interface KeptPlanning extends PlanningRun {
  proposed: number;
}

/** When something must be done about a proposal. */
export function actBy(proposal: Proposal): Day {
  if (proposal.kind === 'place') return proposal.start;
  return proposal.kind === 'move' && proposal.to < proposal.from ? proposal.to : proposal.from;
}
