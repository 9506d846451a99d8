import { timingSafeEqual } from 'node:crypto';
import type { Context } from 'koa';
import { refuse } from '@core/refusals';
import { isSecure, type Config } from '../config';
import type { Doer } from '../acts';
import { KNOWN_DAYS } from './devices';
import { byToken } from './program-token';
import { Refusals, type Parts, type SignedIn } from '../room';

const TOKEN_HEADER = 'X-Kampong-Token';

/** A cookie's name; behind HTTPS one that no other host and no unencrypted page can set. (RFC 6265bis, `__Host-`) */
const nameOf = (config: Config, name: string) => (isSecure(config) ? `__Host-${name}` : name);

function setCookie(ctx: Context, parts: Parts, name: string, token: string | null, maxAge?: number): void {
  const secure = isSecure(parts.config);
  // HTTPS ends at the proxy: the cookie is for it all the same.
  ctx.cookies.secure = secure;
  ctx.cookies.set(nameOf(parts.config, name), token, {
    httpOnly: true,
    sameSite: 'strict',
    secure,
    path: '/',
    overwrite: true,
    ...(maxAge ? { maxAge } : {}),
  });
}

export const setSession = (ctx: Context, parts: Parts, token: string | null) => setCookie(ctx, parts, 'kampong', token);
export const sessionToken = (ctx: Context, config: Config) => ctx.cookies.get(nameOf(config, 'kampong'));

/** The token of the session a person came by; a program has none, and does nothing that is a session's. */
export function ownToken(ctx: Context, parts: Parts): string {
  const token = sessionToken(ctx, parts.config);
  if (token === undefined) throw new Refusals(401, [refuse('signed-out', '', {})]);
  return token;
}

export const setDevice = (ctx: Context, parts: Parts, token: string) =>
  setCookie(ctx, parts, 'kampong-device', token, KNOWN_DAYS * 86_400_000);
export const deviceToken = (ctx: Context, parts: Parts) => ctx.cookies.get(nameOf(parts.config, 'kampong-device'));

/** Whether somebody did something: a screen that listens, or reads again what others changed, is no person. */
const isUsed = (ctx: Context) => ctx.get('X-Kampong-Untouched') !== 'yes' && ctx.get('Accept') !== 'text/event-stream';

export async function signedInOf(ctx: Context, parts: Parts): Promise<SignedIn | null> {
  const token = sessionToken(ctx, parts.config);
  return token ? parts.sessions.of(token, isUsed(ctx)) : null;
}

/** Who is signed in, or a refusal; a post must bring the session's own token as well. */
export async function requireSession(ctx: Context, parts: Parts): Promise<SignedIn> {
  const program = /^Bearer ([\w-]{20,100})$/.exec(ctx.get('Authorization'));
  if (program) {
    const who = await byToken(parts, program[1]!);
    if (!who) throw new Refusals(401, [refuse('token-no-more', '', {})]);
    return who;
  }
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
