import { decided, refuse, type Decision } from '@core/refusals';

/** How far a file is that was brought in. */
export type BroughtState = 'looking' | 'ready' | 'taking' | 'taken' | 'stopped';

/** A file as it was found. */
export interface BroughtGround {
  state: BroughtState;
  /** Lines in all, and how many were looked at or taken. */
  rowCount: number;
  done: number;
  fresh: number;
  changed: number;
  bad: number;
}

const STATE_WORDS: Record<BroughtState, string> = {
  looking: 'being looked at',
  ready: 'looked at',
  taking: 'being taken',
  taken: 'taken',
  stopped: 'stopped',
};

const notIn = ({ state }: BroughtGround, ...states: BroughtState[]) =>
  states.includes(state) ? [] : [refuse('run-not-there', '', { state: STATE_WORDS[state] })];

/** Takes a file that was looked at to its end; with lines that cannot be taken only where the good ones are wanted. // U2 G4 */
export function decideTakeBroughtIn(ground: BroughtGround, goodOnly: boolean): Decision<{ lines: number }> {
  const first = notIn(ground, 'ready');
  const lines = ground.fresh + ground.changed;
  const second = [
    ...(ground.bad > 0 && !goodOnly ? [refuse('run-has-bad', 'goodOnly', { bad: String(ground.bad) })] : []),
    ...(lines === 0 ? [refuse('nothing-to-take', '', {})] : []),
  ];
  return decided(first.length > 0 ? first : second, () => ({ lines }));
}

/** Looks at a file again, from its first line, while nothing works at it. */
export function decideLookAgain(ground: BroughtGround): Decision<{ lines: number }> {
  return decided(notIn(ground, 'ready', 'taken', 'stopped'), () => ({ lines: ground.rowCount }));
}

/** Stops what works at a file; what it took stays. */
export function decideStopBroughtIn(ground: BroughtGround): Decision<{ left: number }> {
  return decided(notIn(ground, 'looking', 'taking'), () => ({ left: ground.rowCount - ground.done }));
}
