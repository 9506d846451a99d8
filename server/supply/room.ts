import * as supply from '@api/supply';
import { reads, type Room } from '../room';
import { supplyActs } from './acts';
import { answerPurchase } from './answer';
import { cancelPurchase, changePurchase } from './change-purchase';
import { checks } from './checks';
import { listPairs } from './list-pairs';
import { openPurchases } from './open-purchases';
import { editPairs } from './pairs';
import { listBench } from './reads';
import { openThread, threadOfDocument, threadsOfOrder } from './thread';
import { salesFor, suppliesFor, tieActs } from './ties';

/** What the supply room has. */
export const room: Room = {
  acts: [...supplyActs, openPurchases, ...tieActs, editPairs, answerPurchase, changePurchase, cancelPurchase],
  answers: [
    reads(supply.listBench, (sql, companyId, { query, workDate }) => listBench(sql, companyId, workDate, query)),
    reads(supply.openThread, (sql, companyId, { params }) => openThread(sql, companyId, params.id)),
    reads(supply.listPairs, (sql, companyId, { query }) => listPairs(sql, companyId, query)),
    reads(supply.findSupplies, async (sql, companyId, { params }) => ({
      rows: await suppliesFor(sql, companyId, params.id),
    })),
    reads(supply.findSales, async (sql, companyId, { params }) => ({
      rows: await salesFor(sql, companyId, params.id),
    })),
    reads(supply.threadsOfOrder, async (sql, companyId, { params }) => ({
      threads: await threadsOfOrder(sql, companyId, params.id),
    })),
    reads(supply.threadOfDocument, async (sql, companyId, { params }) => ({
      thread: await threadOfDocument(sql, companyId, params),
    })),
  ],
  checks,
};
