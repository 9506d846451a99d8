import * as access from './access';
import * as agreements from './agreements';
import * as billing from './billing';
import * as catalogue from './catalogue';
import * as find from './find';
import * as ledger from './ledger';
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
  orders.listOrders,
  orders.openOrder,
  supply.listBench,
  supply.openThread,
  supply.threadOfDocument,
  purchasing.listPurchases,
  purchasing.openPurchase,
  stock.openReceipt,
  stock.openShipment,
  billing.listInvoices,
  billing.openCustomerInvoice,
  billing.openVendorInvoice,
  billing.openToInvoice,
  parties.findCustomers,
  parties.openCustomer,
  parties.openVendor,
  catalogue.findItems,
  catalogue.openItem,
  ledger.openTrail,
  today.today,
  find.find,
];

/** Every act. */
export const ACTS: readonly ActEndpoint[] = [
  access.moveWorkDate,
  agreements.saveAgreement,
  agreements.putInForce,
  agreements.releaseAgreement,
  agreements.savePlan,
  agreements.pauseAgreement,
  agreements.cancelAgreement,
  agreements.wrapUpAgreement,
  orders.saveOrder,
  orders.confirmOrder,
  orders.cancelOrder,
  supply.placePurchases,
  stock.receiveGoods,
  stock.shipLines,
  billing.invoiceCustomer,
  billing.enterVendorInvoice,
  billing.recordPayment,
];
