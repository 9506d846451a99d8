import * as contract from '@api/sisters';
import { answers, reads, type Room } from '../room';
import { sisterActs } from './acts';
import { peggingBeyond, threadBeyond } from './beyond';
import { checks } from './checks';
import { exchangeFiles, listDue } from './elsewhere';
import { sisterDays } from './days';
import { listHolds } from './hold';
import { listSisters, openSister } from './pairs';
import { reconcileSister } from './reconcile';
import { listTray, openOffer } from './tray';

/** What the room of sister companies has. */
export const room: Room = {
  acts: sisterActs,
  answers: [
    reads(contract.listTray, (sql, companyId, { query }) => listTray(sql, companyId, query)),
    reads(contract.openOffer, (sql, companyId, { params }) => openOffer(sql, companyId, params.id)),
    reads(contract.listDue, (sql, companyId, { query }) => listDue(sql, companyId, query)),
    reads(contract.listHolds, (sql, companyId, { params, workDate }) => listHolds(sql, companyId, workDate, params.id)),
    reads(contract.listSisters, (sql, companyId) => listSisters(sql, companyId)),
    reads(contract.openSister, (sql, companyId, { params }) => openSister(sql, companyId, params.id)),
    answers(contract.threadBeyond, ({ parts, who, params }) =>
      parts.database.snapshot((sql) => threadBeyond(sql, who!, params.id)),
    ),
    answers(contract.peggingBeyond, ({ parts, who, params }) =>
      parts.database.snapshot((sql) => peggingBeyond(sql, who!, params)),
    ),
    reads(contract.sisterDays, (sql, companyId, { body, workDate }) => sisterDays(sql, companyId, workDate, body)),
    reads(contract.reconcileSister, (sql, companyId, { params, workDate }) =>
      reconcileSister(sql, companyId, params.id, workDate),
    ),
  ],
  files: exchangeFiles,
  checks,
};
