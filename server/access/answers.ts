import { refuse } from '@core/refusals';
import * as contract from '@api/access';
import { answers, Refusals, type Answer } from '../room';
import { deviceToken, ownToken, sessionToken, setDevice, setSession, signedInOf } from './cookie';
import { deviceOf, keepDevice } from './devices';
import { passwordFits } from './passwords';
import { askSecondFactor, type Factored } from './second-factor';
import { beginSession, chooseCompany, endSession, readSession, sessionOut } from './sessions';
import { trace } from './trace';

const signIn = answers(contract.signIn, async ({ ctx, parts, body }) => {
  const { database, attempts, clock } = parts;
  const name = body.signIn.trim().toLowerCase();
  const was = deviceToken(ctx, parts);
  const device = await deviceOf(database, was, name);
  const { minutes, begins } = await attempts.waitFor(name, ctx.ip, device);
  if (minutes > 0) {
    // Once for each wait: who goes on trying fills no log that nobody can empty.
    if (begins) await trace(parts, ctx, 'waits', { name });
    throw new Refusals(429, [refuse('too-many-attempts', 'password', { minutes: String(minutes) })]);
  }
  const [person] = await database.rows<Factored & { passwordHash: string }>(
    'SELECT id, password_hash, totp_secret, totp_step FROM person WHERE sign_in = ? AND active = TRUE',
    [name],
  );
  const fits = await passwordFits(person?.passwordHash, body.password);
  if (fits) await askSecondFactor(parts, ctx, person!, body.code, name, device);
  const token = fits ? await beginSession(database, person!.id, clock) : null;
  if (!token) {
    await trace(parts, ctx, 'refused', { name });
    throw new Refusals(422, [refuse('wrong-sign-in', 'password', {})]);
  }
  await attempts.succeeded(name, ctx.ip, device);
  setSession(ctx, parts, token);
  setDevice(ctx, parts, await keepDevice(database, was, person!.id, clock));
  const signedIn = await readSession(database, token, clock, parts.config.IDLE_MINUTES);
  await trace(parts, ctx, 'signed-in', signedIn!, device === null ? 'on a device that was not known' : '', token);
  return sessionOut(database, signedIn!);
});

const signOut = answers(contract.signOut, async ({ ctx, parts }) => {
  const who = await signedInOf(ctx, parts);
  const token = sessionToken(ctx, parts.config) ?? '';
  await endSession(parts.database, token);
  if (who) await trace(parts, ctx, 'signed-out', who);
  parts.sessions.forget();
  await parts.events.recheck(token);
  setSession(ctx, parts, null);
  return {};
});

const session = answers(contract.session, async ({ ctx, parts }) => {
  const signedIn = await signedInOf(ctx, parts);
  return { session: signedIn && (await sessionOut(parts.database, signedIn)) };
});

const company = answers(contract.chooseCompany, async ({ ctx, parts, body, who }) => {
  const token = ownToken(ctx, parts);
  if (!(await chooseCompany(parts.database, token, who!.personId, body.companyId))) {
    throw new Refusals(403, [refuse('no-right', 'companyId', { act: 'work in this company' })]);
  }
  parts.sessions.forget();
  await parts.events.recheck(token);
  const signedIn = await parts.sessions.of(token);
  await trace(parts, ctx, 'company', signedIn!);
  return sessionOut(parts.database, signedIn!);
});

export const accessAnswers: readonly Answer[] = [signIn, signOut, session, company];
