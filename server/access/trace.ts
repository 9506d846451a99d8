import type { Context } from 'koa';
import { sessionToken } from './cookie';
import { markOf } from './sessions';
import type { Parts, SignedIn } from '../room';

/** What is kept of comings and goings. */
export type Trace = 'signed-in' | 'refused' | 'waits' | 'signed-out' | 'company' | 'export' | 'password' | 'factor';

/** Keeps who did it, from where; a name that was only tried is kept as it was tried, shortened to 60 letters. */
export async function trace(
  parts: Parts,
  ctx: Context,
  what: Trace,
  who: { name: string } | SignedIn,
  detail = '',
  token = sessionToken(ctx, parts.config),
): Promise<void> {
  const known = 'personId' in who ? who : null;
  const name = 'personId' in who ? who.personName : who.name;
  await parts.database.run(
    'INSERT INTO access_log (what, name, person_id, company_id, origin, detail, session_mark) VALUES (?, ?, ?, ?, ?, ?, ?)',
    [
      what,
      [...name].slice(0, 60).join(''),
      known?.personId ?? null,
      known?.companyId ?? null,
      ctx.ip.slice(0, 64),
      detail.slice(0, 200),
      token === undefined ? null : markOf(token),
    ],
  );
}
