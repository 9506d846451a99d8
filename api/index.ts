import * as access from './access';
import * as agreements from './agreements';
import * as billing from './billing';
import * as catalogue from './catalogue';
import * as desk from './desk';
import * as exchange from './exchange';
import * as find from './find';
import * as insight from './insight';
import * as ledger from './ledger';
import * as mail from './mail';
import * as orders from './orders';
import * as parties from './parties';
import * as purchasing from './purchasing';
import * as stock from './stock';
import * as supply from './supply';
import * as today from './today';
import type { ActEndpoint, Endpoint } from './kit';

/** Every endpoint that is no act. */
export const ENDPOINTS: readonly Endpoint[] = [
  access.signIn,
  access.signOut,
  access.session,
  access.chooseCompany,
  agreements.listAgreements,
  agreements.openAgreement,
  agreements.openProgress,
  agreements.findOffers,
  agreements.itemGroups,
  desk.customerDesk,
  desk.usualBasket,
  desk.vendorBasket,
  desk.shelf,
  mail.draftMessage,
  mail.listMessages,
  mail.openMessage,
  orders.listOrders,
  orders.openOrder,
  supply.listBench,
  supply.openThread,
  supply.threadOfDocument,
  purchasing.listPurchases,
  purchasing.openPurchase,
  stock.alsoWaiting,
  stock.openReceipt,
  stock.openShipment,
  billing.listInvoices,
  billing.openCustomerInvoice,
  billing.openVendorInvoice,
  billing.openToInvoice,
  billing.openCreditNote,
  billing.openPrepayment,
  parties.findCustomers,
  parties.findVendors,
  parties.openCustomer,
  parties.openVendor,
  desk.matchItems,
  catalogue.findItems,
  catalogue.openItem,
  ledger.openTrail,
  insight.fulfilment,
  agreements.renewCalendar,
  today.today,
  find.find,
];

/** Every act. */
export const ACTS: readonly ActEndpoint[] = [
  access.moveWorkDate,
  agreements.saveAgreement,
  agreements.reviseAgreement,
  agreements.copyAgreement,
  exchange.bringInAgreements,
  exchange.bringInOrders,
  agreements.putInForce,
  agreements.releaseAgreement,
  agreements.savePlan,
  agreements.releasePlanned,
  agreements.handleReminder,
  agreements.fireReminders,
  agreements.settleRebate,
  agreements.takePrepayment,
  agreements.pauseAgreement,
  agreements.cancelAgreement,
  agreements.wrapUpAgreement,
  mail.sendDocument,
  orders.saveOrder,
  orders.confirmOrder,
  orders.cancelOrder,
  orders.closeShort,
  supply.placePurchases,
  stock.receiveGoods,
  stock.shipLines,
  billing.invoiceCustomer,
  billing.enterVendorInvoice,
  billing.recordPayment,
  billing.creditInvoice,
  billing.postShortfall,
  billing.dropShortfall,
];
