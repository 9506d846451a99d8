import type { Refusal } from '@core/refusals';

/** Carries refusals out of a transaction so that it rolls back. */
export class Refused extends Error {
  constructor(readonly refusals: Refusal[]) {
    super('refused');
  }
}
