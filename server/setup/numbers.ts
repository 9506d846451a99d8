import { DOCUMENT_KINDS, type DocumentKind } from '@core/kernel';
import { decideSeries, usualSeries, type Series } from '@core/setup';
import * as contract from '@api/setup';
import type * as z from 'zod';
import { defineAct } from '../acts';
import type { Sql } from '../db';

/** How each kind is numbered, those that were not numbered yet as they would be. */
async function seriesOf(sql: Sql, companyId: number): Promise<Series[]> {
  const rows = await sql.rows<{ kind: DocumentKind; prefix: string; nextSerial: number; firstSerial: number }>(
    `SELECT kind, prefix, next_serial, first_serial FROM number_series WHERE company_id = ? ${sql.forUpdate}`,
    [companyId],
  );
  return DOCUMENT_KINDS.map((kind) => {
    const row = rows.find((each) => each.kind === kind);
    return row ? { kind, prefix: row.prefix, next: row.nextSerial, first: row.firstSerial } : usualSeries(kind);
  });
}

export async function listSeries(sql: Sql, companyId: number): Promise<z.infer<typeof contract.listSeries.out>> {
  const all = await seriesOf(sql, companyId);
  return { rows: all.map(({ first, ...series }) => ({ ...series, begun: series.next !== first })) };
}

/** Says how documents of a kind are numbered from now on. // U2 */
export const keepSeries = defineAct(contract.keepSeries, {
  right: 'upkeep',
  says: 'say how documents are numbered',
  done: 'numbers of documents changed',
  load: async (sql, { kind }, { companyId }) => ({
    all: await seriesOf(sql, companyId),
    opened:
      kind === 'CI'
        ? await sql.rows<{ number: string }>('SELECT number FROM customer_invoice WHERE company_id = ? AND opening', [
            companyId,
          ])
        : [],
  }),
  decide: ({ all, opened }, input) =>
    decideSeries(
      all,
      input,
      opened.map(({ number }) => number),
    ),
  preview: ({ number }) => ({ number }),
  async write(tx, { kind, prefix, next, first }, _ground, { companyId }) {
    await tx.run(
      `INSERT INTO number_series (company_id, kind, prefix, next_serial, first_serial) VALUES (?, ?, ?, ?, ?)
         ON DUPLICATE KEY UPDATE prefix = VALUES(prefix), next_serial = VALUES(next_serial), first_serial = VALUES(first_serial)`,
      [companyId, kind, prefix, next, first],
    );
    return { made: [], touched: [] };
  },
});
