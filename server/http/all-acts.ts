import { accessActs } from '../access';
import type { Act } from '../acts';
import { agreementActs } from '../agreements';
import { billingActs } from '../billing';
import { bringInAgreements, bringInOrders } from '../exchange';
import { dropDraft, sendDocument } from '../mail';
import { orderActs } from '../orders';
import { promiseActs } from '../promise';
import { stockActs } from '../stock';
import { supplyActs } from '../supply';
import { keepList } from '../upkeep';

export const ALL_ACTS: readonly Act[] = [
  ...accessActs,
  ...agreementActs,
  ...orderActs,
  sendDocument,
  dropDraft,
  ...supplyActs,
  ...stockActs,
  ...billingActs,
  bringInAgreements,
  bringInOrders,
  keepList,
  ...promiseActs,
];
