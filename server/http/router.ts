import Router from '@koa/router';
import type { Context } from 'koa';
import { refuse } from '@core/refusals';
import type { Schema } from '@api/kit';
import { doerOf, markOf, ownToken, requireSession, trace } from '../access';
import { previewAct, runAct, type Act } from '../acts';
import { askedOf, checked, Refusals, type Answer, type FileAnswer, type Parts, type Room } from '../room';
import { loadOf } from './load';
import { assertMatchesSchema } from './matches-schema';
import { redacted } from './redact';
import { openApi } from './openapi';
import { answerProblem, refusalOut, statusOf } from './problem';

type Admitted = ReturnType<typeof loadOf>;

const KEY = /^[\w-]{8,64}$/;

/** Binds what all rooms have under `/api`: files, reads, acts with their previews, events, and its own description. */
export function apiRouter(parts: Parts, rooms: readonly Room[]): Router {
  const router = new Router({ prefix: '/api' });
  const admitted = loadOf(parts.config, parts.metrics);
  // Files first: `/agreements.csv` is no `/agreements/:id`.
  for (const file of rooms.flatMap(({ files = [] }) => files)) bindFile(router, parts, file, admitted);
  const answers = rooms.flatMap((room) => room.answers ?? []);
  for (const answer of answers) bindEndpoint(router, parts, answer, admitted);
  for (const { acts = [], after = {} } of rooms) {
    for (const act of acts) bindAct(router, parts, act, after[act.endpoint.name], admitted);
  }
  bindEvents(router, parts);
  const description = JSON.stringify(
    openApi(
      answers.map(({ endpoint }) => endpoint),
      rooms.flatMap(({ acts = [] }) => acts).map(({ endpoint }) => endpoint),
    ),
  );
  router.get('/openapi.json', (ctx) => {
    ctx.type = 'application/json';
    ctx.body = description;
  });
  return router;
}

function bindEvents(router: Router, parts: Parts): void {
  router.get('/events', async (ctx) => {
    const who = await requireSession(ctx, parts);
    ctx.set({ 'Cache-Control': 'no-store', 'X-Accel-Buffering': 'no' });
    ctx.type = 'text/event-stream';
    ctx.compress = false;
    const token = ownToken(ctx, parts);
    const stream = parts.events.listen({
      companyId: who.companyId,
      personId: who.personId,
      mark: markOf(token),
      session: token,
      holds: async () => (await parts.sessions.of(token))?.companyId === who.companyId,
    });
    ctx.req.on('close', () => stream.destroy());
    ctx.body = stream;
  });
}

function bindFile(
  router: Router,
  parts: Parts,
  { path, open, needs, what, read }: FileAnswer,
  admitted: Admitted,
): void {
  router.get(path, admitted('file'), async (ctx) => {
    const who = open ? null : await requireSession(ctx, parts);
    if (needs && !who!.rights.includes(needs)) throw new Refusals(403, [refuse('no-right-to-see', '', {})]);
    const gone = new AbortController();
    ctx.res.once('close', () => gone.abort());
    const file = await read({ ctx, parts, who, signal: gone.signal });
    if (!file) throw new Refusals(404, [refuse('not-found', '', { what })]);
    if (who) await trace(parts, ctx, 'export', who, file.name);
    ctx.set('Cache-Control', 'no-store');
    ctx.set(
      'Content-Disposition',
      `${file.how}; filename="${file.name.replaceAll('"', '').replaceAll(/[/\\]/g, '-')}"`,
    );
    ctx.type = file.type;
    ctx.body = file.content;
  });
}

function bindEndpoint(router: Router, parts: Parts, { endpoint, handle }: Answer, admitted: Admitted): void {
  const kind = endpoint.open && endpoint.method === 'POST' ? 'sign-in' : 'read';
  const bind = endpoint.method === 'GET' ? router.get.bind(router) : router.post.bind(router);
  bind(endpoint.path, admitted(kind), async (ctx: Context) => {
    const who = endpoint.open ? null : await requireSession(ctx, parts);
    if (endpoint.needs && !who!.rights.some((right) => right === endpoint.needs)) {
      throw new Refusals(403, [refuse('no-right-to-see', '', {})]);
    }
    const answer = await handle({
      ctx,
      parts,
      who,
      params: checked(endpoint.params, (ctx as unknown as { params: unknown }).params, 'The address'),
      query: checked(endpoint.query, { ...ctx.query }, 'The address'),
      body: checked(endpoint.body, ctx.request.body ?? {}, 'What was sent'),
    });
    answerJson(ctx, parts, endpoint.out, who ? redacted(endpoint.out, answer, who.rights) : answer);
  });
}

function bindAct(
  router: Router,
  parts: Parts,
  act: Act,
  after: ((parts: Parts) => void) | undefined,
  admitted: Admitted,
): void {
  const path = `/acts/${act.endpoint.name}`;
  router.post(path, admitted('act'), async (ctx) => {
    const who = await requireSession(ctx, parts);
    const key = ctx.get('Idempotency-Key');
    if (!KEY.test(key)) throw new Refusals(400, [refuse('malformed', '', { what: 'The Idempotency-Key' })]);
    const answer = await runAct(parts.database, askedOf(act, ctx.request.body), doerOf(ctx, who), key);
    const outcome = !answer.ok ? 'refused' : answer.result.asked === undefined ? 'done' : 'asked';
    parts.metrics.acts.inc({ act: act.endpoint.name, outcome });
    if (!answer.ok) return answerProblem(ctx, statusOf(answer.refusals), answer.refusals);
    parts.events.poke();
    after?.(parts);
    ctx.set('Cache-Control', 'no-store');
    // Taken, and not done: it waits for a second person. (RFC 9110, 15.3.3)
    if (answer.result.asked !== undefined) ctx.status = 202;
    ctx.body = answer.result;
  });
  router.post(`${path}/preview`, admitted('read'), async (ctx) => {
    const who = await requireSession(ctx, parts);
    const seen = await previewAct(parts.database, askedOf(act, ctx.request.body), doerOf(ctx, who));
    ctx.set('Cache-Control', 'no-store');
    ctx.body = {
      refusals: seen.refusals.map(refusalOut),
      warnings: seen.warnings.map(refusalOut),
      effects:
        seen.effects === null
          ? null
          : redacted(act.endpoint.preview, act.endpoint.preview.parse(plainJson(seen.effects)), who.rights),
    };
  });
}

/** Effects as they travel: what the schema does not name is dropped by its parse. */
function plainJson(value: unknown): unknown {
  return JSON.parse(JSON.stringify(value));
}

/** The answer as JSON, written once: a body handed on as an object is written anew by each who asks how long it is. */
function answerJson(ctx: Context, { config }: Parts, schema: Schema, answer: unknown): void {
  const text = JSON.stringify(answer);
  if (config.CHECK_ANSWERS === 'yes') assertMatchesSchema(schema, text);
  ctx.set('Cache-Control', 'no-store');
  ctx.type = 'application/json';
  ctx.body = text;
}
