import { timingSafeEqual } from 'node:crypto';
import type { Context } from 'koa';
import { refuse } from '@core/refusals';
import type { Doer } from '../acts';
import { Refusals, type Parts, type SignedIn } from '../room';

export const COOKIE = 'kampong';
const TOKEN_HEADER = 'X-Kampong-Token';

export function setCookie(ctx: Context, parts: Parts, token: string | null): void {
  ctx.cookies.set(COOKIE, token, {
    httpOnly: true,
    sameSite: 'strict',
    secure: parts.config.SECURE_COOKIE === 'yes',
    // Behind HTTPS the proxy ends the encryption; the cookie is still marked for it.
    ...(parts.config.SECURE_COOKIE === 'yes' ? { secureProxy: true } : {}),
    path: '/',
    overwrite: true,
  } as Parameters<Context['cookies']['set']>[2]);
}

export async function signedInOf(ctx: Context, parts: Parts): Promise<SignedIn | null> {
  const token = ctx.cookies.get(COOKIE);
  return token ? parts.sessions.of(token) : null;
}

/** Who is signed in, or a refusal; a post must bring the session's own token as well. */
export async function requireSession(ctx: Context, parts: Parts): Promise<SignedIn> {
  const signedIn = await signedInOf(ctx, parts);
  if (!signedIn) throw new Refusals(401, [refuse('signed-out', '', {})]);
  if (ctx.method !== 'GET' && !sameToken(ctx.get(TOKEN_HEADER), signedIn.csrf)) {
    throw new Refusals(401, [refuse('signed-out', '', {})]);
  }
  return signedIn;
}

function sameToken(sent: string, kept: string): boolean {
  const a = Buffer.from(sent);
  const b = Buffer.from(kept);
  return a.length === b.length && timingSafeEqual(a, b);
}

export function doerOf(ctx: Context, signedIn: SignedIn): Doer {
  return {
    companyId: signedIn.companyId,
    personId: signedIn.personId,
    rights: signedIn.rights,
    workDate: signedIn.workDate,
    origin: ctx.ip.slice(0, 64),
  };
}
