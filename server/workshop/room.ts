import * as workshop from '@api/workshop';
import { reads, type Room } from '../room';
import { openCentreWork, openWorkshopDays } from './at-centres';
import { cancelWork } from './cancel';
import { changeWork } from './change';
import { checks } from './checks';
import { linesForWork, workForLine } from './fits';
import { layLate, layWork } from './lay';
import { listWork } from './list';
import { newWork } from './new-work';
import { changeParts } from './parts';
import { changeOperations } from './operations';
import { openWork, openWorkReport } from './reads';
import { reportWork } from './report';
import { takeBackWork } from './take-back';
import { tieWork, untieWork } from './ties';

/** What the workshop room has. */
export const room: Room = {
  acts: [
    reportWork,
    takeBackWork,
    tieWork,
    untieWork,
    changeParts,
    changeOperations,
    newWork,
    changeWork,
    layWork,
    layLate,
    cancelWork,
  ],
  answers: [
    reads(workshop.listWork, (sql, companyId, { query }) => listWork(sql, companyId, query)),
    reads(workshop.openWorkshopDays, (sql, companyId, { workDate }) => openWorkshopDays(sql, companyId, workDate)),
    reads(workshop.openWork, (sql, companyId, { params }) => openWork(sql, companyId, params.id)),
    reads(workshop.openWorkReport, (sql, companyId, { params }) => openWorkReport(sql, companyId, params.id)),
    reads(workshop.workForLine, (sql, companyId, { params }) => workForLine(sql, companyId, params.id)),
    reads(workshop.linesForWork, (sql, companyId, { params }) => linesForWork(sql, companyId, params.id)),
    reads(workshop.openCentreWork, (sql, companyId, { params }) => openCentreWork(sql, companyId, params.id)),
  ],
  checks,
  findable: [
    {
      kind: 'PR',
      from: "planned_order d JOIN item p ON p.company_id = d.company_id AND p.id = d.item_id AND d.kind = 'make'",
      name: 'p.name',
    },
    {
      kind: 'AS',
      from: "planned_order d JOIN item p ON p.company_id = d.company_id AND p.id = d.item_id AND d.kind = 'assemble'",
      name: 'p.name',
    },
    {
      kind: 'WR',
      from: `work_report d JOIN planned_order o ON o.company_id = d.company_id AND o.id = d.planned_order_id
        JOIN item p ON p.company_id = o.company_id AND p.id = o.item_id`,
      name: 'p.name',
    },
  ],
};
