import type Koa from 'koa';
import proxyAddr from 'proxy-addr';
import type { Config } from '../config';

/**
 * Whom a request came from: the nearest address that is no trusted proxy. What anybody else says about it counts for
 * nothing, so that nobody passes for another address.
 */
export function fromProxies({ TRUSTED_PROXIES }: Config): Koa.Middleware {
  const trusted = proxyAddr.compile(TRUSTED_PROXIES);
  return (ctx, next) => {
    ctx.request.ip = proxyAddr(ctx.req, trusted);
    return next();
  };
}
