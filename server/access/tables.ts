import { table, type Row } from '../db';

export const personTable = table('person', {
  int: 'id= totpStep?',
  text: 'signIn name passwordHash',
  boolean: 'active=',
  bytes: 'totpSecret?',
});

export const personRoleTable = table('person_role', {
  int: 'companyId personId roleId',
  boolean: 'outOfUse=',
});

export const invitationTable = table('invitation', {
  int: 'companyId id= roleId invitedBy personId?',
  text: 'name',
  boolean: 'withdrawn=',
  time: 'createdAt= expiresAt',
  bytes: 'tokenHash',
});

export const programTokenTable = table('program_token', {
  int: 'companyId id= personId',
  text: 'name rights',
  boolean: 'ended=',
  day: 'lastDay',
  time: 'createdAt= usedAt?',
  bytes: 'tokenHash',
});

export const roleTable = table('role', {
  int: 'companyId id=',
  text: 'name rights',
});

export const sessionTable = table('session', {
  int: 'personId companyId',
  text: 'csrf',
  time: 'createdAt= expiresAt seenAt=',
  bytes: 'tokenHash',
});

export const accessLogTable = table('access_log', {
  int: 'id= personId? companyId?',
  text: 'what name origin detail= sessionMark?',
  time: 'at=',
});

export type AccessLog = Row<typeof accessLogTable>;

export const knownDeviceTable = table('known_device', {
  int: 'personId',
  time: 'seenAt',
  bytes: 'tokenHash',
});

export const signInAttemptTable = table('sign_in_attempt', {
  int: 'points= expire?',
  text: 'key',
});
