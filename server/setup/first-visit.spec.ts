import { unzipSync, strFromU8 } from 'fflate';
import { pino } from 'pino';
import { tick } from '../jobs/jobs';
import { EmptyWorld, letterOf, ZAINAB } from '../testing/empty';
import { fixedTerm, PLAIN_HEAD } from '../sample/terms';
import { refusalsOf, type Visitor } from '../testing/world';
import { until } from '../testing/process';

const customer = (number: string, name: string) => ({
  number,
  name,
  currency: 'MYR',
  delivered: 'no',
  priceOf: 'order',
  referenceRequired: 'no',
  contractedOnly: 'no',
  outOfUse: 'no',
});
const ITEM = {
  number: 'CL-10',
  name: 'Chlorine',
  unit: 'tub',
  listPrice: '185',
  route: 'stock',
  stocked: 'yes',
  reserving: 'never',
  approvalNeeded: 'no',
  outOfUse: 'no',
};
const AT = new Date('2027-02-28T17:30:00Z');

describe('a company of one’s own', () => {
  let world: EmptyWorld;
  beforeEach(async () => (world = await EmptyWorld.make({ now: () => AT })));
  afterEach(async () => {
    expect(await world.verify()).toEqual([]);
    await world.end();
  });

  const rowsOf = (sql: string) => world.serving.database.rows<{ n: number }>(sql);
  const counted = async (table: string) => (await rowsOf(`SELECT COUNT(*) AS n FROM ${table}`))[0]!.n;
  const missing = async (visitor: Visitor) =>
    (await visitor.get<{ rows: { what: string }[] }>('/api/missing')).rows.map(({ what }) => what);
  const keep = (visitor: Visitor, list: string, ...rows: Record<string, string>[]) =>
    visitor.does('keepList', { list, changes: rows.map((cells) => ({ id: null, stamp: '', cells })), removed: [] });

  it('U1 is begun by the word of the last start, once, and nobody else comes in', async () => {
    const visitor = world.nobody();
    expect(await visitor.get('/api/first-visit')).toEqual({ awaited: false });
    const first = await world.word();
    const word = (await world.word())!;
    expect(await visitor.get('/api/first-visit')).toEqual({ awaited: true });
    const begin = (said: string | null, letter = letterOf()) =>
      world.nobody().post('/api/first-visit', { ...letter, word: said, person: ZAINAB });
    expect(refusalsOf(await begin(first)).codes).toEqual(['word: first-word-wrong']);
    expect(refusalsOf(await begin(word, letterOf({ name: '' }))).codes).toEqual(['company.name: required']);
    expect([await counted('company'), await counted('session')]).toEqual([0, 0]);
    // Twice at once, as it was printed and without its dashes: one company.
    const both = await Promise.all([begin(word), begin(word.replaceAll('-', '').toUpperCase())]);
    expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
    expect(both.find(({ status }) => status === 200)!.body).toMatchObject({
      // Half past five in the evening there is the next day here.
      workDate: '2027-03-01',
      role: 'Owner',
      company: { code: 'SJP', currency: 'MYR' },
      demo: false,
    });
    expect(await world.word()).toBeNull();
    expect(refusalsOf(await begin(word)).codes).toEqual(['begun-already']);
    const [kept] = await world.serving.database.rows('SELECT country, time_zone FROM company');
    expect(kept).toEqual({ country: 'MY', timeZone: 'Asia/Kuala_Lumpur' });
    expect(await counted("location WHERE code IN ('MAIN', 'YARD')")).toBe(2);
    expect(await counted('account')).toBe(letterOf().accounts.length);
  });

  it('U2 numbers its documents on from where its books ended, and never leaves a gap', async () => {
    const zainab = await world.begun();
    const keepSeries = (kind: string, prefix: string, next: string) => ({ kind, prefix, next });
    await zainab.does('keepSeries', keepSeries('CI', 'INV/', '5001'));
    await zainab.does('keepSeries', keepSeries('AG', 'BA-', '12'));
    const { rows } = await zainab.get<{ rows: { kind: string }[] }>('/api/number-series');
    expect(rows.find(({ kind }) => kind === 'CI')).toEqual({ kind: 'CI', prefix: 'INV/', next: 5001, begun: false });
    expect((await zainab.refused('keepSeries', keepSeries('CN', 'inv/', '1'))).codes).toEqual(['prefix: prefix-taken']);
    await keep(zainab, 'customers', customer('C-1', 'Kolam Sri Ayu'));
    await keep(zainab, 'items', ITEM);
    const [found] = await world.serving.database.rows<{ customerId: number; itemId: number }>(
      'SELECT c.id AS customer_id, i.id AS item_id FROM customer c JOIN item i',
    );
    const draft = { ...PLAIN_HEAD, customerId: found!.customerId, title: 'Tablets', firstDay: '2027-01-01' };
    const lines = [fixedTerm(found!.itemId, '40', '150')];
    const [agreement] = await zainab.does('saveAgreement', { ...draft, lastDay: '2027-12-31', signedOn: null, lines });
    expect(agreement!.number).toBe('BA-0012');
    expect((await zainab.refused('keepSeries', keepSeries('AG', 'BA-', '20'))).codes).toEqual(['next: numbers-begun']);
    await zainab.does('keepSeries', keepSeries('AG', 'BA/27-', '13'));
    const [second] = await zainab.does('saveAgreement', { ...draft, lastDay: '2027-12-31', signedOn: null, lines });
    expect(second!.number).toBe('BA/27-0013');
    // What stands before a number is no folder.
    const paper = await fetch(`${world.serving.address}/api/documents/AG/${second!.id}/pdf`, {
      headers: { cookie: zainab.cookie },
    });
    expect([paper.status, paper.headers.get('content-disposition')]).toEqual([
      200,
      'inline; filename="BA-27-0013.pdf"',
    ]);
  });

  it('U1 U2 U3 takes its first order, ships it and invoices it; verify finds nothing', async () => {
    const zainab = await world.begun();
    expect(await zainab.get('/api/session')).toMatchObject({ session: { person: { name: 'Zainab' }, sisters: false } });
    expect(await missing(zainab)).toEqual(['items', 'customers', 'bank', 'people']);
    await keep(zainab, 'items', ITEM);
    await keep(zainab, 'customers', customer('C-1', 'Kolam Sri Ayu'));
    expect(await missing(zainab)).toEqual(['addresses', 'order', 'vendors', 'stock', 'bank', 'people']);
    await keep(zainab, 'ship-tos', {
      customer: 'C-1',
      label: 'Pump house',
      street: 'Jalan Renang 2',
      town: 'Ipoh',
      country: 'MY',
    });
    const opening = { lines: [{ item: 'cl-10', location: 'yard', quantity: '40', unitCost: '121', numbers: [] }] };
    expect((await zainab.refused('openStock', { lines: [{ ...opening.lines[0], item: 'NO' }] })).codes).toEqual([
      'lines.0.item: unknown',
    ]);
    const [journal] = await zainab.does('openStock', opening);
    expect((await zainab.refused('openStock', opening)).codes).toEqual(['lines.0.item: opened-already']);
    const trail = await zainab.get<{ journals: { entries: { name: string; debit: string | null }[] }[] }>(
      `/api/trail/JR/${journal!.id}`,
    );
    expect(trail.journals[0]!.entries).toMatchObject([
      { name: 'Inventory', debit: '4840' },
      { name: 'Opening balance', credit: '4840' },
    ]);
    const { rows } = await zainab.get<{ rows: { id: number; shipTos: { id: number }[] }[] }>('/api/customers?q=kolam');
    const yard = (await world.serving.database.rows<{ id: number }>("SELECT id FROM location WHERE code = 'YARD'"))[0]!
      .id;
    const [item] = await world.serving.database.rows<{ id: number }>('SELECT id FROM item');
    const [order] = await zainab.does('saveOrder', {
      id: null,
      version: null,
      customerId: rows[0]!.id,
      shipToId: rows[0]!.shipTos[0]!.id,
      customerReference: '',
      lines: [{ id: null, itemId: item!.id, quantity: '4', shipDate: '2027-03-02', route: 'stock', locationId: yard }],
    });
    await zainab.does('confirmOrder', { id: order!.id, version: 1 });
    expect(await missing(zainab)).not.toContain('order');
    const sheet = await zainab.get<{ lines: { id: number }[] }>(`/api/orders/${order!.id}`);
    await zainab.does('shipLines', {
      orderId: order!.id,
      lines: [{ lineId: sheet.lines[0]!.id, quantity: '4' }],
      others: [],
    });
    const [invoice] = await zainab.does('invoiceCustomer', { orderId: order!.id });
    const { total } = await zainab.get<{ total: string }>(`/api/customer-invoices/${invoice!.id}`);
    expect(total).toBe('784.4');
  });

  it('U1 a second company shares nothing with the first', async () => {
    const zainab = await world.begun();
    await keep(zainab, 'customers', customer('C-1', 'Kolam Sri Ayu'));
    expect(refusalsOf(await zainab.post('/api/companies', letterOf())).codes).toEqual(['company.code: code-taken']);
    const { status, body } = await zainab.post('/api/companies', letterOf({ code: 'SJT', currency: 'SGD' }));
    expect([status, (body as { company: { code: string } }).company.code]).toEqual([200, 'SJT']);
    expect(await zainab.get('/api/customers?q=')).toEqual({ rows: [] });
    expect((await zainab.get<{ rows: unknown[] }>('/api/lists/customers')).rows).toEqual([]);
    expect(await missing(zainab)).toContain('customers');
  });

  it('U2 a rate to come is taken on its day, once: what is kept by hand afterwards holds', async () => {
    const zainab = await world.begun();
    const { database } = world.serving;
    const parts = { database, clock: { now: () => AT }, log: pino({ level: 'silent' }) };
    const rate = async () =>
      (await database.rows<{ rate: string }>("SELECT rate FROM tax_code WHERE code = 'ST'"))[0]!.rate;
    // It is the first of March there.
    await keep(
      zainab,
      'tax-rates',
      { tax: 'ST', day: '2027-03-01', rate: '8' },
      { tax: 'ST', day: '2027-03-02', rate: '9' },
    );
    await tick(parts);
    expect(await rate()).toBe('8');
    const { rows } = await zainab.get<{ rows: { id: number; stamp: string; cells: Record<string, string> }[] }>(
      '/api/lists/tax-codes?q=ST',
    );
    const [{ id, stamp, cells }] = rows as [(typeof rows)[number]];
    await zainab.does('keepList', {
      list: 'tax-codes',
      changes: [{ id, stamp, cells: { ...cells, rate: '7' } }],
      removed: [],
    });
    await tick(parts);
    expect(await rate()).toBe('7');
    expect((await zainab.get<{ rows: unknown[] }>('/api/changes?act=tax%20rates')).rows).toHaveLength(1);
  });

  it('U5 takes all of a company’s data along, and nothing of another’s or secret', async () => {
    const zainab = await world.begun();
    await keep(zainab, 'customers', customer('C-1', 'Kolam, Sri "Ayu"'));
    await zainab.post('/api/companies', letterOf({ code: 'SJT' }));
    await keep(zainab, 'customers', customer('C-9', 'Elsewhere'));
    const response = await fetch(`${world.serving.address}/api/archive.zip`, { headers: { cookie: zainab.cookie } });
    const files = unzipSync(new Uint8Array(await response.arrayBuffer()));
    const customers = strFromU8(files['customer.csv']!);
    expect(customers).toContain('Elsewhere');
    expect(customers).not.toContain('Kolam');
    const { tables } = JSON.parse(strFromU8(files['description.json']!)) as {
      tables: { table: string; rows: number; columns: { name: string; refers: string | null }[] }[];
    };
    expect(tables.find(({ table }) => table === 'customer')).toMatchObject({ rows: 1 });
    expect(tables.flatMap(({ columns }) => columns).find(({ name }) => name === 'payment_terms_id')!.refers).toBe(
      'payment_terms.id',
    );
    expect(Object.keys(files).filter((name) => /session|token|invitation|^person\.csv/.test(name))).toEqual([]);
  });

  it('U2 brings files in whatever their order, each line once, also after a stop', async () => {
    const zainab = await world.begun();
    const bring = async (name: string, text: string) => {
      const content = Buffer.from(text).toString('base64');
      const { status, body } = await zainab.post('/api/bring-in', { list: '', name, content });
      if (status !== 200) return refusalsOf({ status, body }).codes;
      const { id } = body as { id: number };
      await settled(id);
      return id;
    };
    interface File {
      state: string;
      fresh: number;
      changed: number;
      alike: number;
      bad: number;
      problems: { line: number; column: string; typed: string; sentence: string }[];
    }
    const file = (id: number) => zainab.get<File>(`/api/bring-in/${id}`);
    const settled = (id: number) =>
      until(`file ${id}`, async () => !['looking', 'taking'].includes((await file(id)).state));
    const take = async (id: number, goodOnly = false) => {
      await zainab.does('takeBroughtIn', { id, goodOnly });
      await settled(id);
      return file(id);
    };
    expect(await bring('a.csv', 'Colour,Shape\nred,round')).toEqual(['list: no-list-for']);
    expect(await bring('a.csv', 'Number,Name,Unit,List price\n')).toEqual(['file: no-lines']);
    const addresses = (await bring(
      'addresses.csv',
      'Customer,Called,Street,Town,Country\nC-1,Gate,Jalan 1,Ipoh,MY',
    )) as number;
    expect(await file(addresses)).toMatchObject({
      bad: 1,
      problems: [{ line: 2, column: 'Customer', typed: 'C-1' }],
    });
    expect((await zainab.refused('takeBroughtIn', { id: addresses, goodOnly: false })).codes).toEqual([
      'goodOnly: run-has-bad',
      'nothing-to-take',
    ]);
    const many = Array.from({ length: 1203 }, (_, at) => `C-${at + 1},Customer ${at + 1},MYR`);
    const text = ['Number,Name,Currency', ...many, 'C-7,Again,MYR', 'X,Odd,XQZ'].join('\n');
    const customers = (await bring('customers.csv', text)) as number;
    expect(await file(customers)).toMatchObject({ state: 'ready', fresh: 1203, bad: 2 });
    expect(await take(customers, true)).toMatchObject({ state: 'taken', fresh: 1203, bad: 2 });
    expect(await counted('customer')).toBe(1203);
    await zainab.does('lookAgainAt', { id: customers });
    await settled(customers);
    expect(await file(customers)).toMatchObject({ fresh: 0, changed: 0, alike: 1203, bad: 2 });
    await zainab.does('lookAgainAt', { id: addresses });
    await settled(addresses);
    expect(await take(addresses)).toMatchObject({ state: 'taken', fresh: 1, bad: 0 });
    const changed = (await bring('customers.csv', 'Number,Credit limit\nC-2,5000\nC-3,\nC-9999,1')) as number;
    expect(await file(changed)).toMatchObject({ changed: 1, alike: 1, bad: 1 });
    // Taken out, a list is brought in again as it is.
    const csv = await fetch(`${world.serving.address}/api/kept.csv?list=customers`, {
      headers: { cookie: zainab.cookie },
    });
    const whole = (await bring('all.csv', await csv.text())) as number;
    expect(await file(whole)).toMatchObject({ fresh: 0, changed: 0, alike: 1203, bad: 0 });
    // What another server left lying is gone on with, and done once.
    const { database } = world.serving;
    const left = (await bring('left.csv', 'Number,Name,Currency\nL-1,Left,MYR')) as number;
    await zainab.does('takeBroughtIn', { id: left, goodOnly: false });
    await settled(left);
    await database.run("UPDATE bring_in SET state = 'taking', beat_at = '2020-01-01' WHERE id = ?", [left]);
    await database.run("UPDATE bring_in_part SET done_in = 'nothing' WHERE bring_in_id = ?", [left]);
    await zainab.does('lookAgainAt', { id: whole });
    await settled(left);
    expect(await counted("customer WHERE number = 'L-1'")).toBe(1);
  });
});
