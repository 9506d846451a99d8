import ExcelJS from 'exceljs';
import { fixedTerm } from '../sample/terms';
import { agreed, World, type Visitor } from '../testing/world';
import { readTable } from './read-table';

const HEADING = 'agreement,party,about,first day,last day,item,committed,price';

describe('agreements in and out of files', () => {
  let world: World;
  let salmah: Visitor;

  beforeAll(async () => {
    world = await World.make();
    salmah = await world.visitor();
  });
  afterAll(() => world.end());
  afterEach(async () => expect(await world.verify()).toEqual([]));

  const file = (text: string, change: Record<string, unknown> = {}) => ({
    name: 'agreements.csv',
    content: Buffer.from(text).toString('base64'),
    goodOnly: false,
    ...change,
  });
  const raw = (path: string) => fetch(world.serving.address + path, { headers: { cookie: salmah.cookie } });
  const count = async () => (await world.serving.database.rows('SELECT id FROM agreement')).length;

  it('G4 a file with bad lines is told line by line and makes nothing, until its good lines are taken', async () => {
    const text = [
      HEADING,
      'A,C-201,Membranes,2027-01-01,2027-12-31,RO-4040,100,740',
      ',,,,,RO-9999,10,5',
      ',,,,,FC-20,-4,9',
      'B,C-207,Salt,2027-01-01,2026-12-31,SALT-25,100,26',
      'C,C-208,Pumps,2027-01-01,31/12,PM-15,20,1250',
    ].join('\n');
    const before = await count();
    const seen = await salmah.post('/api/acts/bringInAgreements/preview', file(text, { look: true }));
    expect((seen.body as { effects: unknown }).effects).toMatchObject({
      agreements: 3,
      rows: 5,
      good: 2,
      problems: [
        { line: 3, column: 'item', sentence: 'RO-9999 is no item or item group here.' },
        { line: 4, column: 'committed' },
        { line: 5, column: 'last day' },
      ],
    });
    const refused = await salmah.refused('bringInAgreements', file(text));
    expect(refused.codes).toEqual(['file: file-has-problems']);
    expect(await count()).toBe(before);
    const made = await salmah.does('bringInAgreements', file(text, { goodOnly: true }));
    expect(made).toHaveLength(2);
    expect(await salmah.get(`/api/agreements/${made[0]!.id}`)).toMatchObject({
      state: 'draft',
      title: 'Membranes',
      values: { committed: '74000' },
    });
  });

  it.each<[string, Record<string, unknown>, string]>([
    [
      'that is no file of these',
      { name: 'a.xlsx', content: Buffer.from('PK nonsense').toString('base64') },
      'file: file-unreadable',
    ],
    [
      'in bytes that are no text',
      { content: Buffer.from([0xff, 0xfe, 0x00, 0x41]).toString('base64') },
      'file: file-unreadable',
    ],
    ['with other columns', { content: Buffer.from('a,b\n1,2').toString('base64') }, 'file: columns-missing'],
    ['with nothing in it', { content: Buffer.from(HEADING).toString('base64') }, 'file: file-empty'],
  ])('G4 refuses a file %s', async (_what, change, code) => {
    expect((await salmah.refused('bringInAgreements', file('', change))).codes).toEqual([code]);
  });

  it('writes the list as CSV and XLSX with its filters, and brings both in again', async () => {
    const { id } = await agreed(world, salmah, {
      title: 'Cartridges, "long"',
      limitPolicy: 'split',
      lines: [
        fixedTerm(world.item('FC-20'), '1000', '8.5', { breaks: [{ from: '100', value: '8.25' }], notes: '=1+1' }),
        fixedTerm(world.item('RO-4040'), '10', '8', { priceKind: 'discount' }),
      ],
    });
    const { number } = await salmah.get<{ number: string }>(`/api/agreements/${id}`);
    for (const format of ['csv', 'xlsx']) {
      const answer = await raw(
        `/api/agreements.${format}?q=${encodeURIComponent('Cartridges, "long"')}&state=in-force`,
      );
      expect(answer.headers.get('content-disposition')).toContain(`.${format}"`);
      const content = Buffer.from(await answer.arrayBuffer());
      const table = await readTable(`a.${format}`, content);
      expect((table as string[][]).map((row) => row[0])).toEqual(['agreement', number, number]);
      const made = await salmah.does('bringInAgreements', {
        name: `a.${format}`,
        content: content.toString('base64'),
        goodOnly: false,
      });
      expect(await salmah.get(`/api/agreements/${made[0]!.id}`)).toMatchObject({
        title: 'Cartridges, "long"',
        limitPolicy: 'split',
        lines: [
          { committed: '1000', priceValue: '8.5', breaks: [{ from: '100', value: '8.25' }], notes: '=1+1' },
          { committed: '10', priceKind: 'discount', priceValue: '8' },
        ],
      });
      await salmah.does('cancelAgreement', { id: made[0]!.id, version: 1 });
    }
    // A cell that begins like a formula is written so that no spreadsheet runs it.
    expect(await (await raw('/api/agreements.csv')).text()).toContain("'=1+1");
    expect((await fetch(`${world.serving.address}/api/agreements.csv`)).status).toBe(401);
  });

  it('reads dates and formulas of a workbook', async () => {
    const workbook = new ExcelJS.Workbook();
    const sheet = workbook.addWorksheet('Agreements');
    sheet.addRow(HEADING.split(','));
    sheet.addRow([
      'A',
      'C-201',
      'Membranes',
      new Date(Date.UTC(2027, 0, 1)),
      new Date(Date.UTC(2027, 11, 31)),
      'RO-4040',
      100,
      { formula: '700+40', result: 740 },
    ]);
    const content = Buffer.from(await workbook.xlsx.writeBuffer()).toString('base64');
    const [made] = await salmah.does('bringInAgreements', { name: 'a.xlsx', content, goodOnly: false });
    expect(await salmah.get(`/api/agreements/${made!.id}`)).toMatchObject({
      firstDay: '2027-01-01',
      lastDay: '2027-12-31',
      values: { committed: '74000' },
    });
  });

  it('copies an agreement into a draft, and prints it', async () => {
    const { id } = await agreed(world, salmah, {
      rebate: { kind: 'step', by: 'value', tiers: [{ from: '10', rate: '2' }] },
      wholeLimit: '50000',
    });
    const [copy] = await salmah.does('copyAgreement', { id });
    expect(await salmah.get(`/api/agreements/${copy!.id}`)).toMatchObject({
      state: 'draft',
      wholeLimit: '50000',
      rebate: { kind: 'step', tiers: [{ from: '10', rate: '2' }] },
      values: { committed: '74000', released: '0' },
    });
    const answer = await raw(`/api/documents/AG/${id}/pdf`);
    expect(answer.headers.get('content-type')).toBe('application/pdf');
    const content = Buffer.from(await answer.arrayBuffer());
    expect(content.subarray(0, 5).toString()).toBe('%PDF-');
    expect(content.length).toBeGreaterThan(2000);
    expect((await raw('/api/documents/AG/999999/pdf')).status).toBe(404);
  });

  it('A4 sums fulfilment by what is asked, in own currencies or the company’s, and as files', async () => {
    const selat = world.masters.customers.get('Selat Cruise Lines')!;
    const [made] = await salmah.does('saveAgreement', {
      ...(await import('../sample/terms')).PLAIN_HEAD,
      customerId: selat.id,
      firstDay: '2027-01-01',
      lastDay: '2027-12-31',
      lines: [fixedTerm(world.item('RO-4040'), '10', '240')],
    });
    await salmah.does('putInForce', { id: made!.id, version: 1 });
    interface Out {
      rows: { name: string; currency: string; committed: string; agreements: number }[];
      largest: { document: { id: number } }[];
      unrated: string[];
    }
    const own = await salmah.get<Out>('/api/fulfilment?by=currency&money=own');
    const singapore = own.rows.find((row) => row.currency === 'SGD');
    expect(singapore).toMatchObject({ committed: '2400', agreements: 1 });
    const company = await salmah.get<Out>('/api/fulfilment?by=customer');
    expect(company.rows.find((row) => row.name === 'Selat Cruise Lines')).toMatchObject({
      currency: 'MYR',
      committed: '8184',
    });
    // Every cut sums to the same.
    const total = (out: Out) => out.rows.reduce((sum, row) => sum + Math.round(Number(row.committed) * 100), 0);
    for (const by of ['agreement', 'organisation', 'group', 'currency']) {
      expect([by, total(await salmah.get<Out>(`/api/fulfilment?by=${by}`))]).toEqual([by, total(company)]);
    }
    const narrowed = await salmah.get<Out>(`/api/fulfilment?by=agreement&customerId=${selat.id}`);
    expect(narrowed.largest.map((each) => each.document.id)).toEqual([made!.id]);
    await world.serving.database.run("DELETE FROM exchange_rate WHERE currency = 'SGD'");
    expect((await salmah.get<Out>('/api/fulfilment')).unrated).toEqual(['SGD']);
    const table = await readTable(
      'f.csv',
      Buffer.from(await (await raw('/api/fulfilment.csv?by=currency&money=own')).arrayBuffer()),
    );
    expect(table![0]).toEqual([
      'currency',
      'detail',
      'currency',
      'agreements',
      'committed',
      'released',
      'shipped',
      'invoiced',
    ]);
    expect((await raw('/api/fulfilment?by=weather')).status).toBe(400);
  });
});
