import { randomBytes } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import type { ServerResponse } from 'node:http';
import { join } from 'node:path';
import type { Middleware } from 'koa';
import serve from 'koa-static';

const NONCE_MARK = '__NONCE__';

/** The built web application: hashed files for a year, the page itself fresh each time with its own style nonce. */
export function webFiles(folder: string): { files: Middleware; page: Middleware } {
  const files = serve(folder, {
    index: false,
    setHeaders(response, path) {
      const hashed = /-[A-Z0-9]{8}\.\w+(\.br)?$/.test(path);
      response.setHeader('Cache-Control', hashed ? 'public, max-age=31536000, immutable' : 'no-cache');
    },
  });
  let template: string | undefined;
  const page: Middleware = async (ctx, next) => {
    if (ctx.method !== 'GET' || ctx.path.startsWith('/api') || /\.\w+$/.test(ctx.path)) return next();
    template ??= await readFile(join(folder, 'index.html'), 'utf8').catch(() => undefined);
    if (template === undefined) return next();
    ctx.type = 'html';
    ctx.set('Cache-Control', 'no-store');
    ctx.body = template.replaceAll(NONCE_MARK, nonceOf(ctx.res));
  };
  return { files, page };
}

const nonces = new WeakMap<ServerResponse, string>();

/** A fresh style nonce for each answer, before the security headers name it. */
export const withNonce: Middleware = (ctx, next) => {
  nonces.set(ctx.res, randomBytes(16).toString('base64'));
  return next();
};

export function nonceOf(response: ServerResponse): string {
  return nonces.get(response)!;
}
