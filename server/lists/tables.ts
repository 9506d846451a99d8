import { table, type Row } from '../db';

export const listTurnTable = table('list_turn', {
  int: 'companyId turn=',
});

export const listViewTable = table('list_view', {
  int: 'companyId id= personId? keptBy',
  text: 'list name query columns',
});
export type ListView = Row<typeof listViewTable>;
