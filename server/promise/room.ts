import * as promise from '@api/promise';
import { reads, type Room } from '../room';
import { acceptPromise, takeBackPromise } from './asking/acts';
import { makeFirm } from './asking/firm';
import { checks } from './checks';
import { openPegging } from './planning/pegging';
import { startPlanning, takeProposals } from './planning/planning';
import { openPlanning } from './planning/planning-reads';
import { weighPlanning } from './planning/weigh';
import {
  checkPromise,
  listPlanned,
  openAvailability,
  openLoad,
  openPlanned,
  openPromiseGround,
  tryPromise,
} from './asking/reads';
import { possibleDaysOf } from './asking/possible-days';
import { applyRepromise, brokenPromises, openRepromise, startRepromise, stopRepromise } from './again/repromise';

/** What the promise room has. */
export const room: Room = {
  acts: [
    acceptPromise,
    takeBackPromise,
    makeFirm,
    startRepromise,
    stopRepromise,
    applyRepromise,
    startPlanning,
    takeProposals,
    weighPlanning,
  ],
  answers: [
    reads(promise.openAvailability, (sql, companyId, { params, query, workDate }) =>
      openAvailability(sql, companyId, workDate, params.id, query.line),
    ),
    reads(promise.openPromiseGround, (sql, companyId, { params, workDate }) =>
      openPromiseGround(sql, companyId, workDate, params.id),
    ),
    reads(promise.tryPromise, (sql, companyId, { body, workDate }) => tryPromise(sql, companyId, workDate, body)),
    reads(promise.possibleDays, (sql, companyId, { body, workDate }) => possibleDaysOf(sql, companyId, workDate, body)),
    reads(promise.checkPromise, (sql, companyId, { params, workDate }) =>
      checkPromise(sql, companyId, workDate, params.id),
    ),
    reads(promise.brokenPromises, (sql, companyId, { params, workDate }) =>
      brokenPromises(sql, companyId, workDate, params.id),
    ),
    reads(promise.openRepromise, (sql, companyId) => openRepromise(sql, companyId)),
    reads(promise.openPlanning, (sql, companyId, { query }) => openPlanning(sql, companyId, query.rows)),
    reads(promise.openPegging, (sql, companyId, { params, workDate }) => openPegging(sql, companyId, workDate, params)),
    reads(promise.listPlanned, (sql, companyId, { query }) => listPlanned(sql, companyId, query)),
    reads(promise.openPlanned, (sql, companyId, { params }) => openPlanned(sql, companyId, params.id)),
    reads(promise.openLoad, (sql, companyId, { query, workDate }) => openLoad(sql, companyId, workDate, query.days)),
  ],
  after: { startRepromise: ({ runs }) => runs.poke(), startPlanning: ({ runs }) => runs.poke() },
  checks,
};
