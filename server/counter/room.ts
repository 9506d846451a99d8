import * as contract from '@api/counter';
import { reads, type Room } from '../room';
import { atTill, listWaiting } from './at-till';
import { bringBack, payBackDeposit } from './back';
import { askCard, giveBackCard, hearCard } from './cards';
import { checks } from './checks';
import { closeDrawer, moveDrawer, openDrawer } from './drawer';
import { listDrawers, openDrawerSheet } from './drawers';
import { counterFind } from './find';
import { dropAtCounter, keepAtCounter } from './keep';
import { sellAtTill } from './sell';
import { counterShelf } from './shelf';
import { listSlips, openSlip } from './slips';
import { listTills } from './tills';

/** What the counter has: orders kept there, the till, its drawers. */
export const room: Room = {
  acts: [
    keepAtCounter,
    dropAtCounter,
    sellAtTill,
    askCard,
    hearCard,
    giveBackCard,
    openDrawer,
    moveDrawer,
    closeDrawer,
    bringBack,
    payBackDeposit,
  ],
  answers: [
    reads(contract.listTills, (sql, companyId) => listTills(sql, companyId)),
    reads(contract.counterFind, (sql, companyId, { query }) => counterFind(sql, companyId, query)),
    reads(contract.counterShelf, (sql, companyId) => counterShelf(sql, companyId)),
    reads(contract.atTill, (sql, companyId, { query, workDate }) => atTill(sql, companyId, workDate, query)),
    reads(contract.openSlip, (sql, companyId, { params }) => openSlip(sql, companyId, params.id)),
    reads(contract.listSlips, (sql, companyId, { query }) => listSlips(sql, companyId, query)),
    reads(contract.listWaiting, (sql, companyId) => listWaiting(sql, companyId)),
    reads(contract.openDrawerSheet, (sql, companyId, { params }) => openDrawerSheet(sql, companyId, params.id)),
    reads(contract.listDrawers, (sql, companyId, { query }) => listDrawers(sql, companyId, query)),
  ],
  checks,
  findable: [
    {
      kind: 'SL',
      from: 'slip d JOIN customer p ON p.company_id = d.company_id AND p.id = d.customer_id',
      name: 'p.name',
    },
    { kind: 'DR', from: 'drawer d JOIN till p ON p.company_id = d.company_id AND p.id = d.till_id', name: 'p.name' },
  ],
};
