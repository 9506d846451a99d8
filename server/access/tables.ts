import { table, type Row } from '../db';

export const personTable = table('person', {
  int: 'id=',
  text: 'signIn name passwordHash',
  boolean: 'active=',
});

export const personRoleTable = table('person_role', {
  int: 'companyId personId roleId',
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
