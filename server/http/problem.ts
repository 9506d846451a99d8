import type { Context, Middleware } from 'koa';
import type { Logger } from 'pino';
import type * as z from 'zod';
import { refuse, sentenceOf, type Refusal } from '@core/refusals';
import type { Problem, RefusalOut } from '@api/kit';
import { NotFound } from '../acts';
import { Refusals } from '../room';
import { faultOf } from '../db';

const TITLES: Record<number, string> = {
  400: 'Not understood',
  401: 'Signed out',
  403: 'Not allowed',
  404: 'Not found',
  409: 'Changed meanwhile',
  413: 'Too large',
  415: 'Not understood',
  422: 'Refused',
  429: 'Too many attempts',
  500: 'Fault',
  503: 'Not available',
};

const STATUS_OF_CODE: Partial<Record<Refusal['code'], number>> = {
  'signed-out': 401,
  'no-right': 403,
  'no-right-to-see': 403,
  'not-found': 404,
  stale: 409,
};

export function refusalOut(refusal: Refusal): z.infer<typeof RefusalOut> {
  return {
    code: refusal.code,
    field: refusal.field,
    facts: refusal.facts as Record<string, string>,
    sentence: sentenceOf(refusal),
  };
}

/** The status that says best what the refusals are. */
export function statusOf(refusals: readonly Refusal[]): number {
  for (const refusal of refusals) {
    const status = STATUS_OF_CODE[refusal.code];
    if (status) return status;
  }
  return 422;
}

/** By what name the log knows the request. */
export const referenceOf = (ctx: Context) => ctx.state['reference'] as string;

/** Answers with problem details. (RFC 9457) */
export function answerProblem(ctx: Context, status: number, refusals: readonly Refusal[]): void {
  const out = refusals.map(refusalOut);
  const problem: z.infer<typeof Problem> = {
    type: 'about:blank',
    title: TITLES[status] ?? 'Refused',
    status,
    detail: out.map((refusal) => refusal.sentence).join(' '),
    reference: referenceOf(ctx),
    refusals: out,
  };
  ctx.status = status;
  ctx.type = 'application/problem+json';
  ctx.body = JSON.stringify(problem);
}

/** The status of an error that lies in what was sent, before anything looked into it; null for any other. */
function statusOfSent(error: unknown): number | null {
  const { status, code } = error as { status?: number; code?: unknown };
  if (status !== undefined && status >= 400 && status < 500) return status;
  // A body that is not packed as it says.
  return typeof code === 'string' && code.startsWith('Z_') ? 400 : null;
}

/**
 * The one exit for errors: only refusals reach the client in words; of everything else it gets a sentence and a
 * reference, the rest goes to the log.
 */
export function errorExit(logger: Logger): Middleware {
  return async (ctx, next) => {
    try {
      await next();
    } catch (error) {
      const reference = referenceOf(ctx);
      const log = logger.child({ reference });
      if (error instanceof Refusals) return answerProblem(ctx, error.status, error.refusals);
      if (error instanceof NotFound) return answerProblem(ctx, 404, [error.refusal]);
      // Nobody waits for it any more, or it took longer than it may.
      if (error instanceof Error && /^(Abort|Timeout)Error$/.test(error.name)) {
        return answerProblem(ctx, 503, [refuse('busy', '', {})]);
      }
      const fault = faultOf(error);
      if (fault === 'away') {
        log.warn({ err: error, path: ctx.path }, 'database away');
        return answerProblem(ctx, 503, [refuse('database-away', '', {})]);
      }
      if (fault === 'full') {
        log.error({ err: error, path: ctx.path }, 'the database has no room to write');
        return answerProblem(ctx, 503, [refuse('no-room', '', {})]);
      }
      if (fault === 'again' || fault === 'wait') {
        log.warn({ err: error, path: ctx.path }, 'gave up after several tries');
        return answerProblem(ctx, 503, [refuse('busy', '', {})]);
      }
      if (fault === 'twin') {
        log.warn({ err: error, path: ctx.path }, 'a key that is there already');
        return answerProblem(ctx, 422, [refuse('there-already', '', {})]);
      }
      const status = statusOfSent(error);
      if (status !== null) return answerProblem(ctx, status, [refuse('malformed', '', { what: 'What was sent' })]);
      log.error({ err: error, path: ctx.path }, 'fault');
      answerProblem(ctx, 500, [refuse('fault', '', { reference })]);
    }
  };
}
