import type { Context, Middleware } from 'koa';
import pLimit from 'p-limit';
import { refuse } from '@core/refusals';
import type { Config } from '../config';
import type { Metrics } from '../metrics';
import { sessionToken } from '../access';
import { answerProblem } from './problem';

/** Kinds of request that are bounded apart: a rush of one leaves the others as they were. */
export type Kind = 'read' | 'act' | 'file' | 'sign-in';

interface Bounds {
  /** Requests at work at once. */
  atWork: number;
  /** Requests that wait for those at work; one more is turned away. */
  waiting: number;
}

/** What each kind may have, as a share of what is set for reads and acts: files and passwords keep a core busy each. */
const boundsOf = ({ AT_WORK, WAITING }: Config): Record<Kind, Bounds> => ({
  read: { atWork: AT_WORK, waiting: WAITING },
  act: { atWork: AT_WORK, waiting: WAITING },
  file: { atWork: Math.max(1, Math.ceil(AT_WORK / 4)), waiting: WAITING },
  'sign-in': { atWork: Math.max(1, Math.ceil(AT_WORK / 4)), waiting: WAITING },
});

/** Seconds after which one who was turned away may come again, drawn from here: they must not come back together. */
const AGAIN_SECONDS = [2, 3, 4];

/**
 * Lets in a bounded number of each kind and turns the others away at once: waiting for longer than the one before
 * takes helps nobody. (RFC 9110, 15.6.4; RFC 6585, 4)
 * Where all is full a 503, where one session alone has too many at once a 429, both with Retry-After; nothing was begun.
 */
export function loadOf(config: Config, metrics: Metrics): (kind: Kind) => Middleware {
  const bounds = boundsOf(config);
  const limits = Object.fromEntries(
    Object.entries(bounds).map(([kind, { atWork }]) => [kind, pLimit(atWork)]),
  ) as Record<Kind, ReturnType<typeof pLimit>>;
  metrics.onLoad(() =>
    Object.entries(limits).map(([kind, { activeCount, pendingCount }]) => ({ kind, activeCount, pendingCount })),
  );
  /** Requests of each session and kind, at work or waiting. */
  const ofEach = new Map<string, number>();
  return (kind) => async (ctx, next) => {
    const limit = limits[kind];
    if (limit.pendingCount >= bounds[kind].waiting) return turnAway(ctx, kind, 503, metrics);
    const who = `${kind} ${sessionToken(ctx, config) ?? ctx.ip}`;
    const had = ofEach.get(who) ?? 0;
    // Before they are signed in many people come from one address.
    if (kind !== 'sign-in' && had >= config.AT_ONCE_EACH) return turnAway(ctx, kind, 429, metrics);
    ofEach.set(who, had + 1);
    try {
      // Who went away meanwhile is not worked for.
      await limit(() => (ctx.req.destroyed && !ctx.req.complete ? undefined : next()));
    } finally {
      const left = ofEach.get(who)! - 1;
      if (left === 0) ofEach.delete(who);
      else ofEach.set(who, left);
    }
  };
}

function turnAway(ctx: Context, kind: Kind, status: 429 | 503, metrics: Metrics): void {
  metrics.shed.inc({ kind, why: status === 503 ? 'full' : 'one-session' });
  const seconds = AGAIN_SECONDS[Math.floor(Math.random() * AGAIN_SECONDS.length)]!;
  ctx.set('Retry-After', String(seconds));
  answerProblem(ctx, status, [refuse('too-busy', '', { seconds: String(seconds) })]);
}
