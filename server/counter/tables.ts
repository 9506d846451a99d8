import { table, type Row } from '../db';

export const itemBarCodeTable = table('item_bar_code', {
  int: 'companyId id= itemId',
  text: 'code',
  decimal: 'quantity=',
});

export const tillTable = table('till', { int: 'companyId id= locationId=', text: 'name' });
export type TillRow = Row<typeof tillTable>;

export const drawerTable = table('drawer', {
  int: 'companyId id= version= tillId openedBy closedBy? openTill?',
  text: 'number reason=',
  day: 'openedOn closedOn?',
  time: 'openedAt=',
  decimal: 'putIn cash counted?',
});
export type Drawer = Row<typeof drawerTable>;

export const drawerCountTable = table('drawer_count', { int: 'companyId drawerId count', decimal: 'piece' });

export const drawerMoveTable = table('drawer_move', {
  int: 'companyId id= drawerId movedBy',
  text: 'reason',
  time: 'movedAt=',
  decimal: 'amount',
});

export const cardPaymentTable = table('card_payment', {
  int: 'companyId id= version= tillId orderId slipId? givesBackId?',
  choice: 'state=:asked|taken|refused|given-back',
  text: 'currency terminal=',
  time: 'askedAt=',
  decimal: 'amount',
  boolean: 'back= hanging?',
});
export type CardPayment = Row<typeof cardPaymentTable>;

export const slipTable = table('slip', {
  int: 'companyId id= drawerId customerId soldBy customerInvoiceId? creditNoteId? returnsId?',
  text: 'number currency',
  day: 'soldOn',
  time: 'soldAt=',
  decimal: 'total= covered= deposited= given= changeGiven=',
});
export type Slip = Row<typeof slipTable>;

export const slipOrderTable = table('slip_order', { int: 'companyId slipId orderId' });

export const slipPaymentTable = table('slip_payment', {
  int: 'companyId id= slipId cardPaymentId? creditNoteId?',
  choice: 'kind:cash|card|voucher|account',
  decimal: 'invoiced= deposited= rounding=',
});
export type SlipPayment = Row<typeof slipPaymentTable>;

export const depositReturnTable = table('deposit_return', {
  int: 'companyId id= drawerId prepaymentId',
  decimal: 'amount',
});
