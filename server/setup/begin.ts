import { decideBegin, type BeginEffects, type BeginGround, type BeginTyped } from '@core/setup';
import { refuse } from '@core/refusals';
import * as contract from '@api/setup';
import {
  beginSession,
  chooseCompany,
  commonPasswords,
  ownToken,
  readSession,
  sessionOut,
  setSession,
  trace,
} from '../access';
import type { Sql, Tx } from '../db';
import { answers, Refusals, type Answer } from '../room';
import { furnish, giveRole, makeCompany, makePerson, OWNER } from './company';
import { takeFirstWord } from './first-word';

/** Colours that tell companies apart, in turn. */
const TINTS = ['#0d5552', '#6b3f1d', '#40345e', '#5b2a3c', '#24476b', '#4d5a1f'];

async function groundOf(sql: Sql): Promise<BeginGround> {
  const companies = await sql.rows<{ code: string }>('SELECT code FROM company');
  const people = await sql.rows<{ signIn: string }>('SELECT sign_in FROM person');
  return {
    codes: companies.map(({ code }) => code),
    signIns: people.map(({ signIn }) => signIn),
    currencies: Intl.supportedValuesOf('currency'),
    timeZones: ['UTC', ...Intl.supportedValuesOf('timeZone')],
    common: await commonPasswords(),
  };
}

/** A company with all it begins with, and whoever owns it; its id. */
async function makeWhole(tx: Tx, begun: BeginEffects, count: number, owner: number): Promise<number> {
  const { name, code, currency, timeZone, ...paper } = begun.company;
  const { companyId, roles } = await makeCompany(tx, {
    name,
    code: code.toUpperCase(),
    currency,
    timeZone,
    tint: TINTS[count % TINTS.length]!,
    demo: false,
    week: begun.week,
    accounts: begun.accounts,
    paper: { ...paper, country: paper.country.toUpperCase() },
  });
  await furnish(tx, companyId, begun);
  await giveRole(tx, owner, companyId, roles.get(OWNER)!);
  return companyId;
}

/** What was decided, or its refusals to whoever asks. */
function orRefused(ground: BeginGround, typed: BeginTyped, person: Parameters<typeof decideBegin>[2]): BeginEffects {
  const decision = decideBegin(ground, typed, person);
  if (!decision.ok) throw new Refusals(422, decision.refusals);
  return decision.effects;
}

const visit = answers(contract.firstVisit, async ({ parts }) => {
  const [kept] = await parts.database.rows('SELECT 1 AS n FROM first_visit');
  return { awaited: kept !== undefined };
});

const begin = answers(contract.beginCompany, async ({ ctx, parts, body }) => {
  const { database, clock, config, attempts } = parts;
  const { word, person, ...typed } = body;
  // A word is tried as seldom as a password is.
  const { minutes } = await attempts.waitFor('first visit', ctx.ip, null);
  if (minutes > 0) throw new Refusals(429, [refuse('too-many-attempts', 'word', { minutes: String(minutes) })]);
  const personId = await database
    .transaction(async (tx) => {
      const fits = await takeFirstWord(tx, word);
      if (fits === 'begun') throw new Refusals(409, [refuse('begun-already', '', {})]);
      if (fits === 'wrong') throw new Refusals(422, [refuse('first-word-wrong', 'word', {})]);
      const begun = orRefused(await groundOf(tx), typed, person);
      const id = await makePerson(tx, {
        name: person.name.trim(),
        signIn: person.signIn.trim(),
        password: person.password,
      });
      await makeWhole(tx, begun, 0, id);
      await tx.run('DELETE FROM first_visit', []);
      return id;
    })
    .catch(async (error: unknown) => {
      // The word fitted: what else was wrong counts for no try.
      const wrongWord = error instanceof Refusals && error.refusals.some(({ code }) => code === 'first-word-wrong');
      if (!wrongWord) await attempts.succeeded('first visit', ctx.ip, null);
      throw error;
    });
  await attempts.succeeded('first visit', ctx.ip, null);
  const token = (await beginSession(database, personId, clock))!;
  setSession(ctx, parts, token);
  const signedIn = (await readSession(database, token, clock, config.IDLE_MINUTES))!;
  await trace(parts, ctx, 'signed-in', signedIn, 'as the first visitor', token);
  return sessionOut(database, signedIn);
});

const next = answers(contract.beginNextCompany, async ({ ctx, parts, body, who }) => {
  const companyId = await parts.database.transaction(async (tx) => {
    // One at a time: of two of one short name the second is told.
    const companies = await tx.rows('SELECT id FROM company FOR UPDATE');
    const begun = orRefused(await groundOf(tx), body, null);
    return makeWhole(tx, begun, companies.length, who!.personId);
  });
  const token = ownToken(ctx, parts);
  await chooseCompany(parts.database, token, who!.personId, companyId);
  parts.sessions.forget();
  await parts.events.recheck(token);
  const signedIn = (await parts.sessions.of(token))!;
  await trace(parts, ctx, 'company', signedIn, 'which is new');
  return sessionOut(parts.database, signedIn);
});

export const beginAnswers: readonly Answer[] = [visit, begin, next];
