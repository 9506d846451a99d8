import { layDesk } from '../sample/desk';
import { at, writtenOrder } from '../testing/ubl';
import { placed, agreed, World, WORK_DATE, type Visitor } from '../testing/world';
import { csvOf, xlsxOf } from './write-table';
import { readXml, ublXml } from './xml';
import { readUblOrder, ublProblems } from '@core/formats';

const HEADING = ['order', 'customer', 'ship to', 'reference', 'item', 'quantity', 'unit', 'ship date', 'price'];
const ROWS = [
  ['A', 'C-204', '', '', 'FC-10', '4', 'box', '2027-03-11', ''],
  ['A', '', '', '', 'PM-15', '1', '', '2027-03-12', '1200'],
  ['B', 'C-201', 'Jetty Store', 'TBR-9', 'TBR-F20', '50', '', '2027-03-15', ''],
];

describe('orders from files', () => {
  let world: World;
  let salmah: Visitor;

  beforeAll(async () => {
    world = await World.make();
    await layDesk(world.serving.database, world.masters, WORK_DATE, 7);
    salmah = await world.visitor();
  });
  afterAll(() => world.end());
  afterEach(async () => expect(await world.verify()).toEqual([]));

  const given = (name: string, content: Buffer, goodOnly = false) => ({
    name,
    content: content.toString('base64'),
    goodOnly,
  });
  const orderLines = async (id: number) => {
    const sheet = await salmah.get<{
      customerReference: string;
      lines: { quantity: string; amount: string; item: { number: string } }[];
    }>(`/api/orders/${id}`);
    return sheet.lines.map((line) => [line.item.number, line.quantity, line.amount].join(' '));
  };

  it('CSV: looked at first, then each becomes a draft, found together by its file', async () => {
    const input = given('march.csv', csvOf([HEADING, ...ROWS]));
    const look = await salmah.raw('bringInOrders/preview', { ...input, look: true });
    expect(look.body).toMatchObject({ effects: { orders: 2, rows: 3, good: 2, problems: [] } });
    const made = await salmah.does('bringInOrders', input);
    expect(await Promise.all(made.map(({ id }) => orderLines(id)))).toEqual([
      ['FC-10 100 580', 'PM-15 1 1200'],
      ['FC-20 50 490'],
    ]);
    const batches = await world.serving.database.rows('SELECT DISTINCT batch FROM sales_order WHERE id IN (?)', [
      made.map(({ id }) => id),
    ]);
    expect(batches).toEqual([{ batch: `march.csv ${WORK_DATE}` }]);
    // The same file again: a reference is used once; the order without one is a new one.
    const again = await salmah.refused('bringInOrders', input);
    expect(again.codes).toEqual(['file: file-has-problems']);
    const before = await count();
    await salmah.does('bringInOrders', { ...input, goodOnly: true });
    expect(await count()).toBe(before + 1);
  });

  const count = async () =>
    (await world.serving.database.rows<{ count: number }>('SELECT COUNT(*) AS count FROM sales_order'))[0]!.count;

  it('XLSX reads the same; a bad row makes nothing until the good ones are asked for', async () => {
    const bad = [...ROWS.slice(0, 2), ['A', '', '', '', 'NONE', 'x', '', 'never', '']];
    const input = given('april.xlsx', await xlsxOf('orders', [HEADING, ...bad]));
    const before = await count();
    expect((await salmah.refused('bringInOrders', input)).codes).toEqual(['file: file-has-problems']);
    expect(await count()).toBe(before);
    const look = await salmah.raw('bringInOrders/preview', { ...input, look: true });
    expect((look.body as { effects: { problems: { line: number; column: string }[] } }).effects.problems).toMatchObject(
      [
        { line: 4, column: 'item' },
        { line: 4, column: 'quantity' },
        { line: 4, column: 'ship date' },
      ],
    );
    const [made] = await salmah.does('bringInOrders', { ...input, goodOnly: true });
    expect(await orderLines(made!.id)).toHaveLength(2);
  });

  it('takes from agreements as typed orders do, all or nothing', async () => {
    const agreement = await agreed(world, salmah, {}, '10');
    const row = (order: string, quantity: string) => [
      order,
      'C-201',
      'Jetty Store',
      order,
      'RO-4040',
      quantity,
      '',
      '2027-03-20',
      '',
    ];
    const file = (...quantities: string[]) =>
      given(
        'calls.csv',
        csvOf([HEADING, ...quantities.map((quantity, index) => row(`Q-${quantity}-${index}`, quantity))]),
      );
    const released = async () =>
      (await salmah.get<{ values: { released: string } }>(`/api/agreements/${agreement.id}`)).values.released;
    await salmah.refused('bringInOrders', file('6', '5'));
    expect(await released()).toBe('0');
    await salmah.does('bringInOrders', file('6', '4'));
    expect(await released()).toBe('7400');
    await salmah.does('pauseAgreement', { id: agreement.id, version: 2, pause: true });
  });

  it('UBL 2.1: what a vendor is sent can be read, and a customer’s order comes in', async () => {
    const agreement = await agreed(world, salmah);
    const { purchaseId } = await placed(world, salmah, agreement, '6');
    const answer = await fetch(`${world.serving.address}/api/purchases/${purchaseId}/ubl`, {
      headers: { cookie: salmah.cookie },
    });
    const bytes = Buffer.from(await answer.arrayBuffer());
    expect(answer.headers.get('content-type')).toContain('application/xml');
    const root = readXml(bytes)!;
    expect(ublProblems(root)).toEqual([]);
    expect(readUblOrder(root)).toMatchObject({
      customer: ['Hulu Bening Water Works'],
      lines: [{ theirItem: 'RO-4040', quantity: '6', unit: 'piece' }],
    });
    expect(bytes.toString()).toContain(
      'xmlns:cbc="urn:oasis:names:specification:ubl:schema:xsd:CommonBasicComponents-2"',
    );

    const theirs = ublXml(writtenOrder('PO-778', 'C-204', [['FC-10', '2', 'XBX', '152.5']]));
    const [made] = await salmah.does('bringInOrders', given('order.xml', theirs));
    expect(await orderLines(made!.id)).toEqual(['FC-10 50 305']);
    expect(at(readXml(theirs)!, 'ID')!.text).toBe('PO-778');
    // Whatever prefixes they use: it is the namespaces that count.
    const other = theirs
      .toString()
      .replaceAll('cbc:', 'b:')
      .replaceAll('xmlns:cbc', 'xmlns:b')
      .replace('PO-778', 'PO-779');
    expect(ublProblems(readXml(Buffer.from(other.replace('xmlns:b:', 'xmlns:b')))!)).toEqual([]);
    const wrong = other.replace('CommonBasicComponents-2', 'SomethingElse-2');
    expect((await salmah.refused('bringInOrders', given('order.xml', Buffer.from(wrong)))).codes).toEqual([
      'file: not-ubl',
    ]);
    expect((await salmah.refused('bringInOrders', given('order.xml', theirs))).codes).toEqual([
      'file: file-has-problems',
    ]);
  });

  it.each([
    ['no file of a kind we read', 'a.csv', Buffer.from([0xff, 0xfe, 0x00]), 'file-unreadable'],
    ['a broken XML', 'a.xml', Buffer.from('<Order><ID>1</Order>'), 'file-unreadable'],
    ['an XML with entities', 'a.xml', Buffer.from('<!DOCTYPE Order [<!ENTITY a "b">]><Order/>'), 'file-unreadable'],
    ['an XML that is no order', 'a.xml', Buffer.from('<Invoice><ID>1</ID></Invoice>'), 'not-an-order'],
    [
      'an order without its parties',
      'a.xml',
      Buffer.from(
        '<Order xmlns="urn:oasis:names:specification:ubl:schema:xsd:Order-2"><ID>1</ID><IssueDate>2027-03-01</IssueDate></Order>',
      ),
      'not-ubl',
    ],
    [
      'an order in no namespace',
      'a.xml',
      Buffer.from(
        ublXml(writtenOrder('PO-1', 'C-204', [['FC-10', '2', 'XBX', '1']]))
          .toString()
          .replace(/ xmlns="[^"]*"/, ''),
      ),
      'not-an-order',
    ],
    ['a table without items', 'a.csv', Buffer.from('customer,quantity\nC-201,1\n'), 'columns-missing'],
  ])('refuses %s', async (_what, name, content, code) => {
    const before = await count();
    expect((await salmah.refused('bringInOrders', given(name, content))).codes).toEqual([`file: ${code}`]);
    expect(await count()).toBe(before);
  });
});
