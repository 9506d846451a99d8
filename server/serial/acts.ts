import type { DocumentKind } from '@core/kernel';
import { decideCorrect, decideKeep, decidePart } from '@core/serial';
import * as contract from '@api/serial';
import { defineAct, orNotFound } from '../acts';
import type { Columns, Sql } from '../db';
import { openSerial } from './reads';
import type { SerialRow, SerialSeries } from './tables';

/** Keeps an item by number, or changes how its numbers are made. // P6 */
export const keepByNumber = defineAct(contract.keepByNumber, {
  right: 'lists',
  says: 'keep items by number',
  done: 'kept by number',
  async load(tx, { itemId, pattern }, { companyId }) {
    // Whoever receives or reports it meanwhile waits, and finds it kept by number.
    await tx.batch([
      {
        sql: `SELECT p.id FROM purchase_order_line l JOIN purchase_order p ON p.company_id = l.company_id AND p.id = l.purchase_order_id
               WHERE l.company_id = ? AND l.item_id = ? AND p.state = 'placed' ORDER BY p.id ${tx.forUpdate}`,
        values: [companyId, itemId],
      },
      {
        sql: `SELECT p.id FROM planned_order p WHERE p.company_id = ? AND p.open AND p.item_id = ? ORDER BY p.id ${tx.forUpdate}`,
        values: [companyId, itemId],
      },
    ]);
    const [item] = await tx.rows<{ number: string; unit: string; goods: number }>(
      `SELECT i.number, i.unit, i.stocked OR i.obtained IN ('make', 'assemble') OR EXISTS (SELECT 1 FROM item_vendor v
                WHERE v.company_id = i.company_id AND v.item_id = i.id) AS goods FROM item i WHERE i.company_id = ? AND i.id = ? ${tx.forUpdate}`,
      [companyId, itemId],
    );
    // Nobody brings or takes any meanwhile.
    const stock = await tx.rows<{ onHand: string }>(
      `SELECT on_hand FROM stock WHERE company_id = ? AND item_id = ? AND on_hand <> 0 ORDER BY location_id ${tx.forUpdate}`,
      [companyId, itemId],
    );
    const [running] = await tx.rows<{ number: string }>(
      `SELECT p.number FROM planned_order p WHERE p.company_id = ? AND p.state = 'running' AND p.open AND (p.item_id = ?
          OR EXISTS (SELECT 1 FROM planned_component k WHERE k.company_id = p.company_id AND k.planned_order_id = p.id AND k.item_id = ?))
        ORDER BY p.id LIMIT 1`,
      [companyId, itemId, itemId],
    );
    const [series] = await tx.rows<Columns<SerialSeries, 'nextCount'>>(
      `SELECT next_count FROM serial_series WHERE company_id = ? AND item_id = ? ${tx.forUpdate}`,
      [companyId, itemId],
    );
    const [before = ''] = pattern.trim().split(/[#{]/);
    const numbers = await tx.rows<{ number: string }>(
      "SELECT number FROM serial WHERE company_id = ? AND item_id = ? AND number LIKE CONCAT(?, '%')",
      [companyId, itemId, before.replace(/[\\%_]/g, (each) => `\\${each}`)],
    );
    const { goods, ...about } = orNotFound(item, 'This item');
    return {
      item: about,
      goods: Boolean(goods),
      next: series?.nextCount ?? null,
      onHand: stock[0]?.onHand ?? '0',
      running: running?.number ?? '',
      numbers: numbers.map(({ number }) => number),
    };
  },
  decide: (ground, input, { workDate }) => decideKeep(ground, input, workDate),
  preview: ({ pattern, nextNumber }) => ({ pattern, next: nextNumber }),
  async write(tx, { pattern, next }, _ground, { companyId }, { itemId }) {
    await tx.run(
      `INSERT INTO serial_series (company_id, item_id, pattern, next_count) VALUES (?, ?, ?, ?)
           ON DUPLICATE KEY UPDATE pattern = VALUES(pattern), next_count = VALUES(next_count)`,
      [companyId, itemId, pattern, next],
    );
    return { made: [], touched: [] };
  },
});

type FoundRow = Columns<SerialRow, 'id itemId number place'> & {
  item: string;
  location: string;
  order: string | null;
};

/** A piece, locked. */
async function loadSerial(sql: Sql, companyId: number, id: number): Promise<FoundRow> {
  const [row] = await sql.rows<FoundRow>(`${FOUND} WHERE s.company_id = ? AND s.id = ? ${sql.forUpdate}`, [
    companyId,
    id,
  ]);
  return orNotFound(row, 'This serial number');
}

const FOUND = `SELECT s.id, s.item_id, s.number, s.place, i.number AS item, lo.name AS location,
       (SELECT CONCAT(o.number, ' line ', l.line_no) FROM sales_order_line l
          JOIN sales_order o ON o.company_id = l.company_id AND o.id = l.order_id
         WHERE l.company_id = s.company_id AND l.id = s.order_line_id) AS \`order\`
  FROM serial s JOIN item i ON i.company_id = s.company_id AND i.id = s.item_id
  JOIN location lo ON lo.company_id = s.company_id AND lo.id = s.location_id`;

/** Writes a mistyped number as it is. // P6 */
export const correctNumber = defineAct(contract.correctNumber, {
  right: 'goods',
  says: 'correct serial numbers',
  done: 'serial number corrected',
  async load(tx, { serialId, number }, { companyId }) {
    const serial = await loadSerial(tx, companyId, serialId);
    const [taken] = await tx.rows<FoundRow>(`${FOUND} WHERE s.company_id = ? AND s.item_id = ? AND s.number = ?`, [
      companyId,
      serial.itemId,
      number.trim(),
    ]);
    const words = taken && { place: taken.place, at: taken.location, order: taken.order ?? '' };
    const born = (await openSerial(tx, companyId, serialId)).born;
    return { serial, born, taken: words ?? null };
  },
  decide: (ground, input) => decideCorrect(ground, input),
  preview: ({ number }, { serial }) => ({ was: serial.number, number }),
  async write(tx, { number }, { serial, born }, { companyId }) {
    await tx.run('UPDATE serial SET number = ? WHERE company_id = ? AND id = ?', [number, companyId, serial.id]);
    return { made: [], touched: [born] };
  },
});

/** Says which product a used piece is part of. // P6 */
export const putPart = defineAct(contract.putPart, {
  right: 'work',
  says: 'say what parts are in',
  done: 'part put in its product',
  async load(tx, { serialId }, { companyId }) {
    await loadSerial(tx, companyId, serialId);
    const { number, place, work, products } = await openSerial(tx, companyId, serialId);
    return { serial: { number, place }, order: work, work: work?.number ?? '', products };
  },
  decide: (ground, input) => decidePart(ground, input),
  preview: ({ product }) => ({ product }),
  async write(tx, _effects, { order }, { companyId }, { serialId, productId }) {
    await tx.batch([
      { sql: 'DELETE FROM serial_part WHERE company_id = ? AND part_id = ?', values: [companyId, serialId] },
      ...(productId === null
        ? []
        : [
            {
              sql: 'INSERT INTO serial_part (company_id, part_id, product_id) VALUES (?, ?, ?)',
              values: [companyId, serialId, productId],
            },
          ]),
    ]);
    return {
      made: [],
      touched: order ? [{ kind: order.kind satisfies DocumentKind, id: order.id, number: order.number }] : [],
    };
  },
});
