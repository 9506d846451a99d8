import Router from '@koa/router';
import type { Context } from 'koa';
import * as z from 'zod';
import { refuse } from '@core/refusals';
import { moveWorkDate } from '@api/access';
import { startPlanning, startRepromise } from '@api/promise';
import type { Schema } from '@api/kit';
import { previewAct, runAct, type Act, type Asked } from '../acts';
import { ALL_ACTS } from './all-acts';
import { assertAsSaid } from './as-said';
import { bindFiles } from './files';
import { HANDLERS, type Handler } from './handlers';
import { openApi } from './openapi';
import type { Parts } from './parts';
import { answerProblem, refusalOut, Refusals, statusOf } from './problem';
import { doerOf, requireSession } from './session';

const KEY = /^[\w-]{8,64}$/;

/** Binds the whole contract under `/api`: reads, acts with their previews, events, and its own description. */
export function apiRouter(parts: Parts): Router {
  const router = new Router({ prefix: '/api' });
  // Files first: `/agreements.csv` is no `/agreements/:id`.
  bindFiles(router, parts);
  for (const handler of HANDLERS) bindEndpoint(router, parts, handler);
  for (const act of ALL_ACTS) bindAct(router, parts, act);
  router.get('/events', async (ctx) => {
    const who = await requireSession(ctx, parts);
    ctx.set({ 'Cache-Control': 'no-store', 'X-Accel-Buffering': 'no' });
    ctx.type = 'text/event-stream';
    ctx.compress = false;
    const stream = parts.events.listen(who.companyId);
    ctx.req.on('close', () => stream.destroy());
    ctx.body = stream;
  });
  const description = JSON.stringify(
    openApi(
      HANDLERS.map(({ endpoint }) => endpoint),
      ALL_ACTS.map(({ endpoint }) => endpoint),
    ),
  );
  router.get('/openapi.json', (ctx) => {
    ctx.type = 'application/json';
    ctx.body = description;
  });
  return router;
}

function bindEndpoint(router: Router, parts: Parts, { endpoint, handle }: Handler): void {
  const bind = endpoint.method === 'GET' ? router.get.bind(router) : router.post.bind(router);
  bind(endpoint.path, async (ctx: Context) => {
    const who = endpoint.open ? null : await requireSession(ctx, parts);
    const answer = await handle({
      ctx,
      parts,
      who,
      params: checked(endpoint.params, (ctx as unknown as { params: unknown }).params, 'The address'),
      query: checked(endpoint.query, { ...ctx.query }, 'The address'),
      body: checked(endpoint.body, ctx.request.body ?? {}, 'What was sent'),
    });
    answerJson(ctx, parts, endpoint.out, answer);
  });
}

function bindAct(router: Router, parts: Parts, act: Act): void {
  const path = `/acts/${act.endpoint.name}`;
  router.post(path, async (ctx) => {
    const who = await requireSession(ctx, parts);
    const key = ctx.get('Idempotency-Key');
    if (!KEY.test(key)) throw new Refusals(400, [refuse('malformed', '', { what: 'The Idempotency-Key' })]);
    const answer = await runAct(parts.database, askedOf(act, ctx.request.body), doerOf(ctx, who), key);
    if (!answer.ok) return answerProblem(ctx, statusOf(answer.refusals), answer.refusals);
    parts.events.poke();
    if (act.endpoint === moveWorkDate) {
      parts.sessions.forget();
      parts.jobs.poke();
    }
    if (act.endpoint === startRepromise || act.endpoint === startPlanning) parts.runs.poke();
    ctx.set('Cache-Control', 'no-store');
    ctx.body = answer.result;
  });
  router.post(`${path}/preview`, async (ctx) => {
    const who = await requireSession(ctx, parts);
    const seen = await previewAct(parts.database, askedOf(act, ctx.request.body), doerOf(ctx, who));
    ctx.set('Cache-Control', 'no-store');
    ctx.body = {
      refusals: seen.refusals.map(refusalOut),
      warnings: seen.warnings.map(refusalOut),
      effects: seen.effects === null ? null : act.endpoint.shown.parse(plainJson(seen.effects)),
    };
  });
}

/** Effects as they travel: what the schema does not name is dropped by its parse. */
function plainJson(value: unknown): unknown {
  return JSON.parse(JSON.stringify(value));
}

/** An act asked for with what was sent, or refusals that name its bad fields. */
function askedOf(act: Act, sent: unknown): Asked {
  try {
    return act.asked(sent);
  } catch (error) {
    if (error instanceof z.ZodError) throw badInput(error, 'What was sent');
    throw error;
  }
}

function checked<S extends Schema>(schema: S, value: unknown, what: string): z.infer<S> {
  const read = schema.safeParse(value);
  if (read.success) return read.data;
  throw badInput(read.error, what);
}

/** Refusals for what a schema found wrong, the first twenty. // G3 G4 */
function badInput(error: z.ZodError, what: string): Refusals {
  return new Refusals(
    400,
    error.issues
      .slice(0, 20)
      .map((issue) =>
        issue.code === 'too_big' && typeof issue.maximum === 'number'
          ? refuse('too-long', issue.path.join('.'), { what: 'This', most: String(issue.maximum) })
          : refuse('malformed', issue.path.join('.'), { what }),
      ),
  );
}

/** The answer as JSON, written once: a body handed on as an object is written anew by each who asks how long it is. */
function answerJson(ctx: Context, { config }: Parts, schema: Schema, answer: unknown): void {
  const text = JSON.stringify(answer);
  if (config.CHECK_ANSWERS === 'yes') assertAsSaid(schema, text);
  ctx.set('Cache-Control', 'no-store');
  ctx.type = 'application/json';
  ctx.body = text;
}
