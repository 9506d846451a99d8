import * as contract from '@api/rounds';
import { reads, type Room } from '../room';
import { dropRound, loadRun, saveRound, shipStop } from './acts';
import { roundAddresses, roundsOf, runSheet } from './reads';

/** What the room of delivery rounds has. */
export const room: Room = {
  acts: [saveRound, dropRound, loadRun, shipStop],
  answers: [
    reads(contract.listRounds, async (sql, companyId, { workDate }) => ({
      rows: await roundsOf(sql, companyId, workDate),
    })),
    reads(contract.roundAddresses, (sql, companyId, { query }) => roundAddresses(sql, companyId, query.q)),
    reads(contract.runSheet, (sql, companyId, { params, workDate }) => runSheet(sql, companyId, workDate, params)),
  ],
};
