import { table, type Row } from '../db';

export const accountTable = table('account', {
  int: 'companyId id=',
  text: 'code name postingRole? sharesRole?',
});

export const journalTable = table('journal', {
  int: 'companyId id= documentId reversesId?',
  text: 'number documentKind reason=',
  boolean: 'opening=',
  day: 'postedOn documentDay?',
  time: 'createdAt=',
});
export type Journal = Row<typeof journalTable>;

export const journalEntryTable = table('journal_entry', {
  int: 'companyId id= journalId accountId customerId? vendorId?',
  text: 'currency?',
  decimal: 'amount foreignAmount?',
});

export const periodTable = table('period', {
  int: 'companyId',
  day: 'closedThrough?',
  time: 'closedAt?',
});

export const periodMoveTable = table('period_move', {
  int: 'companyId id= personId',
  text: 'reason=',
  day: 'month',
  boolean: 'closed',
  time: 'at=',
});

export const sealTable = table('seal', {
  int: 'id= throughId rowCount',
  text: 'kind',
  bytes: 'hash',
  time: 'at=',
});

export const sealTurnTable = table('seal_turn', {
  int: 'turn=',
  text: 'kind',
});
