import { passwordRefusals } from '@core/access';
import { personRefusals } from '@core/setup';
import { refuse } from '@core/refusals';
import * as contract from '@api/access';
import { answers, Refusals, type Answer, type Parts, type Request } from '../room';
import { commonPasswords } from './common-passwords';
import { ownToken, setSession } from './cookie';
import { hashPassword, passwordFits } from './passwords';
import { askSecondFactor, type Factored } from './second-factor';
import { beginSession, chooseCompany, markOf, readSession, sessionOut } from './sessions';
import { personRoleTable, personTable } from './tables';
import { newSecret, secretBytes, stepOf } from './totp';
import { trace } from './trace';
import { hashOf } from './token-hash';

/** Refuses where that is not the password of who asks; wrong ones are counted like sign-ins. */
async function ownPassword(
  { parts, ctx, who }: Pick<Request<typeof contract.changePassword>, 'parts' | 'ctx' | 'who'>,
  password: string,
  field: string,
): Promise<{ name: string; signIn: string }> {
  const [person] = await parts.database.rows<{ name: string; signIn: string; passwordHash: string }>(
    'SELECT name, sign_in, password_hash FROM person WHERE id = ?',
    [who!.personId],
  );
  const { minutes } = await parts.attempts.waitFor(person!.signIn, ctx.ip, null);
  if (minutes > 0) throw new Refusals(429, [refuse('too-many-attempts', field, { minutes: String(minutes) })]);
  if (!(await passwordFits(person!.passwordHash, password))) {
    throw new Refusals(422, [refuse('password-wrong', field, {})]);
  }
  await parts.attempts.succeeded(person!.signIn, ctx.ip, null);
  return person!;
}

const own = answers(contract.openOwn, async ({ ctx, parts, who }) => {
  const mine = markOf(ownToken(ctx, parts));
  const [person] = await parts.database.rows<{ secondFactor: number }>(
    'SELECT totp_secret IS NOT NULL AS second_factor FROM person WHERE id = ?',
    [who!.personId],
  );
  const sessions = await parts.database.rows<{ mark: string; company: string; begunAt: string; seenAt: string }>(
    `SELECT LOWER(HEX(SUBSTR(s.token_hash, 1, 4))) AS mark, c.name AS company, s.created_at AS begun_at, s.seen_at
       FROM session s JOIN company c ON c.id = s.company_id
      WHERE s.person_id = ? AND s.expires_at > ? AND s.seen_at > ? ORDER BY s.seen_at DESC`,
    [who!.personId, parts.clock.now(), new Date(parts.clock.now().getTime() - parts.config.IDLE_MINUTES * 60_000)],
  );
  return {
    secondFactor: person!.secondFactor === 1,
    sessions: sessions.map((session) => ({ ...session, this: session.mark === mine })),
  };
});

/** Ends sessions of a person but the one that asks; how many. */
async function endOthers({ database, sessions }: Parts, personId: number, keep: string, mark: string | null) {
  const ended = await database.run(
    `DELETE FROM session WHERE person_id = ? AND token_hash <> ?${mark === null ? '' : ' AND LOWER(HEX(SUBSTR(token_hash, 1, 4))) = ?'}`,
    [personId, hashOf(keep), ...(mark === null ? [] : [mark])],
  );
  sessions.forget();
  return ended;
}

const password = answers(contract.changePassword, async (asked) => {
  const { ctx, parts, who, body } = asked;
  const { name, signIn } = await ownPassword(asked, body.now, 'now');
  const refusals = passwordRefusals(body.then, 'then', [name, signIn], await commonPasswords());
  if (refusals.length > 0) throw new Refusals(422, refusals);
  await parts.database.run('UPDATE person SET password_hash = ? WHERE id = ?', [
    await hashPassword(body.then),
    who!.personId,
  ]);
  await trace(parts, ctx, 'password', who!);
  return { ended: await endOthers(parts, who!.personId, ownToken(ctx, parts), null) };
});

const endSessions = answers(contract.endOwnSession, async ({ ctx, parts, who, body }) => ({
  ended: await endOthers(parts, who!.personId, ownToken(ctx, parts), body.mark),
}));

const beginFactor = answers(contract.beginSecondFactor, async (asked) => {
  const { signIn } = await ownPassword(asked, asked.body.password, 'password');
  return newSecret(signIn);
});

const keepFactor = answers(contract.keepSecondFactor, async (asked) => {
  const { ctx, parts, who, body } = asked;
  await ownPassword(asked, body.password, 'password');
  if (body.secret === '') {
    await parts.database.run('UPDATE person SET totp_secret = NULL, totp_step = NULL WHERE id = ?', [who!.personId]);
    await trace(parts, ctx, 'factor', who!, 'turned off');
    return { secondFactor: false };
  }
  const secret = secretBytes(body.secret);
  const step = secret && stepOf(secret, body.code, parts.clock.now(), null);
  if (!secret || step === null) throw new Refusals(422, [refuse('code-wrong', 'code', {})]);
  await parts.database.run('UPDATE person SET totp_secret = ?, totp_step = ? WHERE id = ?', [
    secret,
    step,
    who!.personId,
  ]);
  await trace(parts, ctx, 'factor', who!, 'turned on');
  return { secondFactor: true };
});

interface Invited {
  companyId: number;
  id: number;
  name: string;
  roleId: number;
  company: string;
  role: string;
}

/** What a link invites to, where it still does. */
async function invited({ database, clock }: Parts, token: string): Promise<Invited> {
  const [found] = await database.rows<Invited>(
    `SELECT i.company_id, i.id, i.name, i.role_id, c.name AS company, r.name AS role FROM invitation i
       JOIN company c ON c.id = i.company_id JOIN role r ON r.company_id = i.company_id AND r.id = i.role_id
      WHERE i.token_hash = ? AND i.person_id IS NULL AND i.withdrawn = FALSE AND i.expires_at > ?`,
    [hashOf(token), clock.now()],
  );
  if (!found) throw new Refusals(422, [refuse('invitation-gone', '', {})]);
  return found;
}

const look = answers(contract.lookAtInvitation, async ({ parts, body }) => {
  const { company, role, name } = await invited(parts, body.token);
  return { company, role, name };
});

const join = answers(contract.join, async ({ ctx, parts, body }) => {
  const { database, clock, attempts, config } = parts;
  const { companyId, id, roleId, company } = await invited(parts, body.token);
  const name = body.signIn.trim().toLowerCase();
  const { minutes } = await attempts.waitFor(name, ctx.ip, null);
  if (minutes > 0) throw new Refusals(429, [refuse('too-many-attempts', 'password', { minutes: String(minutes) })]);
  const [known] = await database.rows<Factored & { passwordHash: string }>(
    'SELECT id, password_hash, totp_secret, totp_step FROM person WHERE sign_in = ? AND active = TRUE',
    [name],
  );
  // Who is there already comes as who they are; a name of somebody else's is taken.
  const same = known !== undefined && (await passwordFits(known.passwordHash, body.password));
  if (same) await askSecondFactor(parts, ctx, known, body.code, name, null);
  else {
    const taken = await database.rows<{ signIn: string }>('SELECT sign_in FROM person WHERE sign_in = ?', [name]);
    const signIns = taken.map(({ signIn }) => signIn);
    const refusals = personRefusals({ signIns, common: await commonPasswords() }, body, '');
    if (refusals.length > 0) throw new Refusals(422, refusals);
  }
  const passwordHash = same ? '' : await hashPassword(body.password);
  const personId = await database.transaction(async (tx) => {
    const [still] = await tx.rows(
      'SELECT id FROM invitation WHERE company_id = ? AND id = ? AND person_id IS NULL AND withdrawn = FALSE FOR UPDATE',
      [companyId, id],
    );
    if (!still) throw new Refusals(422, [refuse('invitation-gone', '', {})]);
    const [person] = same
      ? [known.id]
      : await tx.insert(personTable, [{ signIn: name, name: body.name.trim(), passwordHash }]);
    const [works] = await tx.rows('SELECT role_id AS id FROM person_role WHERE company_id = ? AND person_id = ?', [
      companyId,
      person!,
    ]);
    if (works) throw new Refusals(422, [refuse('works-here', 'signIn', { company })]);
    await tx.insertPlain(personRoleTable, [{ companyId, personId: person!, roleId }]);
    await tx.run('UPDATE invitation SET person_id = ? WHERE company_id = ? AND id = ?', [person!, companyId, id]);
    return person!;
  });
  await attempts.succeeded(name, ctx.ip, null);
  const token = (await beginSession(database, personId, clock))!;
  await chooseCompany(database, token, personId, companyId);
  setSession(ctx, parts, token);
  const signedIn = (await readSession(database, token, clock, config.IDLE_MINUTES))!;
  await trace(parts, ctx, 'signed-in', signedIn, 'by an invitation', token);
  return sessionOut(database, signedIn);
});

export const ownAnswers: readonly Answer[] = [own, password, endSessions, beginFactor, keepFactor, look, join];
