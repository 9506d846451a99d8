import { element, readUblOrder, ublOrder, ublProblems, type OrderToWrite, type XmlElement } from './index';

const order: OrderToWrite = {
  number: 'PO-0001',
  day: '2027-03-01',
  currency: 'MYR',
  buyer: 'Hulu Bening Water Works',
  seller: { number: 'V-101', name: 'Arus Membrane Supply' },
  shipTo: 'Jetty Store, Kuala Besut',
  net: '7440',
  lines: [
    {
      number: 1,
      item: 'RO-4040',
      name: 'Membrane',
      quantity: '12',
      unit: 'piece',
      unitPrice: '620',
      amount: '7440',
      day: '2027-03-12',
    },
  ],
};
const problems = (root: XmlElement) => ublProblems(root).map(({ path, words }) => `${path}: ${words}`);
/** The order with a child changed, left out or put elsewhere. */
const changed = (children: (all: readonly XmlElement[]) => readonly XmlElement[]): XmlElement => {
  const whole = ublOrder(order);
  return { ...whole, children: children(whole.children) };
};

describe('UBL 2.1 orders', () => {
  it('what is written follows the rules, and reads as what it was', () => {
    const written = ublOrder(order);
    expect(problems(written)).toEqual([]);
    expect(readUblOrder(written)).toEqual({
      number: 'PO-0001',
      customer: ['Hulu Bening Water Works'],
      shipTo: 'Jetty Store, Kuala Besut',
      currency: 'MYR',
      day: null,
      lines: [
        {
          at: 1,
          theirItem: 'RO-4040',
          item: '',
          name: 'Membrane',
          quantity: '12',
          unit: 'piece',
          day: '2027-03-12',
          price: '620',
        },
      ],
    });
  });

  it.each([
    ['without its number', changed((all) => all.filter((each) => each.name !== 'ID')), 'Order: lacks ID'],
    ['without lines', changed((all) => all.filter((each) => each.name !== 'OrderLine')), 'Order: lacks OrderLine'],
    ['out of order', changed((all) => [...all.slice(1), all[0]!]), 'Order: holds UBLVersionID out of its place'],
    ['with something else', changed((all) => [...all, element('Basket', '')]), 'Order: cannot hold Basket'],
    [
      'dated twice',
      changed((all) => [...all.slice(0, 3), all[2]!, ...all.slice(3)]),
      'Order: holds IssueDate more than once',
    ],
    [
      'with a day that is none',
      changed((all) => all.map((each) => (each.name === 'IssueDate' ? element('IssueDate', '2027-02-30') : each))),
      'Order/IssueDate: must be a date like 2027-03-01',
    ],
    [
      'with an amount of no currency',
      changed((all) =>
        all.map((each) =>
          each.name === 'AnticipatedMonetaryTotal' ? element(each.name, [element('PayableAmount', '1')]) : each,
        ),
      ),
      'Order/AnticipatedMonetaryTotal/PayableAmount: must be a number with its currencyID',
    ],
  ])('one %s is refused where it is wrong', (_what, root, expected) => {
    expect(problems(root)).toContain(expected);
  });

  it('reads units by their codes, prices for several, and days of the order and the line', () => {
    const line = (unitCode: string, quantity: string) =>
      element('OrderLine', [
        element('LineItem', [
          element('ID', '1'),
          element('Quantity', quantity, { unitCode }),
          element('Price', [element('PriceAmount', '145', { currencyID: 'MYR' }), element('BaseQuantity', '25')]),
          element('Item', [element('SellersItemIdentification', [element('ID', 'FC-10')])]),
        ]),
      ]);
    const read = readUblOrder(
      element('Order', [
        element('BuyerCustomerParty', [element('SupplierAssignedAccountID', 'C-205')]),
        element('Delivery', [element('RequestedDeliveryPeriod', [element('StartDate', '2027-03-09Z')])]),
        line('XBX', '4'),
        line('KGM', '2'),
      ]),
    )!;
    expect(read).toMatchObject({ customer: ['C-205'], day: '2027-03-09' });
    expect(read.lines.map((each) => [each.item, each.quantity, each.unit, each.price])).toEqual([
      ['FC-10', '4', 'box', '5.8'],
      ['FC-10', '2', 'KGM', '5.8'],
    ]);
    expect(readUblOrder(element('Invoice', []))).toBeNull();
  });
});
