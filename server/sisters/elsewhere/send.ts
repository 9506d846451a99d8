import type * as z from 'zod';
import { decideSending } from '@core/sisters';
import * as contract from '@api/sisters';
import { defineAct, orNotFound } from '../../acts';
import type { Sql } from '../../db';
import { messageTable } from '../../mail/tables';
import { SOURCE_KIND } from '../sources';
import { exchangeFile, fileName, type Due } from './document';

/** What is still to be sent told at most. */
const MOST_DUE = 200;
/** What was sent last told at most. */
const MOST_SENT = 50;

/** A due row `x` with its offer; an order of hers that was taken as a draft is answered once it is confirmed. */
const dueBy = (
  hint: string,
) => `SELECT f.id, f.kind, f.source_id, f.number, f.revision, f.gone, f.company_id = x.company_id AS returned, f.reason,
       c.id AS sister_id, c.code, c.name, c.currency, c.email, x.sent_on
  FROM elsewhere_due x ${hint} JOIN offer f ON f.id = x.offer_id
  JOIN company c ON c.id = IF(f.company_id = x.company_id, f.from_id, f.company_id)
 WHERE x.company_id = ?
   AND NOT (f.kind = 'purchase' AND f.from_id = x.company_id AND EXISTS (
     SELECT 1 FROM sales_order o WHERE o.company_id = f.from_id AND o.id = f.source_id AND o.state = 'draft'))`;

/** What of ours is still to be sent to companies elsewhere, oldest first, or was sent last. Served by elsewhere_due_company. // X2 */
export async function listDue(
  sql: Sql,
  companyId: number,
  { show }: z.output<typeof contract.listDue.query>,
): Promise<z.infer<typeof contract.listDue.out>> {
  const rows = await sql.rows<Due>(
    `${dueBy('FORCE INDEX (elsewhere_due_company)')} AND x.waits = ? ORDER BY x.offer_id ${show === 'sent' ? 'DESC' : ''} LIMIT ?`,
    [companyId, show === 'sent' ? 0 : 1, show === 'sent' ? MOST_SENT : MOST_DUE],
  );
  return {
    rows: rows.map(({ id, kind, sourceId, number, revision, gone, returned, reason, email, sentOn, ...sister }) => ({
      id,
      kind,
      number,
      revision,
      gone,
      returned: Boolean(returned),
      reason: returned ? reason : '',
      sister: {
        id: sister.sisterId,
        code: sister.code,
        name: sister.name,
        currency: sister.currency,
        elsewhere: true,
      },
      email,
      sentOn,
      document: returned ? null : { kind: SOURCE_KIND[kind], id: sourceId, number },
    })),
  };
}

/** Says that a document goes to a company elsewhere: by mail, or in a file that somebody takes there; again, where it got lost. // X2 */
export const sendExchange = defineAct(contract.sendExchange, {
  right: 'send',
  says: 'send documents',
  done: 'sent elsewhere',
  async load(sql, { id }, { companyId }) {
    const [due] = await sql.rows<Due>(`${dueBy('')} AND x.offer_id = ? ${sql.forUpdate}`, [companyId, id]);
    return orNotFound(due, 'This document');
  },
  decide: (due, input) => decideSending({ ...due, returned: Boolean(due.returned) }, input),
  preview: (_effects, due) => ({ recipient: due.email, attachment: fileName(due) }),
  async write(tx, _effects, due, { companyId, personId, workDate }, { how }) {
    if (how === 'mail') {
      const file = await exchangeFile(tx, companyId, due.id);
      await tx.insert(messageTable, [
        {
          companyId,
          sentOn: workDate,
          personId,
          recipient: due.email,
          subject: `${due.number}${due.revision > 0 ? `, revision ${due.revision}` : ''}${due.gone ? ', cancelled' : ''}`,
          body: `To be brought in under Tray: ${file.name} (UBL 2.1).`,
          party: due.name,
          documentKind: SOURCE_KIND[due.kind],
          documentId: due.sourceId,
          documentNumber: due.number,
          attachmentName: file.name.slice(0, 80),
          attachment: file.content,
        },
      ]);
    }
    await tx.run('UPDATE elsewhere_due SET sent_on = ? WHERE offer_id = ?', [workDate, due.id]);
    return {
      made: [],
      touched: due.returned ? [] : [{ kind: SOURCE_KIND[due.kind], id: due.sourceId, number: due.number }],
    };
  },
});
