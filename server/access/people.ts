import {
  decideChangePerson,
  decideInvite,
  decideKeepRole,
  decideMakeToken,
  type PeopleGround,
  type PersonNow,
} from '@core/access';
import { decided } from '@core/refusals';
import * as contract from '@api/access';
import { defineAct, orNotFound, type Doer } from '../acts';
import type { Sql } from '../db';
import { invitationTable, programTokenTable, roleTable } from './tables';

const NOTHING = { made: [], touched: [] };

/** People and roles of a company; one keeper of people at a time, so that two never leave nobody who keeps them. */
async function groundOf(sql: Sql, { companyId, personId, rights }: Doer): Promise<PeopleGround> {
  const roles = await sql.rows<{ id: number; name: string; rights: string }>(
    `SELECT id, name, rights FROM role WHERE company_id = ? ORDER BY id ${sql.forUpdate}`,
    [companyId],
  );
  const people = await sql.rows<PersonNow>(
    `SELECT p.id, p.name, pr.role_id, pr.out_of_use FROM person_role pr JOIN person p ON p.id = pr.person_id AND p.active = TRUE
      WHERE pr.company_id = ?`,
    [companyId],
  );
  return {
    people,
    roles: roles.map((role) => ({ ...role, rights: JSON.parse(role.rights) as string[] })),
    own: rights,
    personId,
  };
}

const bytesOf = (hex: string) => Buffer.from(hex, 'hex');

export const invitePerson = defineAct(contract.invitePerson, {
  right: 'people',
  says: 'invite people',
  done: 'invited',
  load: (sql, _input, doer) => groundOf(sql, doer),
  decide: (ground, input) => decideInvite(ground, input),
  preview: ({ name }) => ({ name }),
  async write(tx, { name, roleId, days }, _ground, { companyId, personId }, { tokenHash }) {
    await tx.insert(invitationTable, [
      {
        companyId,
        tokenHash: bytesOf(tokenHash),
        name,
        roleId,
        invitedBy: personId,
        expiresAt: new Date(Date.now() + days * 86_400_000),
      },
    ]);
    return NOTHING;
  },
});

export const withdrawInvitation = defineAct(contract.withdrawInvitation, {
  right: 'people',
  says: 'withdraw invitations',
  done: 'invitation withdrawn',
  async load(sql, { id }, { companyId }) {
    const [row] = await sql.rows<{ name: string }>(
      `SELECT name FROM invitation WHERE company_id = ? AND id = ? AND person_id IS NULL ${sql.forUpdate}`,
      [companyId, id],
    );
    return orNotFound(row, 'This invitation');
  },
  decide: ({ name }) => decided([], () => ({ name })),
  preview: ({ name }) => ({ name }),
  async write(tx, _effects, _ground, { companyId }, { id }) {
    await tx.run('UPDATE invitation SET withdrawn = TRUE WHERE company_id = ? AND id = ?', [companyId, id]);
    return NOTHING;
  },
});

export const changePerson = defineAct(contract.changePerson, {
  right: 'people',
  says: 'change what people may do',
  done: 'person changed',
  load: (sql, _input, doer) => groundOf(sql, doer),
  decide: (ground, input) => decideChangePerson(ground, input),
  preview: ({ personId }, { people }) => ({ name: people.find(({ id }) => id === personId)!.name }),
  async write(tx, { personId, roleId, outOfUse, ends }, _ground, { companyId }) {
    await tx.run('UPDATE person_role SET role_id = ?, out_of_use = ? WHERE company_id = ? AND person_id = ?', [
      roleId,
      outOfUse,
      companyId,
      personId,
    ]);
    if (ends) await tx.run('DELETE FROM session WHERE person_id = ? AND company_id = ?', [personId, companyId]);
    return NOTHING;
  },
});

export const keepRole = defineAct(contract.keepRole, {
  right: 'people',
  says: 'keep roles',
  done: 'role kept',
  load: (sql, _input, doer) => groundOf(sql, doer),
  decide: (ground, input) => decideKeepRole(ground, input),
  preview: ({ name }) => ({ name }),
  async write(tx, { id, name, rights }, _ground, { companyId }) {
    if (id === null) await tx.insert(roleTable, [{ companyId, name, rights: JSON.stringify(rights) }]);
    else {
      await tx.run('UPDATE role SET name = ?, rights = ? WHERE company_id = ? AND id = ?', [
        name,
        JSON.stringify(rights),
        companyId,
        id,
      ]);
    }
    return NOTHING;
  },
});

export const makeToken = defineAct(contract.makeToken, {
  right: 'people',
  says: 'make tokens for programs',
  done: 'token made',
  load: (_sql, _input, { rights }) => Promise.resolve(rights),
  decide: (own, input, { workDate }) => decideMakeToken(own, input, workDate),
  preview: ({ name }) => ({ name }),
  async write(tx, { name, rights, lastDay }, _ground, { companyId, personId }, { tokenHash }) {
    await tx.insert(programTokenTable, [
      { companyId, tokenHash: bytesOf(tokenHash), name, rights: JSON.stringify(rights), lastDay, personId },
    ]);
    return NOTHING;
  },
});

export const endToken = defineAct(contract.endToken, {
  right: 'people',
  says: 'end tokens of programs',
  done: 'token ended',
  async load(sql, { id }, { companyId }) {
    const [row] = await sql.rows<{ name: string }>(
      `SELECT name FROM program_token WHERE company_id = ? AND id = ? ${sql.forUpdate}`,
      [companyId, id],
    );
    return orNotFound(row, 'This token');
  },
  decide: ({ name }) => decided([], () => ({ name })),
  preview: ({ name }) => ({ name }),
  async write(tx, _effects, _ground, { companyId }, { id }) {
    await tx.run('UPDATE program_token SET ended = TRUE WHERE company_id = ? AND id = ?', [companyId, id]);
    return NOTHING;
  },
});

export const peopleActs = [invitePerson, withdrawInvitation, changePerson, keepRole, makeToken, endToken];
