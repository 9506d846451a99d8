import { listAgreements } from '@api/agreements';
import { pickList } from '@api/going-out';
import { runSheet } from '@api/rounds';
import { IdParam } from '@api/kit';
import { checked, type FileAnswer } from '../room';
import { agreementTable } from './agreements';
import type { Sql } from '../db';
import { countLabels, countPaper, itemLabel } from './count-paper';
import { purchaseUbl } from './orders';
import { listFiles } from './list-tables';
import { pickPaper } from './pick-paper';
import type { Unset } from './pdf';
import { runPaper } from './run-paper';
import { keptSlipPaper, slipPaper } from './slip-paper';
import { statementPaper } from './statement-paper';
import { tableFiles } from './spreadsheet';
import { madeFile } from './write-file';

/** Something of ours on paper, by its id. */
function paper(
  path: string,
  what: string,
  make: (sql: Sql, companyId: number, id: number) => Promise<Unset | null>,
): FileAnswer {
  return {
    path,
    what,
    async read({ ctx, parts, who, signal }) {
      const { id } = checked(IdParam, ctx['params'], 'The address');
      const unset = await parts.database.snapshot((sql) => make(sql, who!.companyId, id));
      if (!unset) return null;
      const content = await madeFile({ kind: 'pdf', unset }, { person: who!.personId, signal });
      return { name: `${unset.number}.pdf`, type: 'application/pdf', content, how: 'inline' };
    },
  };
}

/** Lists as CSV and XLSX, a purchase as UBL. */
export const formatFiles: readonly FileAnswer[] = [
  ...tableFiles('agreements', 'see-agreements', ({ parts, who, query }) =>
    parts.database.snapshot((sql) =>
      agreementTable(sql, who.companyId, checked(listAgreements.query, query, 'The address'), who.workDate),
    ),
  ),
  ...listFiles,
  {
    path: '/purchases/:id/ubl',
    what: 'This purchase order',
    async read({ ctx, parts, who }) {
      const { id } = checked(IdParam, ctx['params'], 'The address');
      const file = await purchaseUbl(parts.database, who!.companyId, id);
      return { ...file, type: 'application/xml', how: 'attachment' };
    },
  },
  {
    path: '/going-out/pick-list.pdf',
    what: 'The list to pick by',
    async read({ ctx, parts, who, signal }) {
      const asked = checked(pickList, { ...ctx.query }, 'The address');
      const unset = await parts.database.snapshot((sql) => pickPaper(sql, who!.companyId, who!.workDate, asked));
      const content = await madeFile({ kind: 'pdf', unset }, { person: who!.personId, signal });
      return { name: 'to-pick.pdf', type: 'application/pdf', content, how: 'inline' };
    },
  },
  {
    path: '/rounds/:id/runs/:day/sheet.pdf',
    what: 'This run',
    async read({ ctx, parts, who, signal }) {
      const asked = checked(runSheet.params, ctx['params'], 'The address');
      const unset = await parts.database.snapshot((sql) => runPaper(sql, who!.companyId, who!.workDate, asked));
      const content = await madeFile({ kind: 'pdf', unset }, { person: who!.personId, signal });
      return { name: 'run.pdf', type: 'application/pdf', content, how: 'inline' };
    },
  },
  {
    path: '/commission/statements/:id/statement.pdf',
    what: 'This statement',
    async read({ ctx, parts, who, signal }) {
      const { id } = checked(IdParam, ctx['params'], 'The address');
      const unset = await parts.database.snapshot((sql) => statementPaper(sql, who!, id));
      const content = await madeFile({ kind: 'pdf', unset }, { person: who!.personId, signal });
      return { name: `${unset.number}.pdf`, type: 'application/pdf', content, how: 'inline' };
    },
  },
  paper('/slips/:id/slip.pdf', 'This slip', slipPaper),
  paper('/orders/:id/kept-slip.pdf', 'This order', keptSlipPaper),
  paper('/counts/:id/sheet.pdf', 'This count', countPaper),
  paper('/counts/:id/labels.pdf', 'This count', countLabels),
  paper('/items/:id/label.pdf', 'This item', itemLabel),
];
