import type Koa from 'koa';
import proxyAddr from 'proxy-addr';
import type { Config } from '../config';

const FORWARDED = ['x-forwarded-for', 'x-forwarded-proto', 'x-forwarded-host'];

/**
 * Whom a request came from: the nearest address that is no trusted proxy. What anybody else says about it is dropped,
 * so that nobody passes for another address.
 */
export function fromProxies({ TRUSTED_PROXIES }: Config): Koa.Middleware {
  const trusted = proxyAddr.compile(TRUSTED_PROXIES);
  return (ctx, next) => {
    const near = ctx.req.socket.remoteAddress ?? '';
    if (!trusted(near, 0)) for (const name of FORWARDED) delete ctx.req.headers[name];
    ctx.request.ip = proxyAddr(ctx.req, trusted);
    return next();
  };
}
