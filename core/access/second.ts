import { decided, refuse, type Decision, type Refusal } from '@core/refusals';

/** Effects that a company may want a second person for. // G7 */
export const SECOND_KINDS = ['money-out', 'credit-limit', 'vendor-price', 'write-off'] as const;
export type SecondKind = (typeof SECOND_KINDS)[number];

/** What an act would do that a second person may have to approve, in words: `Pay MYR 1,200.00 of VI-0003`. */
export interface SecondNeed {
  /** `settings` is not chosen: where anything waits for a second person, so does ending that. */
  kind: SecondKind | 'settings';
  words: string;
}

/** Those of an act's needs that the company wants a second person for. */
export function wantedOf(needs: readonly SecondNeed[], company: readonly SecondKind[]): SecondNeed[] {
  return needs.filter(({ kind }) => (kind === 'settings' ? company.length > 0 : company.includes(kind)));
}

export type AskedState = 'waiting' | 'approved' | 'returned' | 'withdrawn';

/** Something asked for, as whoever decides about it finds it. */
export interface AskedGround {
  state: AskedState;
  askedBy: number;
  personId: number;
}

const decidedAlready = ({ state }: AskedGround): Refusal[] =>
  state === 'waiting' ? [] : [refuse('asked-decided', '', { how: state })];

/** Approves what another asked for; what stands against doing it now comes besides. // G7 */
export function decideApprove(ground: AskedGround, standsAgainst: readonly Refusal[]): Decision<{ state: AskedState }> {
  const own = ground.askedBy === ground.personId ? [refuse('asked-own', '', {})] : [];
  const first = [...decidedAlready(ground), ...own];
  return decided(first.length > 0 ? first : [...standsAgainst], () => ({ state: 'approved' as const }));
}

/** Returns what another asked for, with why; whoever asked takes it back the same way, and needs no reason. // G7 */
export function decideReturn(ground: AskedGround, word: string): Decision<{ state: AskedState; word: string }> {
  const own = ground.askedBy === ground.personId;
  const reason = own || word.trim() !== '' ? [] : [refuse('required', 'word', { what: 'A reason' })];
  return decided([...decidedAlready(ground), ...reason], () => ({
    state: own ? ('withdrawn' as const) : ('returned' as const),
    word: word.trim(),
  }));
}

const KIND_WORDS: Record<SecondKind, string> = {
  'money-out': 'money that goes out',
  'credit-limit': 'credit limits',
  'vendor-price': 'what vendors ask',
  'write-off': 'what is written off',
};

/** What waits for a second person from now on; ending any of it is a need of its own. // G7 */
export function decideSecondPerson(
  now: readonly SecondKind[],
  kinds: readonly SecondKind[],
): Decision<{ kinds: SecondKind[]; ends: SecondNeed[] }> {
  const ended = now.filter((kind) => !kinds.includes(kind)).map((kind) => KIND_WORDS[kind]);
  const ends =
    ended.length === 0
      ? []
      : [{ kind: 'settings' as const, words: `No second person any more for ${ended.join(', ')}` }];
  return decided([], () => ({ kinds: [...kinds], ends }));
}
