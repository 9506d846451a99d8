import { decided, refuse, type Decision, type Refusal } from '@core/refusals';

/** A view of a list that somebody kept by name, for oneself or for all who work in the company. */
export interface KeptView {
  id: number;
  name: string;
  forAll: boolean;
  keptBy: number;
}

export interface ViewTyped {
  name: string;
  forAll: boolean;
}

/** The kept view it takes the place of; null for a new one. */
export interface ViewEffects {
  name: string;
  replaces: number | null;
}

/** Most views of one list that are offered to one person. */
export const MOST_VIEWS = 40;

const same = (name: string) => name.trim().toLowerCase();

/**
 * Keeps a view by name: one of the same name and for the same people takes its place, if it is one's own. `views` are
 * those of the list that one sees: one's own and those for all.
 */
export function decideKeepView(
  views: readonly KeptView[],
  { name, forAll }: ViewTyped,
  personId: number,
): Decision<ViewEffects> {
  const typed = name.trim();
  const refusals: Refusal[] = [];
  if (typed === '') refusals.push(refuse('required', 'name', { what: 'A name' }));
  const there = views.find((view) => same(view.name) === same(typed) && view.forAll === forAll);
  if (there && there.keptBy !== personId) refusals.push(refuse('view-of-another', 'name', { name: typed }));
  if (!there && views.length >= MOST_VIEWS) {
    refusals.push(refuse('too-many-views', 'name', { most: String(MOST_VIEWS) }));
  }
  return decided(refusals, () => ({ name: typed, replaces: there?.id ?? null }));
}

/** Drops a view: one's own, or for who keeps the lists any that is for all. */
export function decideDropView(view: KeptView, personId: number, keepsLists: boolean): Decision<KeptView> {
  const may = view.keptBy === personId || (view.forAll && keepsLists);
  return decided(may ? [] : [refuse('view-of-another', '', { name: view.name })], () => view);
}
