import { dec, pointOf, sum } from '@core/kernel';
import { adjustmentJournal } from '@core/ledger';
import {
  countNeeds,
  decideBeginCount,
  decideEnterCount,
  decidePostCount,
  decideTakeBackCount,
  type CountGround,
  type CountState,
} from '@core/stock';
import { refuse } from '@core/refusals';
import { numbered, type CountedNumber, type SerialEffects, type SerialGround } from '@core/serial';
import * as contract from '@api/stock';
import { defineAct, numbersAtLast, orNotFound, takeNumbers, type Doer, type LeftToWrite } from '../acts';
import { locationsOf, ownCurrency } from '../catalogue';
import { into, type Columns, type Sql, type Tx } from '../db';
import { journalEntries, journalHeads } from '../ledger';
import { stockStatement } from '../on-hand';
import { loadStockAndNumbers, numbersToWrite } from '../serial';
import {
  countLineTable,
  countNumberTable,
  countSheetTable,
  stockEntryTable,
  type CountLine,
  type CountSheet,
} from './tables';

const NOTHING = { onHand: '0', reserved: '0', value: '0' };

/** The open sheet that counts an item `i` at a place; nothing where none does. */
const COUNTING = `COALESCE((SELECT MIN(s.number) FROM count_line l
  JOIN count_sheet s ON s.company_id = l.company_id AND s.id = l.count_sheet_id AND s.state = 'open' AND s.location_id = ?
 WHERE l.company_id = i.company_id AND l.item_id = i.id), '')`;

/** Begins a count: one sheet at a time is begun, so that no item stands on two. // W6 */
export const beginCount = defineAct(contract.beginCount, {
  right: 'goods',
  says: 'begin a count',
  done: 'count begun',
  async load(tx, { locationId, groupId, itemIds }, { companyId }) {
    const location = (await locationsOf(tx, companyId)).find(({ id }) => id === locationId) ?? null;
    // Two who begin a count there at once go one after the other.
    await tx.rows(`SELECT id FROM location WHERE company_id = ? AND id = ? ${tx.forUpdate}`, [companyId, locationId]);
    const named = itemIds.length > 0;
    const there = `EXISTS (SELECT 1 FROM stock s WHERE s.company_id = i.company_id AND s.item_id = i.id AND s.location_id = ?
      AND s.on_hand > 0)`;
    const items = await tx.rows<{ id: number; number: string; stocked: boolean; counting: string }>(
      `SELECT i.id, i.number, i.stocked, ${COUNTING} AS counting FROM item i
        WHERE i.company_id = ? AND ${named ? 'i.id IN (?)' : there} ${groupId === null ? '' : 'AND i.item_group_id = ?'}
        ORDER BY i.number LIMIT 1000`,
      [locationId, companyId, named ? itemIds : locationId, ...(groupId === null ? [] : [groupId])],
    );
    return { location, items, named };
  },
  decide: (ground) => decideBeginCount(ground),
  preview: ({ itemIds }) => ({ lines: itemIds.length }),
  async write(tx, { itemIds }, _ground, doer, { locationId, groupId, blind }) {
    const { companyId, personId } = doer;
    const number = (await takeNumbers(tx, companyId, { CT: 1 }))('CT');
    const [id] = await tx.insert(countSheetTable, [
      { companyId, number, locationId, itemGroupId: groupId, blind, madeBy: personId },
    ]);
    await tx.insertPlain(
      countLineTable,
      itemIds.map((itemId, at) => ({ companyId, countSheetId: id!, lineNo: at + 1, itemId })),
    );
    return { made: [{ kind: 'CT', id: id!, number }], touched: [] };
  },
});

type HeadRow = Columns<CountSheet, 'id number version locationId blind'> & { state: CountState; currency: string };
type LineRow = Columns<CountLine, 'id itemId was counted unitCost difference cost'> & { item: string; unit: string };

/** A count with its lines and the stock they are about, locked in that order. */
async function loadCount(sql: Sql, companyId: number, id: number, typed: readonly string[] = []) {
  const [row] = await sql.rows<HeadRow>(
    `SELECT s.id, s.number, s.version, s.state, s.location_id, s.blind, ${ownCurrency('s.company_id')} AS currency
       FROM count_sheet s WHERE s.company_id = ? AND s.id = ? ${sql.forUpdate}`,
    [companyId, id],
  );
  const sheet = orNotFound(row, 'This count');
  const lines = await sql.rows<LineRow>(
    `SELECT l.id, l.item_id, i.number AS item, i.unit, l.was, l.counted, l.unit_cost, l.difference, l.cost FROM count_line l
       JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id
      WHERE l.company_id = ? AND l.count_sheet_id = ? ORDER BY l.line_no`,
    [companyId, id],
  );
  const told = await sql.rows<CountedNumber & { lineId: number }>(
    `SELECT n.count_line_id AS line_id, n.number, n.says FROM count_line l
       JOIN count_number n ON n.company_id = l.company_id AND n.count_line_id = l.id
      WHERE l.company_id = ? AND l.count_sheet_id = ? ORDER BY n.id`,
    [companyId, id],
  );
  const { stock, numbers } = await loadStockAndNumbers(
    sql,
    companyId,
    lines.map(({ itemId }) => pointOf(itemId, sheet.locationId)),
    { typed: [...typed, ...told.map(({ number }) => number)], back: [{ kind: 'CT', id }] },
  );
  const place = (await locationsOf(sql, companyId)).find((each) => each.id === sheet.locationId)!.name;
  return {
    sheet,
    place,
    currency: sheet.currency,
    numbers,
    lines: lines.map((line) => ({
      ...line,
      numbers: told.filter(({ lineId }) => lineId === line.id),
      stock: stock.get(pointOf(line.itemId, sheet.locationId)) ?? NOTHING,
    })),
  } satisfies CountGround & { numbers: SerialGround };
}

const changed = ({ id, number, version }: Pick<HeadRow, 'id' | 'number' | 'version'>) => ({
  kind: 'CT' as const,
  id,
  number,
  version: version + 1,
});

/** What is counted, line by line: two may count one sheet at once. // W6 */
export const enterCount = defineAct(contract.enterCount, {
  right: 'goods',
  says: 'count stock',
  done: 'counted',
  load: (tx, { countId, lines }, { companyId }) =>
    loadCount(
      tx,
      companyId,
      countId,
      lines.flatMap(({ numbers = [] }) => numbers),
    ),
  decide: (ground, { lines }) => decideEnterCount(ground, ground.numbers, lines),
  preview: ({ lines }) => ({ lines: lines.length }),
  async write(tx, { lines }, { sheet }, { companyId, personId }) {
    await tx.batch([
      ...lines.map(({ id, was, counted, unitCost }) => ({
        sql: 'UPDATE count_line SET was = ?, counted = ?, unit_cost = ?, counted_by = ? WHERE company_id = ? AND id = ?',
        values: [was, counted, unitCost, counted === null ? null : personId, companyId, id],
      })),
      ...lines.map(({ id }) => ({
        sql: 'DELETE FROM count_number WHERE company_id = ? AND count_line_id = ?',
        values: [companyId, id],
      })),
      {
        sql: 'UPDATE count_sheet SET version = version + 1 WHERE company_id = ? AND id = ?',
        values: [companyId, sheet.id],
      },
    ]);
    await tx.insertPlain(
      countNumberTable,
      lines.flatMap(({ id, numbers }) => numbers.map((each) => ({ companyId, countLineId: id, ...each }))),
    );
    return { made: [], touched: [changed(sheet)] };
  },
});

/** An item that was found and is not on the sheet. // W6 */
export const addToCount = defineAct(contract.addToCount, {
  right: 'goods',
  says: 'add items to a count',
  done: 'added to a count',
  async load(tx, { countId, itemId }, { companyId }) {
    const ground = await loadCount(tx, companyId, countId);
    const [item] = await tx.rows<{ id: number; number: string; stocked: boolean; counting: string }>(
      `SELECT i.id, i.number, i.stocked, ${COUNTING} AS counting FROM item i WHERE i.company_id = ? AND i.id = ?`,
      [ground.sheet.locationId, companyId, itemId],
    );
    return { ...ground, item: orNotFound(item, 'This item') };
  },
  decide({ sheet, item, lines }) {
    if (sheet.state !== 'open') {
      return { ok: false, refusals: [refuse('count-not-open', '', { count: sheet.number, state: sheet.state })] };
    }
    if (lines.some(({ itemId }) => itemId === item.id)) {
      return { ok: false, refusals: [refuse('on-the-sheet', 'itemId', { item: item.number, count: sheet.number })] };
    }
    const begun = decideBeginCount({ location: { id: sheet.locationId }, items: [item], named: true });
    if (begun.ok) return { ok: true, effects: {}, warnings: [] };
    return { ok: false, refusals: begun.refusals.map((refusal) => ({ ...refusal, field: 'itemId' })) };
  },
  preview: () => ({}),
  async write(tx, _effects, { sheet, lines, item }, { companyId }) {
    await tx.insertPlain(countLineTable, [
      { companyId, countSheetId: sheet.id, lineNo: lines.length + 1, itemId: item.id },
    ]);
    await tx.run('UPDATE count_sheet SET version = version + 1 WHERE company_id = ? AND id = ?', [companyId, sheet.id]);
    return { made: [], touched: [changed(sheet)] };
  },
});

/** Posts the differences, with a reason: one journal, a stock entry for each. // W6 P1 P3 */
export const postCount = defineAct(contract.postCount, {
  right: 'goods',
  says: 'post counts',
  done: 'count posted',
  expectedVersion: ({ countId, version }) => ({ kind: 'CT', id: countId, version }),
  load: (tx, { countId }, { companyId }) => loadCount(tx, companyId, countId),
  decide(ground, { reason }, { workDate }) {
    const decision = numbered(decidePostCount(ground), ground.numbers, workDate, () => countNeeds(ground));
    if (reason.trim() !== '') return decision;
    const needed = refuse('required', 'reason', { what: 'The reason' });
    if (!decision.ok) return { ...decision, refusals: [needed, ...decision.refusals] };
    return { ok: false, refusals: [needed], effects: decision.effects };
  },
  second: ({ missing }, { sheet, currency }) =>
    missing === '0'
      ? []
      : [{ kind: 'write-off' as const, words: `Write off what ${sheet.number} did not find, ${currency} ${missing}` }],
  posts: (_effects, { workDate }) => workDate,
  preview: ({ lines, cost, notCounted }, { currency }) => ({
    lines: lines.map(({ lineId, difference, cost: worth }) => ({ lineId, difference, cost: worth })),
    cost,
    notCounted,
    currency,
  }),
  async write(tx, { lines, numbers }, { sheet }, doer, { reason }) {
    const { companyId, workDate } = doer;
    await tx.batch([
      ...lines.map(({ lineId, difference, cost }) => ({
        sql: 'UPDATE count_line SET difference = ?, cost = ? WHERE company_id = ? AND id = ?',
        values: [difference, cost, companyId, lineId],
      })),
      {
        sql: `UPDATE count_sheet SET state = 'posted', posted_on = ?, reason = ?, version = version + 1
               WHERE company_id = ? AND id = ?`,
        values: [workDate, reason.trim(), companyId, sheet.id],
      },
    ]);
    const left = await countToWrite(tx, doer, sheet.locationId, lines, numbers, sheet.id);
    return { ...left, made: [], touched: [changed(sheet)] };
  },
});

/** What was begun can be thrown away, as long as nothing of it was posted. */
export const cancelCount = defineAct(contract.cancelCount, {
  right: 'goods',
  says: 'throw counts away',
  done: 'count thrown away',
  expectedVersion: ({ countId, version }) => ({ kind: 'CT', id: countId, version }),
  load: (tx, { countId }, { companyId }) => loadCount(tx, companyId, countId),
  decide: ({ sheet }) =>
    sheet.state === 'open'
      ? { ok: true, effects: {}, warnings: [] }
      : { ok: false, refusals: [refuse('count-not-open', '', { count: sheet.number, state: sheet.state })] },
  preview: () => ({}),
  async write(tx, _effects, { sheet }, { companyId }) {
    await tx.run("UPDATE count_sheet SET state = 'cancelled', version = version + 1 WHERE company_id = ? AND id = ?", [
      companyId,
      sheet.id,
    ]);
    return { made: [], touched: [changed(sheet)] };
  },
});

/** Takes a posted count back by one that names it. // P1 W6 */
export const takeBackCount = defineAct(contract.takeBackCount, {
  right: 'goods',
  says: 'take counts back',
  done: 'count taken back',
  async load(tx, { countId }, { companyId }) {
    const ground = await loadCount(tx, companyId, countId);
    const [about] = await tx.rows<{ reverses: string; reversedBy: string }>(
      `SELECT COALESCE((SELECT x.number FROM count_sheet x WHERE x.company_id = s.company_id AND x.id = s.reverses_id), '') AS reverses,
              COALESCE((SELECT b.number FROM count_sheet b WHERE b.company_id = s.company_id AND b.reverses_id = s.id), '') AS reversed_by
         FROM count_sheet s WHERE s.company_id = ? AND s.id = ?`,
      [companyId, countId],
    );
    return { ...ground, sheet: { ...ground.sheet, ...about! } };
  },
  decide: (ground, input, { workDate }) =>
    numbered(decideTakeBackCount(ground, input), ground.numbers, workDate, () => [
      {
        way: 'back',
        of: { kind: 'CT', id: ground.sheet.id },
        document: ground.sheet.number,
        with: { kind: 'CT', at: 0 },
        from: 'out',
        heldAgain: [],
      },
    ]),
  second: ({ lines }, { sheet, currency }) => {
    const missing = lines.filter(({ cost }) => cost.startsWith('-'));
    return missing.length === 0
      ? []
      : [{ kind: 'write-off' as const, words: `Write off what ${sheet.number} found, in ${currency}` }];
  },
  posts: (_effects, { workDate }) => workDate,
  preview: ({ lines }, { currency }) => ({
    cost: sum(lines.map(({ cost }) => dec(cost))).toFixed(),
    currency,
  }),
  async write(tx, { lines, reason, numbers }, { sheet }, doer) {
    const { companyId, personId, workDate } = doer;
    const number = (await takeNumbers(tx, companyId, { CT: 1 }))('CT');
    const [id] = await tx.insert(countSheetTable, [
      {
        companyId,
        number,
        locationId: sheet.locationId,
        state: 'posted',
        madeBy: personId,
        postedOn: workDate,
        reason,
        reversesId: sheet.id,
      },
    ]);
    await tx.insertPlain(
      countLineTable,
      lines.map(({ itemId, difference, cost }, at) => ({
        companyId,
        countSheetId: id!,
        lineNo: at + 1,
        itemId,
        difference,
        cost,
      })),
    );
    const left = await countToWrite(tx, doer, sheet.locationId, lines, numbers, id!);
    return { ...left, made: [], touched: [{ kind: 'CT' as const, id: id!, number }, changed(sheet)] };
  },
});

/** The stock, its entries and the journal of a count, in the act's last trip. */
async function countToWrite(
  tx: Tx,
  doer: Doer,
  locationId: number,
  lines: readonly { itemId: number; difference: string; cost: string }[],
  numbers: SerialEffects,
  countId: number,
): Promise<Pick<LeftToWrite, 'statements' | 'insertions'>> {
  const { companyId, workDate } = doer;
  const moved = lines.filter(({ difference }) => !dec(difference).eq(0));
  const entries = adjustmentJournal(sum(moved.map(({ cost }) => dec(cost))).toFixed());
  const { statements, number } = numbersAtLast(companyId, { JR: entries.length > 0 ? 1 : 0 });
  const plans =
    entries.length > 0
      ? [{ number: number('JR'), source: { kind: 'CT' as const, id: countId }, postedOn: workDate, entries }]
      : [];
  const pieces = numbersToWrite(doer, numbers, () => countId);
  return {
    statements: [
      ...moved.map(({ itemId, difference, cost }) =>
        stockStatement(companyId, { itemId, locationId, quantity: difference, cost }),
      ),
      ...pieces.statements,
      ...statements,
    ],
    insertions: [
      into(
        stockEntryTable,
        moved.map(({ itemId, difference, cost }) => ({
          companyId,
          itemId,
          place: 'ours' as const,
          locationId,
          quantity: difference,
          cost,
          postedOn: workDate,
          documentKind: 'CT',
          documentId: countId,
        })),
      ),
      ...pieces.insertions,
      journalHeads(doer, plans),
      await journalEntries(tx, doer, plans),
    ],
  };
}
