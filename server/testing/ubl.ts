import { element, type XmlElement } from '@core/formats';

export { at } from '@core/formats';

/** A customer's order in UBL 2.1: item, quantity, unit code and expected price of each line. */
export function writtenOrder(
  number: string,
  customer: string,
  lines: readonly (readonly [item: string, quantity: string, unitCode: string, price: string])[],
): XmlElement {
  const named = (name: string) => element('Party', [element('PartyName', [element('Name', name)])]);
  return element('Order', [
    element('UBLVersionID', '2.1'),
    element('ID', number),
    element('IssueDate', '2027-02-28'),
    element('DocumentCurrencyCode', 'MYR'),
    element('BuyerCustomerParty', [element('SupplierAssignedAccountID', customer), named('Their own name')]),
    element('SellerSupplierParty', [named('Hulu Bening Water Works')]),
    element('Delivery', [element('RequestedDeliveryPeriod', [element('EndDate', '2027-03-10')])]),
    ...lines.map(([item, quantity, unitCode, price], index) =>
      element('OrderLine', [
        element('LineItem', [
          element('ID', String(index + 1)),
          element('Quantity', quantity, { unitCode }),
          element('Price', [element('PriceAmount', price, { currencyID: 'MYR' })]),
          element('Item', [element('SellersItemIdentification', [element('ID', item)])]),
        ]),
      ]),
    ),
  ]);
}
