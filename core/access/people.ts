import type { Day } from '@core/kernel';
import { isDay, sameText } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';

/** Somebody who works in the company, as far as letting them work asks. */
export interface PersonNow {
  id: number;
  name: string;
  roleId: number;
  outOfUse: boolean;
}

export interface RoleNow {
  id: number;
  name: string;
  rights: readonly string[];
}

/** People and roles of a company, as they are. */
export interface PeopleGround {
  people: readonly PersonNow[];
  roles: readonly RoleNow[];
  /** What whoever asks may do themselves: nobody gives what they have not. */
  own: readonly string[];
  personId: number;
}

/** Days a link may hold for. */
export const MOST_INVITED_DAYS = 30;

/** A word's SHA-256 in hex: the word itself is nobody's but whose it is. */
const hashRefusals = (hash: string, field: string): Refusal[] =>
  /^[0-9a-f]{64}$/.test(hash) ? [] : [refuse('malformed', field, { what: 'The word' })];

const nameRefusals = (name: string, what: string, most: number): Refusal[] => {
  if (name.trim() === '') return [refuse('required', 'name', { what })];
  return name.trim().length > most ? [refuse('too-long', 'name', { what, most: String(most) })] : [];
};

/** Rights that are given away by somebody who has not got them. // U4 */
const beyondOwn = (rights: readonly string[], own: readonly string[], field: string): Refusal[] => {
  const beyond = rights.filter((right) => !own.includes(right));
  return beyond.length === 0 ? [] : [refuse('right-not-own', field, { rights: beyond.join(', ') })];
};

/** Invites somebody into a role, by a link that holds for some days. // U4 */
export function decideInvite(
  { roles, own }: PeopleGround,
  typed: { name: string; roleId: number; days: number; tokenHash: string },
): Decision<{ name: string; roleId: number; days: number }> {
  const role = roles.find(({ id }) => id === typed.roleId);
  return decided(
    [
      ...nameRefusals(typed.name, 'The name', 120),
      ...(role ? beyondOwn(role.rights, own, 'roleId') : [refuse('unknown', 'roleId', { what: 'The role' })]),
      ...(typed.days >= 1 && typed.days <= MOST_INVITED_DAYS
        ? []
        : [refuse('days-between', 'days', { what: 'The link', least: '1', most: String(MOST_INVITED_DAYS) })]),
      ...hashRefusals(typed.tokenHash, 'tokenHash'),
    ],
    () => ({ name: typed.name.trim(), roleId: typed.roleId, days: typed.days }),
  );
}

/** Whether somebody would be left who keeps people. */
function keeperLeft(people: readonly PersonNow[], roles: readonly RoleNow[]): boolean {
  const keeping = new Set(roles.filter(({ rights }) => rights.includes('people')).map(({ id }) => id));
  return people.some(({ roleId, outOfUse }) => !outOfUse && keeping.has(roleId));
}

/** Gives somebody another role, puts them out of use, or takes them back: never oneself, and never the last who keeps people. // U4 */
export function decideChangePerson(
  { people, roles, own, personId }: PeopleGround,
  typed: { personId: number; roleId: number; outOfUse: boolean },
): Decision<{ personId: number; roleId: number; outOfUse: boolean; ends: boolean }> {
  const now = people.find(({ id }) => id === typed.personId);
  const role = roles.find(({ id }) => id === typed.roleId);
  if (!now) return decided([refuse('unknown', 'personId', { what: 'This person' })], () => ({ ...typed, ends: false }));
  const then = people.map((each) => (each.id === typed.personId ? { ...each, ...typed } : each));
  return decided(
    [
      ...(role ? [] : [refuse('unknown', 'roleId', { what: 'The role' })]),
      ...(role && role.id !== now.roleId ? beyondOwn(role.rights, own, 'roleId') : []),
      ...(typed.personId === personId ? [refuse('not-oneself', '', {})] : []),
      ...(role && !keeperLeft(then, roles) ? [refuse('last-keeper', '', {})] : []),
    ],
    () => ({ ...typed, ends: typed.outOfUse && !now.outOfUse }),
  );
}

/** Makes a role, or changes what its people may do. // U4 */
export function decideKeepRole(
  { people, roles, own }: PeopleGround,
  typed: { id: number | null; name: string; rights: readonly string[] },
): Decision<{ id: number | null; name: string; rights: string[] }> {
  const now = typed.id === null ? null : (roles.find(({ id }) => id === typed.id) ?? null);
  const then = roles.map((role) => (role.id === typed.id ? { ...role, rights: typed.rights } : role));
  const more = typed.rights.filter((right) => !now?.rights.includes(right));
  return decided(
    [
      ...(typed.id !== null && !now ? [refuse('unknown', '', { what: 'This role' })] : []),
      ...nameRefusals(typed.name, 'The name of the role', 60),
      ...(roles.some(({ id, name }) => id !== typed.id && sameText(name) === sameText(typed.name.trim()))
        ? [refuse('said-twice', 'name', { what: 'role', name: typed.name.trim() })]
        : []),
      ...beyondOwn(more, own, 'rights'),
      ...(keeperLeft(people, then) ? [] : [refuse('last-keeper', 'rights', {})]),
    ],
    () => ({ id: typed.id, name: typed.name.trim(), rights: [...typed.rights] }),
  );
}

/** A token for a program: rights of whoever makes it, until a day. // U4 */
export function decideMakeToken(
  own: readonly string[],
  typed: { name: string; rights: readonly string[]; lastDay: Day | null; tokenHash: string },
  workDate: Day,
): Decision<{ name: string; rights: string[]; lastDay: Day }> {
  const { lastDay } = typed;
  return decided(
    [
      ...nameRefusals(typed.name, 'The name of the program', 60),
      ...(typed.rights.length === 0 ? [refuse('required', 'rights', { what: 'A right' })] : []),
      ...beyondOwn(typed.rights, own, 'rights'),
      ...(lastDay === null || !isDay(lastDay)
        ? [refuse('not-a-day', 'lastDay', { what: 'The last day' })]
        : lastDay < workDate
          ? [refuse('days-order', 'lastDay', { what: 'The last day', day: lastDay, earliest: workDate })]
          : []),
      ...hashRefusals(typed.tokenHash, 'tokenHash'),
    ],
    () => ({ name: typed.name.trim(), rights: [...typed.rights], lastDay: lastDay! }),
  );
}
