import { dec, type Day } from '@core/kernel';
import { at, childrenOf, element, textAt, type XmlElement } from './element';
import { countryOf } from './order';
import { CODE_OF, OTHER_UNIT, UNIT_OF } from './units';

/**
 * What companies tell each other in files: an order (placed, changed or cancelled), an order response, a despatch advice,
 * an invoice; and an answer to any of them that it is returned.
 */
export const EXCHANGED = ['order', 'purchase', 'receipt', 'invoice', 'answer'] as const;
export type Exchanged = (typeof EXCHANGED)[number];

export interface ExchangedLine {
  number: number;
  /** As who sends it calls it, and as who gets it does, where that is known. */
  item: string;
  theirItem: string;
  name: string;
  quantity: string;
  unit: string;
  /** For one; empty where the document tells no prices. */
  price: string;
  day: Day | null;
  /** The line of the buyer's order it is for, and of the seller's; null where there is none. */
  ordered: { number: string; line: number } | null;
  sold: { number: string; line: number } | null;
  /** Of an invoice: the delivery note its goods went out with. */
  despatch: string;
  /** Serial numbers of pieces that went. */
  numbers: readonly string[];
}

export interface ExchangedDocument {
  kind: Exchanged;
  /** Its number where it was made; of an answer, the number of what it answers. */
  number: string;
  /** From 0; each change is one more. */
  revision: number;
  /** It was cancelled or taken back. */
  gone: boolean;
  day: Day;
  currency: string;
  /** Codes and names of both companies. */
  from: { code: string; name: string };
  to: { code: string; name: string };
  /** Where it goes; null for the place of who orders. */
  place: { label: string; street: string; postcode: string; town: string; country: string } | null;
  /** What an invoice comes to without tax and with it; empty for others. */
  net: string;
  total: string;
  /** Of an answer: what kind of document it is about, and why it came back. */
  about: Exclude<Exchanged, 'answer'> | null;
  reason: string;
  lines: readonly ExchangedLine[];
}

/** A code of a document's kind in an answer: the UBL document's own name. */
const TYPE: Readonly<Record<Exclude<Exchanged, 'answer'>, string>> = {
  order: 'Order',
  purchase: 'OrderResponse',
  receipt: 'DespatchAdvice',
  invoice: 'Invoice',
};
/** UN/ECE 4343: accepted, rejected. */
const ACCEPTED = 'AP';
const REJECTED = 'RE';
const CANCELLED = 'Cancelled';

const party = ({ code, name }: { code: string; name: string }) =>
  element('Party', [
    element('PartyIdentification', [element('ID', code)]),
    element('PartyName', [element('Name', name)]),
  ]);

/** A document between companies in UBL 2.1, its revision in a reference to itself. It follows the rules of `ublProblems`. */
export function ublExchange(document: ExchangedDocument): XmlElement {
  const { kind, number, day, from, to } = document;
  const head = [element('UBLVersionID', '2.1'), element('ID', number)];
  const issued = element('IssueDate', day);
  const itself = element('AdditionalDocumentReference', [
    element('ID', number),
    element('VersionID', String(document.revision)),
    document.gone ? element('DocumentStatusCode', CANCELLED) : null,
  ]);
  const currency = element('DocumentCurrencyCode', document.currency);
  const count = element('LineCountNumeric', String(document.lines.length));
  const buys = [element('BuyerCustomerParty', [party(from)]), element('SellerSupplierParty', [party(to)])];
  const ordered = document.lines.find((line) => line.ordered)?.ordered?.number;
  const lines = document.lines.map((line) => lineOf(document, line));
  switch (kind) {
    case 'order': {
      if (document.gone) {
        return element('OrderCancellation', [
          ...[...head, issued, element('CancellationNote', document.reason || CANCELLED)],
          ...[element('OrderReference', [element('ID', number)]), itself, ...buys],
        ]);
      }
      const changed = document.revision > 0;
      return element(changed ? 'OrderChange' : 'Order', [
        ...[...head, issued, changed ? element('SequenceNumberID', String(document.revision)) : null, currency, count],
        ...[changed ? element('OrderReference', [element('ID', number)]) : null, itself, ...buys],
        ...[placeOf(document), ...lines],
      ]);
    }
    case 'purchase':
      return element('OrderResponse', [
        ...[...head, element('SalesOrderID', number), issued],
        ...[element('OrderResponseCode', document.gone ? REJECTED : ACCEPTED), currency, count],
        element('OrderReference', [element('ID', ordered ?? number), element('SalesOrderID', number)]),
        ...[itself, element('SellerSupplierParty', [party(from)]), element('BuyerCustomerParty', [party(to)])],
        ...[placeOf(document), ...lines],
      ]);
    case 'receipt':
      return element('DespatchAdvice', [
        ...[...head, issued, document.gone ? element('DocumentStatusCode', CANCELLED) : null, count, itself],
        ...[element('DespatchSupplierParty', [party(from)]), element('DeliveryCustomerParty', [party(to)]), ...lines],
      ]);
    case 'invoice':
      return element('Invoice', [
        ...[...head, issued, currency, count, itself],
        ...[element('AccountingSupplierParty', [party(from)]), element('AccountingCustomerParty', [party(to)])],
        element('LegalMonetaryTotal', [
          amount(document, 'LineExtensionAmount', document.net),
          amount(document, 'TaxExclusiveAmount', document.net),
          amount(document, 'TaxInclusiveAmount', document.total),
          amount(document, 'PayableAmount', document.total),
        ]),
        ...lines,
      ]);
    case 'answer':
      return element('ApplicationResponse', [
        ...[...head, issued, element('SenderParty', party(from).children)],
        element('ReceiverParty', party(to).children),
        element('DocumentResponse', [
          element('Response', [element('ResponseCode', REJECTED), element('Description', document.reason)]),
          element('DocumentReference', [
            element('ID', number),
            element('DocumentTypeCode', TYPE[document.about!]),
            element('VersionID', String(document.revision)),
          ]),
        ]),
      ]);
  }
}

const amount = ({ currency }: ExchangedDocument, name: string, text: string) =>
  element(name, text, { currencyID: currency });

function placeOf({ place }: ExchangedDocument): XmlElement | null {
  if (!place) return null;
  return element('Delivery', [
    element('DeliveryLocation', [
      element('Description', place.label),
      element('Address', [
        element('StreetName', place.street),
        element('CityName', place.town),
        place.postcode ? element('PostalZone', place.postcode) : null,
        place.country ? element('Country', [countryOf(place.country)]) : null,
      ]),
    ]),
  ]);
}

function lineOf(document: ExchangedDocument, line: ExchangedLine): XmlElement {
  const { kind } = document;
  const unitCode = CODE_OF.get(line.unit) ?? OTHER_UNIT;
  const id = element('ID', String(line.number));
  const note = unitCode === OTHER_UNIT ? element('Note', `${UNIT_NOTE}${line.unit}`) : null;
  const quantity = (name: string) => element(name, line.quantity, { unitCode });
  const buyer = kind === 'order' ? line.item : line.theirItem;
  const seller = kind === 'order' ? line.theirItem : line.item;
  const item = element('Item', [
    element('Name', line.name),
    buyer ? element('BuyersItemIdentification', [element('ID', buyer)]) : null,
    seller ? element('SellersItemIdentification', [element('ID', seller)]) : null,
    ...line.numbers.map((number) => element('ItemInstance', [element('SerialID', number)])),
  ]);
  const price = line.price
    ? element('Price', [amount(document, 'PriceAmount', line.price), element('BaseQuantity', '1', { unitCode })])
    : null;
  const reference = (line.ordered || line.sold) && [
    element('OrderLineReference', [
      element('LineID', String(line.ordered?.line ?? line.sold!.line)),
      line.sold ? element('SalesOrderLineID', String(line.sold.line)) : null,
      element('OrderReference', [
        element('ID', line.ordered?.number ?? line.sold!.number),
        line.sold ? element('SalesOrderID', line.sold.number) : null,
      ]),
    ]),
  ];
  if (kind === 'receipt') {
    return element('DespatchLine', [id, note, quantity('DeliveredQuantity'), ...(reference || []), item]);
  }
  if (kind === 'invoice') {
    return element('InvoiceLine', [
      ...[id, note, quantity('InvoicedQuantity')],
      amount(document, 'LineExtensionAmount', dec(line.price).times(line.quantity).toFixed(2)),
      ...(reference || []),
      line.despatch
        ? element('DespatchLineReference', [
            element('LineID', String(line.number)),
            element('DocumentReference', [element('ID', line.despatch)]),
          ])
        : null,
      ...[item, price],
    ]);
  }
  const wanted = kind === 'order' ? 'RequestedDeliveryPeriod' : 'PromisedDeliveryPeriod';
  return element('OrderLine', [
    element('LineItem', [
      ...[id, note, quantity('Quantity')],
      line.day ? element('Delivery', [element(wanted, [element('EndDate', line.day)])]) : null,
      ...[price, item],
    ]),
    ...(reference || []),
  ]);
}
const UNIT_NOTE = 'Unit: ';

const KIND_OF: Readonly<Record<string, Exchanged>> = {
  Order: 'order',
  OrderChange: 'order',
  OrderCancellation: 'order',
  OrderResponse: 'purchase',
  DespatchAdvice: 'receipt',
  Invoice: 'invoice',
  ApplicationResponse: 'answer',
};

/** Who sent a document of that kind and whom it is to, by the parties it names. */
const PARTIES: Readonly<Record<Exchanged, readonly [from: readonly string[], to: readonly string[]]>> = {
  order: [
    ['BuyerCustomerParty', 'Party'],
    ['SellerSupplierParty', 'Party'],
  ],
  purchase: [
    ['SellerSupplierParty', 'Party'],
    ['BuyerCustomerParty', 'Party'],
  ],
  receipt: [
    ['DespatchSupplierParty', 'Party'],
    ['DeliveryCustomerParty', 'Party'],
  ],
  invoice: [
    ['AccountingSupplierParty', 'Party'],
    ['AccountingCustomerParty', 'Party'],
  ],
  answer: [['SenderParty'], ['ReceiverParty']],
};

/** A document between companies as it was written; null where it is none of them. Check it by `ublProblems` before. */
export function readUblExchange(root: XmlElement): ExchangedDocument | null {
  const kind = KIND_OF[root.name];
  if (!kind || root.space !== 'document') return null;
  const company = (path: readonly string[]) => ({
    code: textAt(root, ...path, 'PartyIdentification', 'ID'),
    name: textAt(root, ...path, 'PartyName', 'Name'),
  });
  const [from, to] = PARTIES[kind];
  const answer = at(root, 'DocumentResponse');
  const answered = at(answer, 'DocumentReference');
  const number = kind === 'answer' ? textAt(answered, 'ID') : textAt(root, 'ID');
  const itself = childrenOf(root, 'AdditionalDocumentReference').find((each) => textAt(each, 'ID') === number);
  const address = at(root, 'Delivery', 'DeliveryLocation', 'Address');
  const about = Object.entries(TYPE).find(([, type]) => type === textAt(answered, 'DocumentTypeCode'));
  return {
    kind,
    number,
    revision: wholeOf(textAt(kind === 'answer' ? answered : itself, 'VersionID') || textAt(root, 'SequenceNumberID')),
    gone:
      root.name === 'OrderCancellation' ||
      textAt(root, 'OrderResponseCode') === REJECTED ||
      textAt(root, 'DocumentStatusCode') === CANCELLED,
    day: textAt(root, 'IssueDate').slice(0, 10),
    currency: textAt(root, 'DocumentCurrencyCode'),
    from: company(from),
    to: company(to),
    place: address
      ? {
          label: textAt(root, 'Delivery', 'DeliveryLocation', 'Description'),
          street: textAt(address, 'StreetName'),
          postcode: textAt(address, 'PostalZone'),
          town: textAt(address, 'CityName'),
          country: textAt(address, 'Country', 'IdentificationCode') || textAt(address, 'Country', 'Name'),
        }
      : null,
    net: textAt(root, 'LegalMonetaryTotal', 'TaxExclusiveAmount'),
    total: textAt(root, 'LegalMonetaryTotal', 'PayableAmount'),
    about: (about?.[0] as 'order' | undefined) ?? null,
    reason: textAt(answer, 'Response', 'Description') || textAt(root, 'CancellationNote'),
    lines: root.children.flatMap((child) => {
      if (child.name === 'OrderLine') return [readLine(kind, at(child, 'LineItem')!, at(child, 'OrderLineReference'))];
      return child.name === 'DespatchLine' || child.name === 'InvoiceLine'
        ? [readLine(kind, child, at(child, 'OrderLineReference'))]
        : [];
    }),
  };
}

/** A count from 0; 0 where it is none. */
const wholeOf = (text: string) => (/^\d{1,6}$/.test(text) ? Number(text) : 0);

function readLine(kind: Exchanged, line: XmlElement, reference: XmlElement | undefined): ExchangedLine {
  const quantity = at(line, 'Quantity') ?? at(line, 'DeliveredQuantity') ?? at(line, 'InvoicedQuantity');
  const code = quantity?.attributes['unitCode'] ?? '';
  const noted = childrenOf(line, 'Note').find(({ text }) => text.startsWith(UNIT_NOTE));
  const period = at(line, 'Delivery', 'RequestedDeliveryPeriod') ?? at(line, 'Delivery', 'PromisedDeliveryPeriod');
  const buyers = textAt(line, 'Item', 'BuyersItemIdentification', 'ID');
  const sellers = textAt(line, 'Item', 'SellersItemIdentification', 'ID');
  const price = textAt(line, 'Price', 'PriceAmount');
  const base = textAt(line, 'Price', 'BaseQuantity');
  const sold = textAt(reference, 'OrderReference', 'SalesOrderID');
  const ordered = textAt(reference, 'OrderReference', 'ID');
  return {
    number: wholeOf(textAt(line, 'ID')),
    item: kind === 'order' ? buyers : sellers,
    theirItem: kind === 'order' ? sellers : buyers,
    name: textAt(line, 'Item', 'Name'),
    quantity: decimalOf(quantity?.text ?? ''),
    unit: noted ? noted.text.slice(UNIT_NOTE.length) : (UNIT_OF.get(code) ?? code),
    price: DECIMAL.test(price)
      ? dec(price)
          .div(DECIMAL.test(base) && !dec(base).eq(0) ? base : '1')
          .round(4)
          .toFixed()
      : price,
    day: (textAt(period, 'EndDate') || textAt(period, 'StartDate')).slice(0, 10) || null,
    // Where the order is the seller's own, its number stands at both places.
    ordered: ordered && ordered !== sold ? { number: ordered, line: wholeOf(textAt(reference, 'LineID')) } : null,
    sold: sold ? { number: sold, line: wholeOf(textAt(reference, 'SalesOrderLineID')) } : null,
    despatch: textAt(line, 'DespatchLineReference', 'DocumentReference', 'ID'),
    numbers: childrenOf(at(line, 'Item'), 'ItemInstance').map((each) => textAt(each, 'SerialID')),
  };
}

const DECIMAL = /^[+-]?(\d+(\.\d*)?|\.\d+)$/;
const decimalOf = (text: string) => (DECIMAL.test(text) ? dec(text).toFixed() : text);
