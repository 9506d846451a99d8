import * as ledger from '@api/ledger';
import { reads, type Room } from '../room';
import { listAccounts, listEntries } from './accounts';
import { listChanges } from './changes';
import { checks } from './checks';
import { openPeriods, periodActs } from './periods';
import { openTrail } from './reads';
import { broken } from './seal';
import { stockEntries } from './stock-entries';

/** What the ledger room has. */
export const room: Room = {
  answers: [
    reads(ledger.openTrail, (sql, companyId, { params }) => openTrail(sql, companyId, params.kind, params.id)),
    reads(ledger.listChanges, (sql, companyId, { query, workDate }) => listChanges(sql, companyId, query, workDate)),
    reads(ledger.openPeriods, (sql, companyId, { workDate }) => openPeriods(sql, companyId, workDate)),
    reads(ledger.listAccounts, (sql, companyId, { query, workDate }) =>
      listAccounts(sql, companyId, query.days, workDate),
    ),
    reads(ledger.listEntries, (sql, companyId, { params, query, workDate }) =>
      listEntries(sql, companyId, params.id, query, workDate),
    ),
    reads(ledger.stockEntries, (sql, companyId, { params, query }) => stockEntries(sql, companyId, params.id, query)),
  ],
  acts: periodActs,
  checks,
  differences: broken,
};
