import { refusal, Stage } from '../../test/stage';
import { InvoiceCustomerSheet } from './invoice-customer-sheet';

const line = (id: number, order: number, change = {}) => ({
  shipmentLineId: id,
  order: { kind: 'SO', id: order, number: `SO-000${order}` },
  orderLineId: 20 + id,
  lineNo: 1,
  reference: 'KB-1',
  item: { id: 2, number: 'GAC-25', name: 'Carbon', unit: 'bag' },
  shipment: { kind: 'SH', id: 4, number: `SH-00${id}` },
  shippedOn: '2027-02-26',
  open: '3',
  unitPrice: '180',
  currency: 'MYR',
  ...change,
});
const data = {
  customer: { id: 3, name: 'Kasturi Bottling' },
  orders: [{ id: 2, number: 'SO-0002' }],
  currency: 'MYR',
};
const effects = {
  currency: 'MYR',
  dueDate: '2027-03-31',
  net: '540',
  tax: '0',
  total: '540',
  own: null,
  drawn: '0',
  taxes: [],
  allowances: [],
  lines: [{ shipmentLineId: 12, orderLineId: 32, quantity: '3', unitPrice: '180', net: '530', allowance: '10' }],
};
const staged = (change = {}) =>
  Stage.of(InvoiceCustomerSheet, {
    data,
    workDate: '2027-03-01',
    reads: () => ({ rows: [line(11, 1), line(12, 2), line(13, 3, { currency: 'SGD' })] }),
    previews: () => effects,
    ...change,
  });
const sent = (stage: Stage) => stage.previewed.at(-1)!.input;

describe('invoicing a customer', () => {
  it('begins with what went out on the order one came from, today, and offers the rest of theirs', async () => {
    const stage = await staged();
    expect(sent(stage)).toEqual({
      orderId: 2,
      others: [],
      lines: [{ shipmentLineId: 12, quantity: '3' }],
      invoiceDate: '2027-03-01',
    });
    expect(stage.text('table')).toContain('Also theirs, and not invoiced');
    expect(stage.text('table')).not.toContain('SO-0003');
    // An amount before what is allowed on the invoice.
    expect(stage.text('table')).toContain('540.00');
    expect(stage.text('footer')).toContain('1 line of theirs stays to be invoiced.');
  });

  it('takes all of theirs on one invoice, or part of it, on another day', async () => {
    const stage = await staged();
    await stage.press('Take all of it');
    expect(sent(stage)).toMatchObject({
      orderId: 2,
      others: [1],
      lines: [
        { shipmentLineId: 12, quantity: '3' },
        { shipmentLineId: 11, quantity: '3' },
      ],
    });
    await stage.type('To invoice of SO-0002 line 1, SH-0012', '');
    await stage.type('Dated', '27/2');
    expect(sent(stage)).toMatchObject({ orderId: 1, others: [], invoiceDate: '2027-02-27' });
    await stage.press('Post the invoice');
    expect(stage.acted.at(-1)!.name).toBe('invoiceCustomer');
  });

  it('without an order to come from begins with all of theirs; with nothing at all it asks for nothing', async () => {
    const stage = await staged({ data: { ...data, orders: [] } });
    expect(sent(stage)).toMatchObject({ orderId: 1, others: [2], lines: [{ quantity: '3' }, { quantity: '3' }] });
    expect(stage.text('table')).not.toContain('Also theirs');
    stage.close();
    const empty = await staged({ data: { ...data, orders: [] }, reads: () => ({ rows: [] }) });
    expect(empty.previewed).toEqual([]);
    expect(empty.text('table')).toContain('Nothing went out that is not invoiced.');
  });

  it('says at its line what is refused', async () => {
    const stage = await staged({ refused: [refusal('above-uninvoiced', 'lines.0.quantity', 'More than went out.')] });
    await stage.press('Post the invoice');
    expect(stage.text('table')).toContain('More than went out.');
  });
});
