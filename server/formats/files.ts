import { listAgreements } from '@api/agreements';
import { IdParam } from '@api/kit';
import { checked, type FileAnswer } from '../room';
import { agreementTable } from './agreements';
import { purchaseUbl } from './orders';
import { tableFiles } from './spreadsheet';

/** Lists as CSV and XLSX, a purchase as UBL. */
export const formatFiles: readonly FileAnswer[] = [
  ...tableFiles('agreements', ({ parts, who, query }) =>
    parts.database.snapshot((sql) =>
      agreementTable(sql, who.companyId, checked(listAgreements.query, query, 'The address'), who.workDate),
    ),
  ),
  {
    path: '/purchases/:id/ubl',
    what: 'This purchase order',
    async read({ ctx, parts, who }) {
      const { id } = checked(IdParam, ctx['params'], 'The address');
      const file = await purchaseUbl(parts.database, who!.companyId, id);
      return { ...file, type: 'application/xml', how: 'attachment' };
    },
  },
];
