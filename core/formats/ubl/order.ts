import { dec, type Day } from '@core/kernel';
import { at, childrenOf, element, textAt, type XmlElement } from './element';

/** A line of an order as somebody else wrote it. */
export interface WrittenLine {
  /** Where it stands in the file: the number of the line, from 1. */
  at: number;
  /** Their number of the item, ours, and its name; what is not given is empty. */
  theirItem: string;
  item: string;
  name: string;
  quantity: string;
  /** A unit of ours, or as it stands where it is none. */
  unit: string;
  /** Null where none is asked for: then that of the order. */
  day: Day | null;
  /** What they expect to pay for one; empty where they do not say. */
  price: string;
}

export interface WrittenOrder {
  number: string;
  /** How they name themselves: the number we gave them, a party number, or their name. */
  customer: readonly string[];
  shipTo: string;
  currency: string;
  day: Day | null;
  lines: WrittenLine[];
}

/** Codes of units (UN/ECE Recommendation 20 and 21) that have a name here; others stand as they are. */
const UNITS: Readonly<Record<string, string>> = {
  EA: 'piece',
  C62: 'piece',
  H87: 'piece',
  XBX: 'box',
  BX: 'box',
  XPX: 'pallet',
  PF: 'pallet',
  XBG: 'bag',
  BG: 'bag',
  XDR: 'drum',
  DR: 'drum',
};

/** An order in UBL 2.1 as it was written; null where the element is no order. Check it by `ublProblems` before. */
export function readUblOrder(root: XmlElement): WrittenOrder | null {
  if (root.name !== 'Order') return null;
  const buyer = at(root, 'BuyerCustomerParty');
  const customer = [
    textAt(buyer, 'SupplierAssignedAccountID'),
    ...childrenOf(at(buyer, 'Party'), 'PartyIdentification').map((each) => textAt(each, 'ID')),
    ...childrenOf(at(buyer, 'Party'), 'PartyName').map((each) => textAt(each, 'Name')),
  ].filter((name) => name !== '');
  const delivery = at(root, 'Delivery');
  return {
    number: textAt(root, 'ID'),
    customer,
    shipTo: textAt(delivery, 'DeliveryLocation', 'Description') || textAt(delivery, 'DeliveryLocation', 'ID'),
    currency: textAt(root, 'DocumentCurrencyCode'),
    day: periodDay(delivery),
    lines: childrenOf(root, 'OrderLine').map((line, index) => readLine(at(line, 'LineItem'), index + 1)),
  };
}

function readLine(line: XmlElement | undefined, place: number): WrittenLine {
  const quantity = at(line, 'Quantity');
  const code = quantity?.attributes['unitCode'] ?? '';
  const price = textAt(line, 'Price', 'PriceAmount');
  const base = textAt(line, 'Price', 'BaseQuantity');
  return {
    at: place,
    theirItem: textAt(line, 'Item', 'BuyersItemIdentification', 'ID'),
    item: textAt(line, 'Item', 'SellersItemIdentification', 'ID'),
    name: textAt(line, 'Item', 'Name'),
    quantity: quantity?.text ?? '',
    unit: UNITS[code] ?? code,
    day: periodDay(at(line, 'Delivery')),
    price: price === '' || base === '' || dec(base).eq(0) ? price : dec(price).div(base).round(4).toFixed(),
  };
}

/** The last day they ask for, else the first. */
function periodDay(delivery: XmlElement | undefined): Day | null {
  const period = at(delivery, 'RequestedDeliveryPeriod');
  return (textAt(period, 'EndDate') || textAt(period, 'StartDate')).slice(0, 10) || null;
}

/** A purchase order of ours, to be written as an order to its vendor. */
export interface OrderToWrite {
  number: string;
  day: Day;
  currency: string;
  buyer: string;
  seller: { number: string; name: string };
  shipTo: string;
  net: string;
  lines: readonly {
    number: number;
    item: string;
    name: string;
    quantity: string;
    unit: string;
    unitPrice: string;
    amount: string;
    day: Day;
  }[];
}

const CODES: Readonly<Record<string, string>> = { piece: 'EA', box: 'XBX', pallet: 'XPX', bag: 'XBG', drum: 'XDR' };

/** The order as UBL 2.1. It follows the rules of `ublProblems`. */
export function ublOrder(order: OrderToWrite): XmlElement {
  const amount = (name: string, text: string) => element(name, text, { currencyID: order.currency });
  const named = (name: string) => element('Party', [element('PartyName', [element('Name', name)])]);
  return element('Order', [
    element('UBLVersionID', '2.1'),
    element('ID', order.number),
    element('IssueDate', order.day),
    element('DocumentCurrencyCode', order.currency),
    element('BuyerCustomerParty', [named(order.buyer)]),
    element('SellerSupplierParty', [
      element('CustomerAssignedAccountID', order.seller.number),
      named(order.seller.name),
    ]),
    element('Delivery', [element('DeliveryLocation', [element('Description', order.shipTo)])]),
    element('AnticipatedMonetaryTotal', [amount('LineExtensionAmount', order.net), amount('PayableAmount', order.net)]),
    ...order.lines.map((line) => {
      const unitCode = CODES[line.unit] ?? 'EA';
      return element('OrderLine', [
        element('LineItem', [
          element('ID', String(line.number)),
          element('Quantity', line.quantity, { unitCode }),
          amount('LineExtensionAmount', line.amount),
          element('Delivery', [element('RequestedDeliveryPeriod', [element('EndDate', line.day)])]),
          element('Price', [amount('PriceAmount', line.unitPrice), element('BaseQuantity', '1', { unitCode })]),
          element('Item', [
            element('Name', line.name),
            element('BuyersItemIdentification', [element('ID', line.item)]),
          ]),
        ]),
      ]);
    }),
  ]);
}
