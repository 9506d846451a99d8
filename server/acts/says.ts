/** Acts in the words of the list of changes. */
const DONE: Record<string, string> = {
  moveWorkDate: 'work date moved',
  saveAgreement: 'terms saved',
  reviseAgreement: 'revised',
  bringInAgreements: 'brought in',
  copyAgreement: 'copied',
  releasePlanned: 'planned calls released',
  handleReminder: 'reminder seen to',
  fireReminders: 'reminders fired',
  settleRebate: 'rebate settled',
  takePrepayment: 'prepayment taken',
  creditInvoice: 'credited',
  postShortfall: 'shortfall charged',
  dropShortfall: 'shortfall dropped',
  closeShort: 'closed short',
  putInForce: 'put in force',
  releaseAgreement: 'released',
  pauseAgreement: 'paused or let go on',
  cancelAgreement: 'cancelled',
  wrapUpAgreement: 'wrapped up',
  savePlan: 'call-offs planned',
  saveOrder: 'order saved',
  confirmOrder: 'confirmed',
  cancelOrder: 'cancelled',
  placePurchases: 'purchase placed',
  receiveGoods: 'received',
  shipLines: 'shipped',
  invoiceCustomer: 'customer invoiced',
  enterVendorInvoice: 'vendor invoice entered',
  recordPayment: 'payment recorded',
};

export function saysOf(act: string): string {
  return DONE[act] ?? act;
}
