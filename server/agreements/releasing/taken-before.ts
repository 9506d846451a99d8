import { decideTakenBefore, type AgreementState } from '@core/agreements';
import * as contract from '@api/agreements';
import { defineAct } from '../../acts';
import type { Columns } from '../../db';
import type { Agreement, AgreementLine } from '../tables';
import { counterStatements } from './counters';

type LineRow = Columns<AgreementLine, 'id unitPrice'> & {
  agreementId: number;
  covers: string;
  quantity: string;
  value: string;
};

/** What was taken of agreements before they came here: on their lines' counters, the agreements locked. // U3 A4 */
export const tellTakenBefore = defineAct(contract.tellTakenBefore, {
  right: 'agreements',
  says: 'tell what was taken of agreements',
  done: 'taken before told',
  async load(tx, { lines }, { companyId }) {
    const agreements = await tx.rows<Columns<Agreement, 'id number currency'> & { state: AgreementState }>(
      `SELECT id, number, state, currency FROM agreement FORCE INDEX (agreement_number)
        WHERE company_id = ? AND number IN (?) ORDER BY id ${tx.forUpdate}`,
      [companyId, [...new Set(lines.map(({ agreement }) => agreement.trim()))]],
    );
    const known = await tx.rows<LineRow>(
      `SELECT l.id, l.agreement_id, COALESCE(i.number, g.code, '') AS covers, IF(l.price_kind = 'fixed', l.unit_price, NULL) AS unit_price,
              COALESCE(t.quantity, 0) AS quantity, COALESCE(t.value, 0) AS value
         FROM agreement_line l
         LEFT JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id
         LEFT JOIN item_group g ON g.company_id = l.company_id AND g.id = l.item_group_id
         LEFT JOIN taken_before t ON t.company_id = l.company_id AND t.agreement_line_id = l.id
        WHERE l.company_id = ? AND l.agreement_id IN (?) ORDER BY l.id ${tx.forUpdate}`,
      [companyId, agreements.map(({ id }) => id)],
    );
    const named = (text: string) => text.trim().toLowerCase();
    return {
      lines: lines.map((told) => {
        const agreement = agreements.find(({ number }) => named(number) === named(told.agreement)) ?? null;
        const of = known.filter(({ agreementId }) => agreementId === agreement?.id);
        const about = named(told.item) === '' ? of : of.filter(({ covers }) => named(covers) === named(told.item));
        const [line] = about.length === 1 ? about : [];
        return {
          agreement,
          line: line
            ? { id: line.id, unitPrice: line.unitPrice, taken: { quantity: line.quantity, value: line.value } }
            : null,
        };
      }),
      agreements,
    };
  },
  decide: (ground, input) => decideTakenBefore(ground, input),
  preview: ({ lines, same }) => ({ lines: lines.length, same }),
  async write(tx, { lines }, { agreements }, { companyId, workDate }) {
    const more = lines.map((line) => ({ agreementLineId: line.lineId, ...line.more }));
    await tx.batch([
      ...(['released', 'shipped', 'invoiced'] as const).flatMap((counter) =>
        counterStatements(companyId, counter, more),
      ),
      ...lines.map((line) => ({
        sql: `INSERT INTO taken_before (company_id, agreement_line_id, quantity, value, told_on) VALUES (?, ?, ?, ?, ?)
                ON DUPLICATE KEY UPDATE quantity = VALUES(quantity), value = VALUES(value), told_on = VALUES(told_on)`,
        values: [companyId, line.lineId, line.quantity, line.value, workDate],
      })),
    ]);
    const changed = new Set(lines.map(({ agreementId }) => agreementId));
    const touched = agreements.filter(({ id }) => changed.has(id));
    await tx.batch(
      touched.map(({ id }) => ({
        sql: 'UPDATE agreement SET version = version + 1 WHERE company_id = ? AND id = ?',
        values: [companyId, id],
      })),
    );
    return { made: [], touched: touched.map(({ id, number }) => ({ kind: 'AG' as const, id, number })) };
  },
});
