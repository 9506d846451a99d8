import type * as z from 'zod';
import type { CustomerSheet, PartyChoice, VendorSheet } from '@api/parties';
import { wholeThread } from '../testing/whole-thread';
import { agreed, World, type Visitor } from '../testing/world';

type Choice = z.output<typeof PartyChoice>;

describe('customers and vendors', () => {
  let world: World;
  let salmah: Visitor;
  let thread: Awaited<ReturnType<typeof wholeThread>>;
  let agreement: { id: number; lineId: number };

  beforeAll(async () => {
    world = await World.make();
    salmah = await world.visitor();
    agreement = await agreed(world, salmah);
    thread = await wholeThread(world, salmah, agreement, '2', 'AR/5');
  });
  afterAll(() => world.end());

  const found = async (of: 'customers' | 'vendors', words: string) =>
    (await salmah.get<{ rows: Choice[] }>(`/api/${of}?q=${encodeURIComponent(words)}`)).rows.map((row) => row.name);

  it('are found by any part of name, number or phone, in any case', async () => {
    expect(await found('customers', 'teratai')).toEqual(['Teratai Bay Resort']);
    const [{ number } = { number: '' }] = (await salmah.get<{ rows: Choice[] }>('/api/customers?q=Kasturi')).rows;
    expect(await found('customers', number.toLowerCase())).toEqual(['Kasturi Bottling']);
    expect(await found('vendors', '5550 1101')).toEqual(['Arus Membrane Supply']);
    expect(await found('vendors', 'V-102')).toEqual(['Injap Timur Valves']);
    expect(await found('customers', 'nobody of that name')).toEqual([]);
  });

  it('are found by their people, who are told, and who are kept in lists', async () => {
    const [row] = (await salmah.get<{ rows: Choice[] }>('/api/customers?q=3102')).rows;
    expect(row).toMatchObject({ name: 'Teratai Bay Resort', detail: 'Azman, 013-5550 3102' });
    const [vendor] = (await salmah.get<{ rows: Choice[] }>('/api/vendors?q=farah')).rows;
    expect(vendor).toMatchObject({ name: 'Arus Membrane Supply', detail: 'Cik Farah, 012-5550 4101' });
    const customerId = world.masters.customers.get('Teratai Bay Resort')!.id;
    const cells = {
      customer: 'Teratai Bay Resort',
      name: 'Devi',
      work: 'Night desk',
      phone: '013-5550 3109',
      email: '',
    };
    const keep = (more: object) =>
      salmah.does('keepList', {
        list: 'customer-contacts',
        changes: [{ id: null, stamp: '', cells: { ...cells, ...more } }],
        removed: [],
      });
    await keep({});
    await expect(keep({})).rejects.toThrow(/Devi|already|twice/);
    const { contacts } = await salmah.get<z.output<typeof CustomerSheet>>(`/api/customers/${customerId}`);
    expect(contacts.map(({ name, work }) => [name, work])).toEqual([
      ['Azman', 'Pump house'],
      ['Devi', 'Night desk'],
      ['Puan Rohani', 'Purchasing'],
    ]);
  });

  it.each(['%', '_', "'", '\\', 'a%b'])('are not found by what means something to the database: %s', async (words) => {
    expect(await found('customers', words)).toEqual([]);
  });

  it('show what they owe, what makes it, and what they agreed', async () => {
    const id = world.masters.customers.get('Teratai Bay Resort')!.id;
    const customer = await salmah.get<z.output<typeof CustomerSheet>>(`/api/customers/${id}`);
    const invoice = await salmah.get<{ total: string }>(`/api/customer-invoices/${thread.invoice.id}`);
    expect(customer).toMatchObject({
      name: 'Teratai Bay Resort',
      balance: invoice.total,
      openItems: [{ invoice: { id: thread.invoice.id }, source: { id: thread.orderId }, owed: invoice.total }],
      agreements: [{ document: { id: agreement.id }, state: 'in-force', lastDay: '2027-12-31' }],
    });
    expect(customer.shipTos.length).toBeGreaterThan(1);
  });

  it('show what we owe them, and what they sell us', async () => {
    const id = world.masters.vendors.get('V-101')!;
    const vendor = await salmah.get<z.output<typeof VendorSheet>>(`/api/vendors/${id}`);
    const invoice = await salmah.get<{ total: string }>(`/api/vendor-invoices/${thread.vendorInvoice.id}`);
    expect(vendor).toMatchObject({ name: 'Arus Membrane Supply', balance: invoice.total });
    expect(vendor.openItems.map((item) => item.owed)).toEqual([invoice.total]);
    expect(vendor.items.find((item) => item.number === 'RO-4040')).toMatchObject({ unitPrice: '620' });
  });

  it('of another company are not there', async () => {
    expect(await salmah.get('/api/customers/999999')).toMatchObject({ status: 404 });
    expect(await salmah.get('/api/vendors/999999')).toMatchObject({ status: 404 });
    expect(await salmah.get('/api/vendors/x')).toMatchObject({ status: 400 });
  });
});
