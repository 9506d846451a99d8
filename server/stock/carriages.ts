import type * as z from 'zod';
import { pointOf, UNDER_WAY } from '@core/kernel';
import { numbered, numbersShown } from '@core/serial';
import { decideArrive, decideArrivesOn, decideCarriedBack } from '@core/stock';
import * as contract from '@api/stock';
import { defineAct, orNotFound } from '../acts';
import { locationsOf, ownCurrency } from '../catalogue';
import { into, likeOf, newId, PAGE_ROWS, type Bound, type Columns, type Sql } from '../db';
import { journalTable } from '../ledger/tables';
import { loadStockAndNumbers } from '../serial';
import { carriedNumbers, carriedToWrite } from './between';
import { loadOwnJournal } from './own-journal';
import { carriageArrivalTable, type Carriage } from './tables';

const NOTHING = { onHand: '0', reserved: '0', value: '0' };

const NOW = `SELECT w.id, w.journal_id, j.number, w.item_id, i.number AS item, ${ownCurrency('i.company_id')} AS currency, w.quantity, w.arrived, w.taken_back, w.due_date
  FROM carriage w JOIN journal j ON j.company_id = w.company_id AND j.id = w.journal_id
  JOIN item i ON i.company_id = w.company_id AND i.id = w.item_id`;

type NowRow = Columns<Carriage, 'id journalId itemId quantity arrived takenBack dueDate'> & {
  number: string;
  item: string;
  currency: string;
};

/** Goods under way, locked. */
async function loadCarriage(sql: Sql, companyId: number, id: number): Promise<NowRow> {
  await sql.rows(`SELECT id FROM carriage WHERE company_id = ? AND id = ? ${sql.forUpdate}`, [companyId, id]);
  const [row] = await sql.rows<NowRow>(`${NOW} WHERE w.company_id = ? AND w.id = ?`, [companyId, id]);
  return orNotFound(row, 'What is under way');
}

const leftWith = ({ journalId, number }: NowRow) => ({ kind: 'JR' as const, id: journalId, number });

/** Goods that were under way arrive: a journal of its own, as for what is there at once. // W6 P3 */
export const arrive = defineAct(contract.arrive, {
  right: 'goods',
  says: 'take in goods under way',
  done: 'arrived',
  async load(tx, input, { companyId }) {
    const carriage = await loadCarriage(tx, companyId, input.carriageId);
    const from = pointOf(carriage.itemId, UNDER_WAY);
    const points = [from, pointOf(carriage.itemId, input.to)];
    const { stock, numbers } = await loadStockAndNumbers(tx, companyId, points, { typed: input.numbers ?? [] });
    // The journal that brought a number under way last is the one it left with.
    const sent = await tx.rows<{ number: string }>(
      `SELECT s.number FROM serial s WHERE s.company_id = ? AND s.item_id = ? AND s.place = 'ours' AND s.location_id = ? AND ? IN (
              SELECT e.document_id FROM serial_entry e JOIN carriage w ON w.company_id = e.company_id AND w.journal_id = e.document_id
               WHERE e.company_id = s.company_id AND e.serial_id = s.id AND e.document_kind = 'JR' AND e.id = (
                SELECT MAX(l.id) FROM serial_entry l JOIN carriage x ON x.company_id = l.company_id AND x.journal_id = l.document_id
                 WHERE l.company_id = s.company_id AND l.serial_id = s.id AND l.document_kind = 'JR'))
        ORDER BY s.id`,
      [companyId, carriage.itemId, UNDER_WAY, carriage.journalId],
    );
    const locations = new Map((await locationsOf(tx, companyId)).map(({ id, name }) => [id, name]));
    const item = { id: carriage.itemId, number: carriage.item };
    return {
      carriage,
      item,
      locations,
      stock: stock.get(from) ?? NOTHING,
      currency: carriage.currency,
      numbers,
      sent: sent.map(({ number }) => number),
    };
  },
  decide: (ground, { to, quantity, numbers = [] }, { workDate }) =>
    numbered(decideArrive(ground, { to, quantity, numbers }), ground.numbers, workDate, (effects) => [
      carriedNumbers(effects, effects.typed),
    ]),
  posts: (_effects, { workDate }) => workDate,
  preview: ({ quantity, value, numbers }) => ({ quantity, value, numbers: numbersShown(numbers) }),
  async write(tx, effects, { carriage }, doer) {
    const plan = await carriedToWrite(tx, effects, doer);
    const { carriageId, quantity } = effects;
    return {
      ...plan,
      statements: [arrivedStatement(doer.companyId, carriageId, quantity), ...plan.statements],
      insertions: [...plan.insertions, arrival(doer.companyId, carriageId, quantity)],
      touched: [leftWith(carriage)],
    };
  },
});

/** Goods under way are to arrive on another day. // W6 */
export const arrivesOn = defineAct(contract.arrivesOn, {
  right: 'goods',
  says: 'say when goods under way arrive',
  done: 'arrives on another day',
  load: async (tx, { carriageId }, { companyId }) => ({ carriage: await loadCarriage(tx, companyId, carriageId) }),
  decide: ({ carriage }, { dueDate }, { workDate }) => decideArrivesOn(carriage, dueDate ?? '', workDate),
  preview: ({ was, dueDate }) => ({ was, dueDate }),
  async write(tx, { carriageId, dueDate }, { carriage }, { companyId }) {
    await tx.run('UPDATE carriage SET due_date = ? WHERE company_id = ? AND id = ?', [dueDate, companyId, carriageId]);
    return { made: [], touched: [leftWith(carriage)] };
  },
});

/** Takes back what a journal carried: there at once, left, or arrived. // W6 P1 */
export const carryBack = defineAct(contract.carryBack, {
  right: 'goods',
  says: 'take back what was carried between our places',
  done: 'taken back',
  async load(tx, { journalId }, { companyId }) {
    const [under] = await tx.rows<{ id: number }>(
      `SELECT w.id FROM carriage w WHERE w.company_id = ? AND (w.journal_id = ?
          OR w.id = (SELECT a.carriage_id FROM carriage_arrival a WHERE a.company_id = ? AND a.journal_id = ?))`,
      [companyId, journalId, companyId, journalId],
    );
    const carriage = under ? await loadCarriage(tx, companyId, under.id) : null;
    const entries = await tx.rows<{ itemId: number; item: string; locationId: number; quantity: string; cost: string }>(
      `SELECT e.item_id, i.number AS item, e.location_id, e.quantity, e.cost FROM stock_entry e
         JOIN item i ON i.company_id = e.company_id AND i.id = e.item_id
        WHERE e.company_id = ? AND e.document_kind = 'JR' AND e.document_id = ? ORDER BY e.quantity LIMIT 3`,
      [companyId, journalId],
    );
    const [left, came] = entries;
    const carried = entries.length === 2 && left!.itemId === came!.itemId && left!.quantity === `-${came!.quantity}`;
    const moved = carried ? { ...came!, from: left!.locationId, to: came!.locationId, value: came!.cost } : null;
    const points = moved ? [moved.from, moved.to].map((place) => pointOf(moved.itemId, place)) : [];
    const back = [{ kind: 'JR' as const, id: journalId }];
    const { stock, numbers } = await loadStockAndNumbers(tx, companyId, points, { back });
    // Read once nobody else can take it back.
    const { number, ...again } = await loadOwnJournal(tx, companyId, journalId);
    const there = moved && stock.get(pointOf(moved.itemId, moved.to));
    return { journalId, journal: { number }, moved, carriage, ...again, stock: there ?? NOTHING, numbers };
  },
  decide: (ground, input, { workDate }) =>
    numbered(decideCarriedBack(ground, input), ground.numbers, workDate, () => [
      {
        way: 'back',
        of: { kind: 'JR', id: ground.journalId },
        document: ground.journal.number,
        with: { kind: 'JR', at: 0 },
        from: 'out',
        heldAgain: [],
      },
    ]),
  posts: (_effects, { workDate }) => workDate,
  preview: ({ quantity, value }) => ({ quantity, value }),
  async write(tx, effects, { journalId, journal, carriage }, doer) {
    const { companyId } = doer;
    const plan = await carriedToWrite(tx, effects, doer, { reason: effects.reason, reversesId: journalId });
    const touched = [{ kind: 'JR' as const, id: journalId, number: journal.number }];
    const under = effects.carriage;
    if (!under) return { ...plan, touched };
    if (under.as === 'left') {
      const never = {
        sql: 'UPDATE carriage SET taken_back = TRUE WHERE company_id = ? AND id = ?',
        values: [companyId, under.id],
      };
      return { ...plan, statements: [never, ...plan.statements], touched };
    }
    const less = `-${effects.quantity}`;
    return {
      ...plan,
      statements: [arrivedStatement(companyId, under.id, less), ...plan.statements],
      insertions: [...plan.insertions, arrival(companyId, under.id, less)],
      touched: [...touched, leftWith(carriage!)],
    };
  },
});

const arrivedStatement = (companyId: number, carriageId: number, quantity: string) => ({
  sql: 'UPDATE carriage SET arrived = arrived + ? WHERE company_id = ? AND id = ?',
  values: [quantity, companyId, carriageId],
});

const arrival = (companyId: number, carriageId: number, quantity: string) =>
  into(carriageArrivalTable, [{ companyId, journalId: newId(journalTable, 0), carriageId, quantity }]);

const LATEST = '9999-12-31';
const CURSOR = /^(\d{4}-\d\d-\d\d)\|(\d{1,10})$/;

/** Goods carried between places: those under way by the day they arrive, or all, newest first. O(page). */
export async function listCarriages(
  sql: Sql,
  companyId: number,
  query: z.infer<typeof contract.listCarriages.query>,
): Promise<z.infer<typeof contract.listCarriages.out>> {
  const most = query.rows ?? PAGE_ROWS;
  const open = query.state === 'under-way';
  const where: string[] = [];
  const values: Bound[] = [];
  const [, day, id] = CURSOR.exec(query.cursor ?? '') ?? [];
  if (open) {
    where.push('AND w.open = TRUE');
    if (day) {
      where.push('AND (w.due_date > ? OR w.due_date = ? AND w.id > ?)');
      values.push(day, day, Number(id));
    }
  } else if (id) {
    where.push('AND w.id < ?');
    values.push(Number(id));
  }
  if (query.q?.trim()) {
    where.push('AND (j.number LIKE ? OR i.number LIKE ? OR i.name LIKE ?)');
    values.push(likeOf(query.q), likeOf(query.q), likeOf(query.q));
  }
  const rows = await sql.rows<
    Columns<Carriage, 'id journalId itemId fromId toId quantity arrived takenBack dueDate open'> & {
      number: string;
      leftOn: string;
      item: string;
      name: string;
      unit: string;
      fromName: string;
      toName: string;
      by: string;
      byNumber: number;
    }
  >(
    `SELECT w.id, w.journal_id, w.item_id, w.from_id, w.to_id, w.quantity, w.arrived, w.taken_back, w.due_date, w.open,
            j.number, j.posted_on AS left_on, i.number AS item, i.name, i.unit, f.name AS from_name, t.name AS to_name, n.name AS \`by\`,
            EXISTS (SELECT 1 FROM serial_series s WHERE s.company_id = w.company_id AND s.item_id = w.item_id) AS by_number
       FROM carriage w
       JOIN journal j ON j.company_id = w.company_id AND j.id = w.journal_id
       JOIN item i ON i.company_id = w.company_id AND i.id = w.item_id
       JOIN location f ON f.company_id = w.company_id AND f.id = w.from_id
       JOIN location t ON t.company_id = w.company_id AND t.id = w.to_id
       JOIN person n ON n.id = w.made_by
      WHERE w.company_id = ? ${where.join(' ')} ORDER BY ${open ? 'w.due_date, w.id' : 'w.id DESC'} LIMIT ?`,
    [companyId, ...values, most + 1],
  );
  const shown = rows.slice(0, most);
  const last = shown.at(-1);
  return {
    rows: shown.map((row) => ({
      id: row.id,
      document: { kind: 'JR' as const, id: row.journalId, number: row.number },
      item: { id: row.itemId, number: row.item, name: row.name, unit: row.unit },
      state: row.open ? ('under way' as const) : row.takenBack ? ('taken back' as const) : ('arrived' as const),
      quantity: row.quantity,
      arrived: row.arrived,
      from: { id: row.fromId, name: row.fromName },
      to: { id: row.toId, name: row.toName },
      leftOn: row.leftOn,
      dueDate: row.dueDate,
      by: row.by,
      byNumber: row.byNumber > 0,
    })),
    next: rows.length > most && last ? `${open ? last.dueDate : LATEST}|${last.id}` : null,
  };
}
