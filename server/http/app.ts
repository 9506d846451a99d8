import { bodyParser } from '@koa/bodyparser';
import Koa, { type Context } from 'koa';
import compress from 'koa-compress';
import helmet from 'koa-helmet';
import { randomUUID } from 'node:crypto';
import { constants } from 'node:zlib';
import { refuse } from '@core/refusals';
import { FIT_TEXT } from '../db';
import { sessionToken } from '../access';
import type { Parts, Room } from '../room';
import { isSecure, type Config } from '../config';
import { answerProblem, errorExit, referenceOf } from './problem';
import { fromProxies } from './proxy';
import { apiRouter } from './router';
import { nonceOf, webFiles, withNonce } from './static';

/** The whole application, not yet listening. */
export function createApp(parts: Parts, rooms: readonly Room[]): Koa {
  const app = new Koa();
  app.silent = true;
  app.use(fromProxies(parts.config));
  app.use(logged(parts));
  app.use(errorExit(parts.log));
  app.use(withNonce);
  app.use(securityHeaders(parts.config));
  app.use(
    compress({
      threshold: 1400,
      br: { params: { [constants.BROTLI_PARAM_QUALITY]: 5 } },
    }),
  );
  app.use(health(parts));
  app.use(bodies(parts.config));
  const api = apiRouter(parts, rooms);
  app.use(api.routes());
  const { files, page } = webFiles(parts.config.WEB_DIR);
  app.use(async (ctx, next) => {
    if (!ctx.path.startsWith('/api')) return next();
    answerProblem(ctx, 404, [refuse('not-found', '', { what: 'This address' })]);
  });
  app.use(files);
  app.use(page);
  return app;
}

/** What is sent; a whole file of masters by who is signed in, all else is small. */
function bodies(config: Config): Koa.Middleware {
  const small = bodyParser({ enableTypes: ['json'], jsonLimit: '5mb' });
  const file = bodyParser({ enableTypes: ['json'], jsonLimit: '40mb' });
  return (ctx, next) =>
    (ctx.path === '/api/bring-in' && sessionToken(ctx, config) !== undefined ? file : small)(ctx, next);
}

const YEAR_SECONDS = 31_536_000;

const securityHeaders = (config: Config) =>
  helmet({
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'self'"],
        styleSrc: ["'self'", (_, response) => `'nonce-${nonceOf(response)}'`],
        imgSrc: ["'self'", 'data:'],
        fontSrc: ["'self'", 'data:'],
        objectSrc: ["'none'"],
        baseUri: ["'self'"],
        formAction: ["'self'"],
        frameAncestors: ["'none'"],
      },
    },
    crossOriginEmbedderPolicy: false,
    strictTransportSecurity: isSecure(config) && { maxAge: YEAR_SECONDS, includeSubDomains: false },
    referrerPolicy: { policy: 'same-origin' },
  }) as Koa.Middleware;

/**
 * Gives each request a name of eight letters, which its refusals show, and logs how it went: never what was asked for
 * in its query or body.
 */
function logged({ log, clock, metrics }: Parts): Koa.Middleware {
  return async (ctx, next) => {
    const begun = clock.now().getTime();
    ctx.state['reference'] = randomUUID().slice(0, 8);
    ctx.set('X-Request-Id', referenceOf(ctx));
    await next();
    const ms = clock.now().getTime() - begun;
    const { status, method } = ctx;
    const route = (ctx['_matchedRoute'] as string | undefined) ?? 'page';
    metrics.requests.observe({ method, route, status: String(status) }, ms / 1000);
    log.info({ reference: referenceOf(ctx), method, path: ctx.path, status, ms, from: ctx.ip }, 'answered');
  };
}

/** `/healthz`: the process answers. `/readyz`: the database does too, and is the one this program was written for. */
function health({ fit }: Parts): Koa.Middleware {
  const answer = (ctx: Context, status: number, text: string) => {
    ctx.status = status;
    ctx.body = { status: text };
  };
  return async (ctx, next) => {
    if (ctx.path === '/healthz') return answer(ctx, 200, 'up');
    if (ctx.path !== '/readyz') return next();
    await fit().then(
      (found) => (found === 'fits' ? answer(ctx, 200, 'ready') : answer(ctx, 503, FIT_TEXT[found])),
      () => answer(ctx, 503, 'the database cannot be reached'),
    );
  };
}
