import { table } from '../db';

export const listTurnTable = table('list_turn', {
  int: 'companyId turn=',
});
