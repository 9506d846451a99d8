import * as agreements from '@api/agreements';
import { itemGroups } from '../catalogue';
import { agreementsByPace, sumsOf } from '../insight';
import { answers, reads, type Room } from '../room';
import { agreementActs } from './acts';
import { calendarFile } from './ending/calendar';
import { checks, differences } from './checks';
import { listAgreements } from './list';
import { openProgress } from './releasing/plan';
import { findOffers, openAgreement } from './reads';
import { renewFeed } from './ending/reminders';

/** What the agreements room has. */
export const room: Room = {
  acts: [...agreementActs],
  answers: [
    answers(agreements.listAgreements, ({ parts, who, query }) =>
      /^pace/.test(query.sort ?? '')
        ? agreementsByPace(parts.database, sumsOf(parts.database), who!.companyId, query, who!.workDate)
        : listAgreements(parts.database, who!.companyId, query, who!.workDate),
    ),
    answers(agreements.findOffers, ({ parts, who, body }) =>
      parts.database.snapshot((sql) => findOffers(sql, who!, body)),
    ),
    reads(agreements.itemGroups, (sql, companyId) => itemGroups(sql, companyId)),
    reads(agreements.openAgreement, (sql, companyId, { params }) => openAgreement(sql, companyId, params.id)),
    reads(agreements.openProgress, (sql, companyId, { params, workDate }) =>
      openProgress(sql, companyId, params.id, workDate),
    ),
    answers(agreements.renewCalendar, async ({ parts, who }) => ({
      path: `/api/calendar/${await renewFeed(parts.database, who!.companyId, who!.personId)}.ics`,
    })),
  ],
  files: [calendarFile],
  checks,
  differences,
  findable: [
    {
      kind: 'AG',
      from: `agreement d LEFT JOIN customer p ON p.company_id = d.company_id AND p.id = d.customer_id
      LEFT JOIN vendor v ON v.company_id = d.company_id AND v.id = d.vendor_id`,
      name: "CONCAT(COALESCE(p.name, v.name), IF(d.title = '', '', CONCAT(', ', d.title)))",
    },
  ],
};
