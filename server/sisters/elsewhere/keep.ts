import { decideElsewhere } from '@core/sisters';
import * as contract from '@api/sisters';
import { defineAct, orNotFound } from '../../acts';
import { companyTable } from '../../setup/tables';

/** A company elsewhere has no colour of its own: nobody works in it here. */
const TINT = '#5f6368';

/** Adds a company of another installation, or changes it; its documents stay. // X1 */
export const keepElsewhere = defineAct(contract.keepElsewhere, {
  right: 'lists',
  says: 'say who sister companies are',
  done: 'company elsewhere kept',
  async load(sql, { id, code }) {
    if (id !== null) {
      const [own] = await sql.rows(`SELECT id FROM company WHERE id = ? AND elsewhere = TRUE ${sql.forUpdate}`, [id]);
      orNotFound(own, 'This company');
    }
    const [bearer] = await sql.rows<{ name: string }>('SELECT name FROM company WHERE code = ? AND NOT (id <=> ?)', [
      code.trim(),
      id,
    ]);
    return { bearer: bearer ?? null };
  },
  decide: (ground, input) => decideElsewhere(ground, input),
  preview: ({ name }) => ({ name }),
  async write(tx, { code, name, currency, email }, _ground, _doer, { id }) {
    if (id !== null) {
      await tx.run('UPDATE company SET code = ?, name = ?, currency = ?, email = ? WHERE id = ?', [
        code,
        name,
        currency,
        email,
        id,
      ]);
      return { made: [], touched: [] };
    }
    const [made] = await tx.insert(companyTable, [{ code, name, currency, email, tint: TINT, elsewhere: true }]);
    // What her items are taxed by is known there.
    await tx.run("INSERT INTO tax_code (company_id, code, name, rate) VALUES (?, '-', 'Taxed elsewhere', 0)", [made!]);
    return { made: [], touched: [] };
  },
});
