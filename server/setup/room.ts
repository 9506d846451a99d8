import * as contract from '@api/setup';
import { reads, type Room } from '../room';
import { archiveFile } from './archive';
import { beginAnswers } from './begin';
import { missing } from './missing';
import { keepSeries, listSeries } from './numbers';

/** What the setup room has. */
export const room: Room = {
  acts: [keepSeries],
  files: [archiveFile],
  answers: [
    ...beginAnswers,
    reads(contract.missing, (sql, companyId) => missing(sql, companyId)),
    reads(contract.listSeries, (sql, companyId) => listSeries(sql, companyId)),
  ],
};
