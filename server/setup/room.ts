import * as contract from '@api/setup';
import { reads, type Room } from '../room';
import { beginAnswers } from './begin';
import { missing } from './missing';

/** What the setup room has. */
export const room: Room = {
  answers: [...beginAnswers, reads(contract.missing, (sql, companyId) => missing(sql, companyId))],
};
