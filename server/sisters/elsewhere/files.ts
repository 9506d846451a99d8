import { IdParam } from '@api/kit';
import { checked, type FileAnswer } from '../../room';
import { exchangeFile } from './send';

/** What goes to companies elsewhere, as files. */
export const exchangeFiles: readonly FileAnswer[] = [
  {
    path: '/exchange/:id/ubl',
    needs: 'send',
    what: 'This document',
    async read({ ctx, parts, who }) {
      const { id } = checked(IdParam, ctx['params'], 'The address');
      const file = await parts.database.snapshot((sql) => exchangeFile(sql, who!.companyId, id));
      return { ...file, type: 'application/xml', how: 'attachment' };
    },
  },
];
