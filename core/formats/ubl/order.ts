import { dec, type Day } from '@core/kernel';
import { at, childrenOf, element, textAt, type XmlElement } from './element';
import { CODE_OF, OTHER_UNIT, UNIT_OF } from './units';

/** A line of an order as somebody else wrote it. */
export interface WrittenLine {
  /** Where it stands in the file: the number of the line, from 1; of one for each of its deliveries. */
  at: number;
  /** What stands against taking it as it is. */
  against: readonly Against[];
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

/** What cannot be taken of an order, and is never dropped: where, and in a sentence. */
export interface Against {
  column: string;
  sentence: string;
}

export interface WrittenOrder {
  against: readonly Against[];
  number: string;
  /** How they name themselves: the number we gave them, a party number, or their name. */
  customer: readonly string[];
  shipTo: string;
  currency: string;
  day: Day | null;
  lines: WrittenLine[];
}

/** An order in UBL 2.1 as it was written; null where the element is no order. Check it by `ublProblems` before. */
export function readUblOrder(root: XmlElement): WrittenOrder | null {
  if (root.name !== 'Order' || root.space !== 'document') return null;
  const buyer = at(root, 'BuyerCustomerParty');
  const customer = [
    textAt(buyer, 'SupplierAssignedAccountID'),
    ...childrenOf(at(buyer, 'Party'), 'PartyIdentification').map((each) => textAt(each, 'ID')),
    ...childrenOf(at(buyer, 'Party'), 'PartyName').map((each) => textAt(each, 'Name')),
  ].filter((name) => name !== '');
  const delivery = at(root, 'Delivery');
  return {
    against: childrenOf(root, 'AllowanceCharge').map((each) => ({
      column: 'allowance',
      sentence: `${named(each)} is on the whole order; it is neither taken nor left out: put it into the prices of the lines.`,
    })),
    number: textAt(root, 'ID'),
    customer,
    shipTo: placeOf(delivery),
    currency: textAt(root, 'DocumentCurrencyCode'),
    day: periodDay(delivery),
    lines: childrenOf(root, 'OrderLine').flatMap((line, index) => readLines(at(line, 'LineItem'), index + 1)),
  };
}

/** Where it goes: as they name the place, else its street and town. */
function placeOf(delivery: XmlElement | undefined): string {
  const location = at(delivery, 'DeliveryLocation');
  const own = textAt(location, 'Description') || textAt(location, 'Name') || textAt(location, 'ID');
  const address = at(delivery, 'DeliveryAddress') ?? at(location, 'Address');
  return own || [textAt(address, 'StreetName'), textAt(address, 'CityName')].filter((text) => text !== '').join(', ');
}

/** An allowance or a charge as a sentence names it. */
function named(each: XmlElement): string {
  const reason = textAt(each, 'AllowanceChargeReason') || textAt(each, 'AllowanceChargeReasonCode');
  const what = textAt(each, 'ChargeIndicator') === 'true' ? 'The charge' : 'The allowance';
  return `${what}${reason ? ` “${reason}”` : ''} of ${textAt(each, 'Amount')}`;
}

/** A number without the zeros and the sign that say nothing: `10.000000` is 10. */
function number(text: string): string {
  return DECIMAL.test(text) ? dec(text).toFixed() : text;
}
const DECIMAL = /^[+-]?(\d+(\.\d*)?|\.\d+)$/;

/** A line for each of its deliveries; of one line where it has none of its own. */
function readLines(line: XmlElement | undefined, place: number): WrittenLine[] {
  const quantity = at(line, 'Quantity');
  const code = quantity?.attributes['unitCode'] ?? '';
  const whole = number(quantity?.text ?? '');
  const deliveries = childrenOf(line, 'Delivery');
  const parts = deliveries.map((each) => number(textAt(each, 'Quantity')));
  const against: Against[] = [];
  if (deliveries.length > 1 || (deliveries.length === 1 && parts[0] !== '')) {
    const all = parts.every((part) => DECIMAL.test(part)) ? parts.reduce((sum, part) => sum.plus(part), dec(0)) : null;
    if (!all || !DECIMAL.test(whole) || !all.eq(whole)) {
      against.push({
        column: 'quantity',
        sentence: `Its deliveries come to ${all ? all.toFixed() : 'no number'}, the line to ${whole || 'nothing'}.`,
      });
    }
  }
  const read = {
    at: place,
    against,
    theirItem: textAt(line, 'Item', 'BuyersItemIdentification', 'ID'),
    item: textAt(line, 'Item', 'SellersItemIdentification', 'ID'),
    name: textAt(line, 'Item', 'Name'),
    unit: UNIT_OF.get(code) ?? code,
    price: expectedOf(line, whole),
  };
  const [first] = deliveries;
  if (deliveries.length < 2) return [{ ...read, quantity: whole, day: periodDay(first) }];
  return deliveries.map((each, at) => ({ ...read, quantity: parts[at]!, day: periodDay(each) }));
}

/** What they expect to pay for one, with the allowances and charges of the line in it; empty where they do not say. */
function expectedOf(line: XmlElement | undefined, quantity: string): string {
  const price = textAt(line, 'Price', 'PriceAmount');
  if (!DECIMAL.test(price)) return price;
  const base = textAt(line, 'Price', 'BaseQuantity');
  const one = DECIMAL.test(base) && !dec(base).eq(0) ? dec(price).div(base) : dec(price);
  const more = childrenOf(line, 'AllowanceCharge')
    .filter((each) => DECIMAL.test(textAt(each, 'Amount')))
    .map((each) =>
      textAt(each, 'ChargeIndicator') === 'true' ? dec(textAt(each, 'Amount')) : dec(textAt(each, 'Amount')).neg(),
    )
    .reduce((sum, each) => sum.plus(each), dec(0));
  const each = DECIMAL.test(quantity) && !dec(quantity).eq(0) ? more.div(quantity) : dec(0);
  return one.plus(each).round(4).toFixed();
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
  /** Where it is to be delivered: in words, and the address where it is a customer's. */
  shipTo: {
    name: string;
    address: { street: string; postcode: string; town: string; country: string } | null;
  };
  net: string;
  tax: string;
  taxes: readonly { code: string; rate: string; base: string; tax: string }[];
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

/** The order as UBL 2.1. It follows the rules of `ublProblems`. */
export function ublOrder(order: OrderToWrite): XmlElement {
  const amount = (name: string, text: string) => element(name, text, { currencyID: order.currency });
  const party = (name: string) => element('Party', [element('PartyName', [element('Name', name)])]);
  const { name, address } = order.shipTo;
  const total = dec(order.net).plus(order.tax).toFixed();
  return element('Order', [
    element('UBLVersionID', '2.1'),
    element('ID', order.number),
    element('IssueDate', order.day),
    element('DocumentCurrencyCode', order.currency),
    element('LineCountNumeric', String(order.lines.length)),
    element('BuyerCustomerParty', [party(order.buyer)]),
    element('SellerSupplierParty', [
      element('CustomerAssignedAccountID', order.seller.number),
      party(order.seller.name),
    ]),
    element('Delivery', [
      element('DeliveryLocation', [
        element('Description', name),
        address &&
          element('Address', [
            element('StreetName', address.street),
            element('CityName', address.town),
            address.postcode ? element('PostalZone', address.postcode) : null,
            address.country ? element('Country', [countryOf(address.country)]) : null,
          ]),
      ]),
    ]),
    element('TaxTotal', [
      amount('TaxAmount', order.tax),
      ...order.taxes.map((each) =>
        element('TaxSubtotal', [
          amount('TaxableAmount', each.base),
          amount('TaxAmount', each.tax),
          element('TaxCategory', [
            // UN/ECE 5305: zero rated, or standard.
            element('ID', dec(each.rate).eq(0) ? 'Z' : 'S'),
            element('Name', each.code),
            element('Percent', each.rate),
            element('TaxScheme', [element('ID', 'VAT')]),
          ]),
        ]),
      ),
    ]),
    element('AnticipatedMonetaryTotal', [
      amount('LineExtensionAmount', order.net),
      amount('TaxExclusiveAmount', order.net),
      amount('TaxInclusiveAmount', total),
      amount('PayableAmount', total),
    ]),
    ...order.lines.map((line) => {
      const unitCode = CODE_OF.get(line.unit) ?? OTHER_UNIT;
      return element('OrderLine', [
        element('LineItem', [
          element('ID', String(line.number)),
          unitCode === OTHER_UNIT ? element('Note', `Unit: ${line.unit}`) : null,
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

/** A country by its code of ISO 3166, or by its name. */
export const countryOf = (country: string) =>
  element(/^[A-Z]{2}$/.test(country) ? 'IdentificationCode' : 'Name', country);
