import { table, type Row } from '../db';

export const listTurnTable = table('list_turn', {
  int: 'companyId turn=',
});

export const listViewTable = table('list_view', {
  int: 'companyId id= personId? keptBy',
  text: 'list name query columns',
});
export type ListView = Row<typeof listViewTable>;

export const bringInTable = table('bring_in', {
  int: 'companyId id= personId rowCount done= fresh= changed= alike= bad=',
  choice: 'state=:looking|ready|taking|taken|stopped',
  text: 'list fileName leftOut',
  boolean: 'goodOnly=',
  day: 'workDate',
  time: 'createdAt= beatAt?',
});
export type BringIn = Row<typeof bringInTable>;

export const bringInPartTable = table('bring_in_part', {
  int: 'companyId bringInId no',
  choice: 'doneIn=:nothing|looking|taking',
  text: 'content problems=',
});
