import type { Day } from '@core/kernel';

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
