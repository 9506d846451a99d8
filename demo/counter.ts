import { addDays, type Day } from '@core/kernel';
import type { Database } from '../server/db';
import { Actor } from '../server/sample/actor';
import { layCounter } from '../server/sample/counter';
import type { Masters } from '../server/sample/masters';
import { fixedTerm, PLAIN_HEAD } from '../server/sample/terms';

/** Who buys with money paid ahead: what they call off at the counter is agreed and covered. */
const PAID_AHEAD = 'Kasturi Bottling';

interface Kept {
  id: number;
  version: number;
  lines: { id: number; itemId: number; open: string }[];
}

/**
 * The counter of a demo: yesterday's drawer closed two short, today's open; an order kept for the till under an agreement
 * with a prepayment, one by a plumber with a permit, and one with something not taken along. // C1 C3 C4
 */
export async function layCounterStory(database: Database, masters: Masters, workDate: Day): Promise<void> {
  const { companyId } = masters;
  const { tillIds, contacts, hafiz } = await layCounter(database, masters, workDate);
  const actor = new Actor(database, companyId, hafiz, 'counter');
  const tillId = tillIds[0]!;
  const yesterday = addDays(workDate, -1);
  const keep = async (
    lines: readonly (readonly [item: string, quantity: string, inDays?: number])[],
    day: Day,
    who: { customerId?: number; contactId?: number } = {},
  ): Promise<Kept> => {
    const [id] = await actor.does(
      'keepAtCounter',
      {
        id: null,
        version: null,
        tillId,
        customerId: who.customerId ?? null,
        contactId: who.contactId ?? null,
        lines: lines.map(([item, quantity, inDays = 0]) => ({
          id: null,
          itemId: masters.items.get(item)!.id,
          quantity,
          shipDate: addDays(day, inDays),
        })),
      },
      day,
    );
    const rows = await database.rows<{ id: number; itemId: number; open: string; version: number }>(
      `SELECT l.id, l.item_id, l.quantity AS open, o.version FROM sales_order_line l
         JOIN sales_order o ON o.company_id = l.company_id AND o.id = l.order_id
        WHERE l.company_id = ? AND l.order_id = ? ORDER BY l.line_no`,
      [companyId, id!],
    );
    return { id: id!, version: rows[0]!.version, lines: rows };
  };
  const sell = async ({ id, version, lines }: Kept, day: Day, cash: string, left: number[] = []) => {
    const take = lines.map((line, at) => ({ lineId: line.id, quantity: left.includes(at) ? '' : line.open }));
    const paid = { later: false, cash, cardIds: [], vouchers: [], onAccount: false };
    await actor.does('sellAtTill', { tillId, orders: [{ id, version }], take, ...paid }, day);
  };
  const counts = (twenties: number, fives: number) => [
    { piece: '20', count: String(twenties) },
    { piece: '5', count: String(fives) },
  ];
  await actor.does('openDrawer', { tillId, counts: counts(8, 8) }, yesterday);
  const rahim = { contactId: contacts.get('Rahim the plumber')! };
  await sell(await keep([['SALT-25', '2']], yesterday), yesterday, '100.00');
  await sell(
    await keep(
      [
        ['GAC-25', '1'],
        ['FC-10', '4'],
      ],
      yesterday,
      rahim,
    ),
    yesterday,
    '300.00',
  );
  await sell(
    await keep(
      [
        ['GAC-25', '2'],
        ['SALT-25', '6', 3],
      ],
      yesterday,
      { contactId: contacts.get('Uncle Lim')! },
    ),
    yesterday,
    '1000.00',
    [1],
  );
  const [drawer] = await database.rows<{ cash: string }>(
    'SELECT cash FROM drawer WHERE company_id = ? AND open_till = ?',
    [companyId, tillId],
  );
  // Two short: so many of the smallest coin, and the rest in ones.
  const short = Math.round((Number(drawer!.cash) - 2) * 20);
  const closing = [
    { piece: '1', count: String(Math.floor(short / 20)) },
    { piece: '0.05', count: String(short % 20) },
  ];
  await actor.does('closeDrawer', { tillId, counts: closing, reason: 'Two short, counted twice' }, yesterday);
  await actor.does('openDrawer', { tillId, counts: counts(8, 8) }, workDate);
  await sell(await keep([['FC-20', '3']], workDate), workDate, '50.00');
  await keep(
    [
      ['SALT-25', '4'],
      ['HY-25', '1', 2],
    ],
    workDate,
    rahim,
  );
  const customerId = masters.customers.get(PAID_AHEAD)!.id;
  const [agreementId] = await actor.does(
    'saveAgreement',
    {
      ...PLAIN_HEAD,
      customerId,
      title: 'Salt, fetched at the counter',
      firstDay: addDays(workDate, -30),
      lastDay: addDays(workDate, 335),
      signedOn: addDays(workDate, -32),
      lines: [fixedTerm(masters.items.get('SALT-25')!.id, '400', '24.5')],
    },
    workDate,
  );
  await actor.does('putInForce', { id: agreementId!, version: 1 }, workDate);
  await actor.does(
    'takePrepayment',
    { agreementId: agreementId!, agreementLineId: null, amount: '250.00', takenOn: workDate },
    workDate,
  );
  await keep(
    [
      ['SALT-25', '8'],
      ['FC-20', '2'],
    ],
    workDate,
    { customerId },
  );
}
