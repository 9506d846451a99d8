import { at, element, readUblOrder, ublOrder, ublProblems, type OrderToWrite, type XmlElement } from './index';

const order: OrderToWrite = {
  number: 'PO-0001',
  day: '2027-03-01',
  currency: 'MYR',
  buyer: 'Hulu Bening Water Works',
  seller: { number: 'V-101', name: 'Arus Membrane Supply' },
  shipTo: {
    name: 'Jetty Store',
    address: { street: '3 Jetty Road', postcode: '22300', town: 'Kuala Besut', country: 'MY' },
  },
  net: '7440',
  tax: '446.4',
  taxes: [{ code: 'S6', rate: '6', base: '7440', tax: '446.4' }],
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
      against: [],
      number: 'PO-0001',
      customer: ['Hulu Bening Water Works'],
      shipTo: 'Jetty Store',
      currency: 'MYR',
      day: null,
      lines: [
        {
          at: 1,
          against: [],
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
        line('XYZ', '2'),
      ]),
    )!;
    expect(read).toMatchObject({ customer: ['C-205'], day: '2027-03-09' });
    expect(read.lines.map((each) => [each.item, each.quantity, each.unit, each.price])).toEqual([
      ['FC-10', '4', 'box', '5.8'],
      ['FC-10', '2', 'kilogram', '5.8'],
      ['FC-10', '2', 'XYZ', '5.8'],
    ]);
    expect(readUblOrder(element('Invoice', []))).toBeNull();
  });

  it('is payable with tax, names the place of delivery, and its units by their codes', () => {
    const units = ['piece', 'metre', 'kg', 'sheet', 'drum', 'bundle'];
    const line = order.lines[0]!;
    const written = ublOrder({ ...order, lines: units.map((unit, at) => ({ ...line, number: at + 1, unit })) });
    expect(problems(written)).toEqual([]);
    const text = (...path: string[]) => at(written, ...path)!.text;
    expect(text('AnticipatedMonetaryTotal', 'TaxExclusiveAmount')).toBe('7440');
    expect(text('AnticipatedMonetaryTotal', 'PayableAmount')).toBe('7886.4');
    expect(text('TaxTotal', 'TaxSubtotal', 'TaxCategory', 'Percent')).toBe('6');
    expect(text('Delivery', 'DeliveryLocation', 'Address', 'CityName')).toBe('Kuala Besut');
    const items = written.children.filter((each) => each.name === 'OrderLine').map((each) => at(each, 'LineItem')!);
    expect(items.map((each) => at(each, 'Quantity')!.attributes['unitCode'])).toEqual([
      'EA',
      'MTR',
      'KGM',
      'ST',
      'XDR',
      'ZZ',
    ]);
    expect(items.map((each) => at(each, 'Note')?.text)).toEqual([
      ...Array<undefined>(5).fill(undefined),
      'Unit: bundle',
    ]);
    expect(readUblOrder(written)!.lines.map((each) => each.unit)).toEqual([
      ...['piece', 'metre', 'kilogram', 'sheet', 'drum', 'ZZ'],
    ]);
    const here = ublOrder({ ...order, shipTo: { name: 'Our place', address: null } });
    expect(problems(here)).toEqual([]);
    expect(at(here, 'Delivery', 'DeliveryLocation', 'Address')).toBeUndefined();
  });

  describe('as others write them', () => {
    const party = (name: string) => element('Party', [element('PartyName', [element('Name', name)])]);
    const money = (name: string, text: string) => element(name, text, { currencyID: 'MYR' });
    const delivery = (day: string, quantity?: string) =>
      element('Delivery', [
        quantity === undefined ? null : element('Quantity', quantity),
        element('RequestedDeliveryPeriod', [element('EndDate', day)]),
      ]);
    const allowance = (charge: boolean, amount: string, reason = '') =>
      element('AllowanceCharge', [
        element('ChargeIndicator', String(charge)),
        reason ? element('AllowanceChargeReason', reason) : null,
        money('Amount', amount),
      ]);
    const written = (line: (XmlElement | null)[], head: (XmlElement | null)[] = []) =>
      element('Order', [
        element('ID', '1'),
        element('IssueDate', '2027-03-01'),
        element('BuyerCustomerParty', [party('Kasturi')]),
        element('SellerSupplierParty', [party('Hulu')]),
        ...head,
        element('OrderLine', [element('LineItem', [element('ID', '1'), ...line])]),
      ]);
    const item = element('Item', [element('SellersItemIdentification', [element('ID', 'FC-10')])]);
    const price = (amount: string, more: XmlElement | null = null) =>
      element('Price', [money('PriceAmount', amount), more]);

    it('a line of several deliveries is as many lines; they come to all of it', () => {
      const of = (quantity: string, ...deliveries: XmlElement[]) => {
        const root = written([element('Quantity', quantity, { unitCode: 'EA' }), ...deliveries, item]);
        expect(problems(root)).toEqual([]);
        return readUblOrder(root)!.lines.map((each) => [
          each.quantity,
          each.day,
          ...each.against.map((word) => word.column),
        ]);
      };
      expect(of('10.000000', delivery('2027-03-08', '4.00'), delivery('2027-03-15', '6'))).toEqual([
        ['4', '2027-03-08'],
        ['6', '2027-03-15'],
      ]);
      expect(of('10', delivery('2027-03-08'))).toEqual([['10', '2027-03-08']]);
      expect(of('10', delivery('2027-03-08', '10.0'))).toEqual([['10', '2027-03-08']]);
      expect(of('10', delivery('2027-03-08', '9'))).toEqual([['10', '2027-03-08', 'quantity']]);
      expect(of('10', delivery('2027-03-08', '4'), delivery('2027-03-15'))).toEqual([
        ['4', '2027-03-08', 'quantity'],
        ['', '2027-03-15', 'quantity'],
      ]);
    });

    it('allowances and charges of a line are in the price they expect; those of the order stand against it by name', () => {
      const quantity = element('Quantity', '4', { unitCode: 'EA' });
      const expected = (...more: XmlElement[]) =>
        readUblOrder(written([quantity, ...more, price('100'), item]))!.lines[0]!.price;
      expect(expected()).toBe('100');
      expect(expected(allowance(false, '20'))).toBe('95');
      expect(expected(allowance(false, '20'), allowance(true, '8'))).toBe('97');
      const root = written([quantity, price('100'), item], [allowance(false, '50.00', 'Volume'), allowance(true, '9')]);
      expect(problems(root)).toEqual([]);
      expect(readUblOrder(root)!.against.map((each) => each.sentence)).toEqual([
        'The allowance “Volume” of 50.00 is on the whole order; it is neither taken nor left out: put it into the prices of the lines.',
        'The charge of 9 is on the whole order; it is neither taken nor left out: put it into the prices of the lines.',
      ]);
    });

    it('reads a place by its name, else by its street and town', () => {
      const to = (...inside: XmlElement[]) =>
        readUblOrder(written([item], [element('Delivery', [element('DeliveryLocation', inside)])]))!.shipTo;
      const address = element('Address', [element('StreetName', '3 Jetty Road'), element('CityName', 'Kuala Besut')]);
      expect(to(element('ID', 'S-1'), element('Description', 'Stores'))).toBe('Stores');
      expect(to(element('ID', 'S-1'), address)).toBe('S-1');
      expect(to(address)).toBe('3 Jetty Road, Kuala Besut');
    });

    it('leaves what others put into extensions alone', () => {
      const foreign: XmlElement = { ...element('Amount', 'much'), space: 'none' };
      const extensions: XmlElement = {
        ...element('UBLExtensions', [
          {
            ...element('UBLExtension', [{ ...element('ExtensionContent', [foreign]), space: 'extension' }]),
            space: 'extension',
          },
        ]),
        space: 'extension',
      };
      const root = written([item]);
      expect(problems({ ...root, children: [extensions, ...root.children] })).toEqual([]);
    });

    it.each<[string, (root: XmlElement) => XmlElement, string]>([
      ['the document', (root) => ({ ...root, space: 'none' }), 'Order: is not in its namespace of UBL 2.1'],
      [
        'an element',
        (root) => ({
          ...root,
          children: root.children.map((each, at) => (at === 0 ? { ...each, space: 'none' } : each)),
        }),
        'Order/ID: is not in a namespace of UBL 2.1',
      ],
      [
        'an aggregate as a basic component',
        (root) => ({
          ...root,
          children: root.children.map((each) => (each.name === 'OrderLine' ? { ...each, space: 'basic' } : each)),
        }),
        'Order/OrderLine: is a basic component and holds no elements',
      ],
      [
        'a basic component as an aggregate',
        (root) => ({
          ...root,
          children: root.children.map((each) => (each.name === 'ID' ? { ...each, space: 'aggregate' } : each)),
        }),
        'Order/ID: is an aggregate and holds no text',
      ],
    ])('refuses %s in another namespace', (_what, change, said) => {
      expect(problems(change(written([item])))).toContain(said);
    });
  });
});
