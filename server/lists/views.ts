import type * as z from 'zod';
import { decideDropView, decideKeepView, type KeptView } from '@core/lists';
import * as contract from '@api/lists';
import { defineAct, orNotFound } from '../acts';
import type { Columns, Sql } from '../db';
import { listViewTable, type ListView } from './tables';

type Shown = z.infer<typeof contract.ListView>;
type Kept = Columns<ListView, 'id name personId keptBy query columns'>;

/** Views of a list that a person sees, by name: their own and those for all. */
async function viewsOf(sql: Sql, companyId: number, list: string, personId: number): Promise<Kept[]> {
  return sql.rows<Kept>(
    `SELECT id, name, person_id, kept_by, query, columns FROM list_view FORCE INDEX (list_view_list)
      WHERE company_id = ? AND list = ? AND (person_id = ? OR person_id IS NULL) ORDER BY name, id ${sql.forUpdate}`,
    [companyId, list, personId],
  );
}

const keptOf = ({ id, name, personId, keptBy }: Kept): KeptView => ({ id, name, forAll: personId === null, keptBy });

export async function listViews(
  sql: Sql,
  companyId: number,
  list: string,
  personId: number,
): Promise<{ rows: Shown[] }> {
  const rows = await viewsOf(sql, companyId, list, personId);
  return {
    rows: rows.map((row) => ({
      id: row.id,
      name: row.name,
      forAll: row.personId === null,
      own: row.keptBy === personId,
      query: JSON.parse(row.query) as Shown['query'],
      columns: JSON.parse(row.columns) as Shown['columns'],
    })),
  };
}

/** Keeps what a list shows by name. For all it asks for the right to keep lists. */
export const keepView = defineAct(contract.keepView, {
  right: 'own',
  says: 'keep a view of a list',
  done: 'view kept',
  load: (sql, { list }, doer) => viewsOf(sql, doer.companyId, list, doer.personId),
  decide: (views, input, doer) => decideKeepView(views.map(keptOf), input, doer.personId),
  also: (_effects, _views, { forAll }) => (forAll ? [{ right: 'lists', says: 'keep views of lists for all' }] : []),
  preview: ({ replaces }) => ({ replaces: replaces !== null }),
  async write(tx, { name, replaces }, _views, doer, { list, forAll, query, columns }) {
    if (replaces !== null) {
      await tx.run('DELETE FROM list_view WHERE company_id = ? AND id = ?', [doer.companyId, replaces]);
    }
    await tx.insert(listViewTable, [
      {
        companyId: doer.companyId,
        list,
        name,
        personId: forAll ? null : doer.personId,
        keptBy: doer.personId,
        query: JSON.stringify(query),
        columns: JSON.stringify(columns),
      },
    ]);
    return { made: [], touched: [] };
  },
});

/** Drops a view: one's own, or for who keeps the lists any that is for all. */
export const dropView = defineAct(contract.dropView, {
  right: 'own',
  says: 'drop a view of a list',
  done: 'view dropped',
  async load(sql, { id }, doer) {
    const [view] = await sql.rows<Kept>(
      `SELECT id, name, person_id, kept_by, query, columns FROM list_view
        WHERE company_id = ? AND id = ? AND (person_id = ? OR person_id IS NULL) ${sql.forUpdate}`,
      [doer.companyId, id, doer.personId],
    );
    return keptOf(orNotFound(view, 'This view'));
  },
  decide: (view, _input, doer) => decideDropView(view, doer.personId, doer.rights.includes('lists')),
  preview: ({ name }) => ({ name }),
  async write(tx, { id }, _view, doer) {
    await tx.run('DELETE FROM list_view WHERE company_id = ? AND id = ?', [doer.companyId, id]);
    return { made: [], touched: [] };
  },
});
