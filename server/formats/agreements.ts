import { agreementRows, decideImport, wholeOrGood, type ImportGround } from '@core/formats';
import type { Day } from '@core/kernel';
import * as contract from '@api/formats';
import { defineAct, takeNumbers, type Touched } from '../acts';
import {
  agreementFilter,
  countingUnits,
  headsOf,
  remindersOfAll,
  termLinesOfAll,
  termsOfAll,
  writeTerms,
} from '../agreements';
import type { Sql } from '../db';
import { tableIn } from './read-file';
import type { Table } from './write-table';

/** Most agreements of one file written out. */
const MOST_WRITTEN = 5000;

/** Brings agreements in from a file, all of it or its good lines, each as a draft; in one transaction. // G4 */
export const bringInAgreements = defineAct(contract.bringInAgreements, {
  right: 'agreements',
  says: 'bring agreements in',
  done: 'brought in',
  prepare: (_, input) => tableIn(input.name, Buffer.from(input.content, 'base64')),
  load: async (tx, _input, doer, table) => ({ table, ground: await groundOf(tx, doer.companyId) }),
  decide({ table, ground }, input, doer) {
    if ('code' in table) return { ok: false, refusals: [table] };
    return wholeOrGood(decideImport(ground, table, input.goodOnly, doer.workDate), input);
  },
  preview: ({ drafts: _drafts, ...found }) => found,
  async write(tx, { drafts }, _ground, doer) {
    const number = await takeNumbers(tx, doer.companyId, { AG: drafts.length });
    const made: Touched[] = [];
    for (const draft of drafts) {
      const own = number('AG');
      made.push({ kind: 'AG', id: await writeTerms(tx, draft, null, own, doer), number: own, version: 1 });
    }
    return { made, touched: [] };
  },
});

async function groundOf(sql: Sql, companyId: number): Promise<ImportGround> {
  const parties = async (table: 'customer' | 'vendor') => {
    const organisation = table === 'customer' ? 'sales_organisation_id' : 'NULL';
    const rows = await sql.rows<{
      id: number;
      number: string;
      name: string;
      currency: string;
      organisation: number | null;
    }>(`SELECT id, number, name, currency, ${organisation} AS organisation FROM ${table} WHERE company_id = ?`, [
      companyId,
    ]);
    return new Map(
      rows.map((row) => [
        row.number.toLowerCase(),
        { id: row.id, name: row.name, currency: row.currency, salesOrganisationId: row.organisation },
      ]),
    );
  };
  const items = await sql.rows<{ id: number; number: string; listPrice: string }>(
    'SELECT id, number, list_price FROM item WHERE company_id = ?',
    [companyId],
  );
  const units = await countingUnits(
    sql,
    companyId,
    items.map(({ id }) => id),
  );
  const prices = await sql.rows<{ itemId: number; vendorId: number; unitPrice: string }>(
    'SELECT item_id, vendor_id, unit_price FROM item_vendor WHERE company_id = ?',
    [companyId],
  );
  const groups = await sql.rows<{ id: number; code: string }>('SELECT id, code FROM item_group WHERE company_id = ?', [
    companyId,
  ]);
  return {
    customers: await parties('customer'),
    vendors: await parties('vendor'),
    items: new Map(
      items.map((item) => [
        item.number.toLowerCase(),
        {
          ...item,
          units: units.get(item.id) ?? new Map<string, string>(),
          vendorPrices: new Map(
            prices.filter((price) => price.itemId === item.id).map((price) => [price.vendorId, price.unitPrice]),
          ),
        },
      ]),
    ),
    groups: new Map(groups.map((group) => [group.code.toLowerCase(), group])),
  };
}

/** Agreements that fit a list's filters as rows of a file, in the columns that can be brought in again. */
export async function agreementTable(
  sql: Sql,
  companyId: number,
  query: Parameters<typeof agreementFilter>[1],
  workDate: Day,
): Promise<Table> {
  const { where, values } = agreementFilter(companyId, query, workDate);
  const found = await sql.rows<{ id: number; party: string; partyName: string }>(
    `SELECT a.id, COALESCE(c.number, v.number) AS party, COALESCE(c.name, v.name) AS party_name
       FROM agreement a
       LEFT JOIN customer c ON c.company_id = a.company_id AND c.id = a.customer_id
       LEFT JOIN vendor v ON v.company_id = a.company_id AND v.id = a.vendor_id
      WHERE ${where} ORDER BY a.id DESC LIMIT ?`,
    [...values, MOST_WRITTEN],
  );
  const codes = new Map(
    (
      await sql.rows<{ id: number; code: string; name: string }>(
        'SELECT id, code, name FROM item_group WHERE company_id = ?',
        [companyId],
      )
    ).map((group) => [group.id, group]),
  );
  const names = new Map(
    (await sql.rows<{ id: number; name: string }>('SELECT id, name FROM item WHERE company_id = ?', [companyId])).map(
      (item) => [item.id, item.name],
    ),
  );
  const ids = found.map(({ id }) => id);
  const heads = await headsOf(sql, companyId, ids);
  const [terms, reminders, lines] = [
    await termsOfAll(sql, companyId, [...heads.values()]),
    await remindersOfAll(sql, companyId, ids),
    await termLinesOfAll(sql, companyId, [...heads.values()]),
  ];
  const agreements = found.map(({ id, party, partyName }) => ({
    ...terms.get(id)!,
    reminders: reminders.get(id) ?? [],
    number: heads.get(id)!.number,
    state: heads.get(id)!.state,
    party,
    partyName,
    lines: lines.get(id)!.map((line) => ({
      ...line,
      item: line.groupId === null ? (line.itemId === null ? 'everything' : line.covers) : codes.get(line.groupId)!.code,
      itemName: (line.itemId === null ? codes.get(line.groupId ?? 0)?.name : names.get(line.itemId)) ?? 'all items',
    })),
  }));
  return agreementRows(agreements);
}
